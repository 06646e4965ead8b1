import { randomUUID } from 'node:crypto';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { copyDatabase, dropDatabase } from '../../commands/cluster/databases';
import { migrationSource } from '../../migrations';
import { deviceOf } from '@/core/access';
import { insertOrganisation, insertUser } from '@/server/db/accounts/accounts';
import { closeEventWriters } from '@/server/db/response/events';
import { closeCompute } from '@/server/compute';
import { migrate } from '@/server/db/schema/migrate';
import { closeDb, inTenant } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { hashOf } from '@/server/services/accounts/passwords';
import { actorOf, beginSession } from '@/server/services/accounts/sessions';

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

/** A signed-in person with an organisation of their own, as signing up makes them; their password is not judged, which takes a second of a process. */
export async function newActor(clock: Clock): Promise<Actor> {
  accounts += 1;
  const [id, name] = [randomUUID(), `Person ${accounts}`];
  const user = {
    ...{
      id: randomUUID(),
      organisation_id: id,
      email: `person-${accounts}@heath.example`,
      name,
      role: 'owner' as const,
    },
    ...{ password_hash: await hashOf('long enough a password'), own_record: null, must_change_password: false },
    provisional: false,
  };
  await inTenant(id, async (tx) => {
    await insertOrganisation(tx, { id, name, country: 'GB', time_zone: 'Europe/London' });
    await insertUser(tx, user);
    await recordAudit(tx, { organisationId: id, userId: user.id }, 'account.made', { kind: 'organisation', id }, clock);
  });
  return (await actorOf(await beginSession(user, deviceOf(''), clock), clock))!;
}
