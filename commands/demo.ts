import { rmSync } from 'node:fs';
import path from 'node:path';
import { migrationSource } from '../migrations';
import { startApplication } from './application';
import { isFree } from './cluster/ports';
import { ownTray, trayFolder, type OwnTray } from './mail';
import { HOME, localSecret, openDatabase, takeLock } from './place';
import { buildPrograms } from './release/bundles';
import { builtRelease } from './release/make';
import { say, Stop } from './stop';

/** Starts the demo, or with `dev` the same while rebuilding; stays until it is told to end. */
export async function run(args: string[], dev = false): Promise<number> {
  const fresh = args.includes('--fresh');
  const unknown = args.find((word) => word !== '--fresh');
  if (unknown) throw new Stop(`“${unknown}” is not known here; the only option is --fresh.`);
  const port = Number(process.env.PORT ?? 4600);
  if (!Number.isInteger(port) || port < 1 || port > 65_535)
    throw new Stop(`PORT=${process.env.PORT} is not a port; use a number from 1 to 65535.`);
  const address = `http://127.0.0.1:${port}`;
  const release = takeLock('start', `Heathland at ${address}`);
  let finish: (() => Promise<void>) | undefined;
  const told = new Promise<void>((resolve) => {
    process.once('SIGINT', resolve);
    process.once('SIGTERM', resolve);
  });
  try {
    if (!(await isFree(port)))
      throw new Stop(`Port ${port} is in use by another program. Choose another: PORT=${port + 1} ./heathland demo`);
    say(process.env.DATABASE_URL ? 'Using the database of DATABASE_URL …' : 'Starting the private database …');
    const { url, cluster } = await openDatabase('heathland', fresh);
    finish = async () => cluster?.stop();
    const environment = {
      DATABASE_URL: url,
      SESSION_SECRET: localSecret(),
      BASE_URL: process.env.BASE_URL ?? address,
      PUBLIC_URL: process.env.PUBLIC_URL ?? address,
      PORT: String(port),
      FILES_DIR: path.join(HOME, 'files'),
      LOG_LEVEL: process.env.LOG_LEVEL ?? 'warn',
      SIGN_UP: process.env.SIGN_UP ?? 'open',
      TAG_BENCH: 'on',
      ...(process.env.MAIL_SERVER ? {} : await demoTray(fresh)),
    };
    // The people of the demo sign up whoever else may, and no letters greet them.
    Object.assign(process.env, environment, { SIGN_UP: 'open', MAIL_SERVER: '' });
    const building = dev ? Promise.resolve() : builtRelease();
    building.catch(() => undefined);
    await prepareData(url, environment.SESSION_SECRET, fresh);
    await building;
    say('Starting the application …');
    const application = await startApplication(environment, { dev });
    finish = async () => {
      say('\nStopping …');
      await application.stop();
      await cluster?.stop();
    };
    const { DEMO_SIGN_INS } = await import('../demo/load');
    say(`\nHeathland answers at ${address}\n\nSign in as`);
    for (const { email, password, who } of DEMO_SIGN_INS) say(`  ${email.padEnd(26)} ${password.padEnd(18)} ${who}`);
    say(`\nA card as its recipients see it: ${address}/c/odile-clients\nCtrl-C stops everything and keeps the data.`);
    const code = await Promise.race([told.then(() => 0), application.ended]);
    if (code !== 0) say('The application ended by itself.');
    return code;
  } finally {
    await finish?.();
    release();
  }
}

/** The demo's tray, where no mail server is given. */
async function demoTray(fresh: boolean): Promise<OwnTray['environment']> {
  // A folder that somebody named is theirs to clear.
  if (fresh && !process.env.MAIL_TRAY) rmSync(trayFolder(), { recursive: true, force: true });
  return (await ownTray(trayFolder())).environment;
}

async function prepareData(url: string, secret: string, fresh: boolean): Promise<void> {
  const { migrate, migrateDown } = await import('../src/server/db/schema/migrate');
  if (fresh && process.env.DATABASE_URL === url) await migrateDown(url, migrationSource).catch(() => undefined);
  if (fresh) rmSync(path.join(HOME, 'files'), { recursive: true, force: true });
  const applied = await migrate(url, secret, migrationSource);
  if (applied.length > 0) say(`Migrated the database: ${applied.join(', ')}`);
  const { userExists } = await import('../src/server/services/accounts/user-exists');
  const { usePrograms } = await import('../src/server/env');
  const { closeCompute } = await import('../src/server/compute');
  const { DEMO_SIGN_INS, loadDemo } = await import('../demo/load');
  if (!(await userExists(DEMO_SIGN_INS.at(-1)!.email))) {
    say('Loading the demo data …');
    usePrograms(await buildPrograms());
    await loadDemo(say);
    closeCompute();
  }
  const { closeDb } = await import('../src/server/db/pool');
  const { closeEventWriters } = await import('../src/server/db/response/events');
  await Promise.all([closeDb(), closeEventWriters()]);
}
