import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { copyDatabase, dropDatabase } from '../../commands/cluster/databases';
import { migrationSource } from '../../migrations';
import { closeEventWriters } from '@/server/db/response/events';
import { closeCompute } from '@/server/compute';
import { migrate } from '@/server/db/schema/migrate';
import { closeDb } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { actorOf } from '@/server/services/accounts/sessions';
import { signUp } from '@/server/services/accounts/sign-up';

const server = process.env.TEST_DATABASE_SERVER;
if (!server) throw new Error('These tests need a database server of their own: run ./heathland test jest');

/** A database for this worker, a copy of the migrated template. Settings are read when first needed, so this is early enough. */
export const DATABASE = `heathland_w${process.env.JEST_WORKER_ID}`;
export const databaseUrl = server.replace(/\/[^/]*$/, `/${DATABASE}`);
Object.assign(process.env, {
  DATABASE_URL: databaseUrl,
  SESSION_SECRET: process.env.TEST_SECRET,
  BASE_URL: 'http://studio.example',
  PUBLIC_URL: 'http://cards.example',
  FILES_DIR: mkdtempSync(path.join(tmpdir(), 'heathland-files-')),
  LOG_LEVEL: 'silent',
});

/** Makes this worker's database before the tests of a file, and drops it after them. */
export function useDatabase(): void {
  beforeAll(async () => {
    await copyDatabase(server!, DATABASE, process.env.TEST_TEMPLATE!);
    await migrate(databaseUrl, process.env.TEST_SECRET!, migrationSource);
  });
  afterAll(async () => {
    closeCompute();
    await Promise.all([closeDb(), closeEventWriters()]);
    await dropDatabase(server!, DATABASE);
  });
}

/** A clock that stands where it is set. */
export const clockAt = (instant: string): Clock & { set: (instant: string) => void } => {
  let now = Date.parse(instant);
  return { now: () => now, set: (next) => (now = Date.parse(next)) };
};

let accounts = 0;

/** A signed-in person with an organisation of their own. */
export async function newActor(clock: Clock): Promise<Actor> {
  accounts += 1;
  const token = await signUp(
    {
      name: `Person ${accounts}`,
      email: `person-${accounts}@heath.example`,
      password: 'long enough a password',
      country: 'GB',
      timeZone: 'Europe/London',
    },
    clock,
  );
  return (await actorOf(token, clock))!;
}
