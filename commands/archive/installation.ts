import path from 'node:path';
import { HOME, IS_RELEASE, localSecret, openDatabase } from '../place';
import { say } from '../stop';

/**
 * Work on the installation of the settings, or without DATABASE_URL on that of this checkout's demo, whose database is
 * started if need be and stopped again if it was not running.
 */
export async function withInstallation(
  work: (databaseUrl: string, secret: string) => Promise<number>,
): Promise<number> {
  if (!process.env.DATABASE_URL && !IS_RELEASE) say('Using the private database of this checkout …');
  const { url, cluster } = await openDatabase('heathland', false);
  const secret = process.env.SESSION_SECRET ?? localSecret();
  // What the file store needs of the settings; addresses play no part here.
  Object.assign(process.env, {
    DATABASE_URL: url,
    SESSION_SECRET: secret,
    BASE_URL: process.env.BASE_URL ?? 'http://127.0.0.1',
    PUBLIC_URL: process.env.PUBLIC_URL ?? 'http://127.0.0.1',
    FILES_DIR: process.env.FILES_DIR ?? path.join(HOME, 'files'),
  });
  try {
    return await work(url, secret);
  } finally {
    if (cluster && !cluster.wasRunning) await cluster.stop();
  }
}
