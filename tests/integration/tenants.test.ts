import { randomUUID } from 'node:crypto';
import knex, { type Knex } from 'knex';
import { migrationSource } from '../../migrations';
import { asOwner } from '../../commands/cluster/databases';
import { applicationRole, fingerprintOf, settings } from '@/server/env';
import { UnknownSecret } from '@/server/db/schema/cannot-start';
import { forgetSecret, migrate, migrateDown } from '@/server/db/schema/migrate';
import { inTenant, outsideTenants } from '@/server/db/pool';
import { createRecord } from '@/server/services/records/create-record';
import { createCard } from '@/server/services/cards/create-card';
import { saveCard } from '@/server/services/cards/edit-card';
import { openCard } from '@/server/services/cards/open-card';
import { addPhoto } from '@/server/services/media/add-picture';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { PLAIN_STYLE } from '@/core/qr';
import { codeAsFile, openCode, restyle, testCode } from '@/server/services/hand-outs/codes';
import { makeHandOut } from '@/server/services/hand-outs/make';
import { readPicture } from '@/server/services/media/pictures';
import { publishCard } from '@/server/services/publishing/publish-card';
import { readResponse } from '@/server/services/response/read-response';
import sharp from 'sharp';
import { clockAt, databaseUrl, newActor, useDatabase } from './place';

useDatabase();
const clock = clockAt('2026-11-24T09:00:00Z');

/** The short list of tables outside the tenants, by the architecture; every other one needs a policy. */
const OUTSIDE = [
  'rate_counts',
  'event_inbox',
  'event_rejects',
  'job_workers',
  'known_secrets',
  'pass_authority',
  'knex_migrations',
  'knex_migrations_lock',
];

test('every table outside the short list has row-level security and a policy', async () => {
  const { rows } = await outsideTenants((db) =>
    db.raw<{ rows: { name: string; secured: boolean; policies: string }[] }>(
      `SELECT c.relname AS name, c.relrowsecurity AS secured, (SELECT count(*) FROM pg_policy p WHERE p.polrelid = c.oid) AS policies
       FROM pg_class c WHERE c.relkind IN ('r', 'p') AND c.relnamespace = 'public'::regnamespace`,
    ),
  );
  expect(rows.length).toBeGreaterThan(OUTSIDE.length);
  const open = rows.filter(({ secured, policies }) => !secured || Number(policies) === 0).map(({ name }) => name);
  expect(open.sort()).toEqual([...OUTSIDE].sort());
});

test('the role that the application runs as owns nothing and cannot bypass', async () => {
  const { rows } = await outsideTenants((db) =>
    db.raw<{ rows: { me: string; bypass: boolean; super: boolean; owns: string }[] }>(
      `SELECT current_user AS me, rolbypassrls AS bypass, rolsuper AS super, (SELECT count(*) FROM pg_class WHERE relowner = r.oid) AS owns FROM pg_roles r WHERE rolname = current_user`,
    ),
  );
  const { name } = applicationRole(databaseUrl, settings().SESSION_SECRET);
  expect(rows[0]).toEqual({ me: name, bypass: false, super: false, owns: '0' });
});

test('without a tenant nothing is seen, and an empty setting is no tenant', async () => {
  const actor = await newActor(clock);
  await createRecord(actor, { name: 'Ilse Varrow', phone: '', email: '' }, clock);
  await outsideTenants(async (db: Knex) => {
    for (const table of ['records', 'cards', 'organisations', 'events', 'visitor_secrets'])
      expect(await db(table)).toEqual([]);
  });
  await inTenant(actor.organisationId, async (tx) => expect(await tx('records')).toHaveLength(1));
});

test('every service refuses the ids of another organisation as if there were nothing', async () => {
  const owner = await newActor(clock);
  const stranger = await newActor(clock);
  const { recordId, cardId } = await createRecord(
    owner,
    { name: 'Ilse Varrow', phone: '020 7946 0182', email: '' },
    clock,
  );
  const photo = await addPhoto(
    owner,
    await sharp({ create: { width: 40, height: 40, channels: 3, background: '#555' } })
      .png()
      .toBuffer(),
    clock,
  );
  await publishCard(owner, cardId, { baseVersion: 1, address: 'ilse-tenants' }, clock);
  const card = await openCard(owner, cardId);
  const handOut = card.handOuts[0]!.id;
  const body = (await openRecord(owner, recordId)).body;
  const withTheirs = {
    ...body,
    details: [
      ...body.details,
      { kind: 'photo' as const, id: 'p', label: '', preferred: false, picture: photo.picture },
    ],
  };
  const attempts: Record<string, () => Promise<unknown>> = {
    openRecord: () => openRecord(stranger, recordId),
    saveRecord: () => saveRecord(stranger, recordId, 1, body, clock),
    openCard: () => openCard(stranger, cardId),
    saveCard: () => saveCard(stranger, cardId, { baseVersion: 1, lines: card.lines, audience: 'x' }, clock),
    createCard: () => createCard(stranger, { recordId, audience: 'x', isPrivate: false }, clock),
    publishCard: () => publishCard(stranger, cardId, { baseVersion: 1, address: 'stolen-card' }, clock),
    makeHandOut: () => makeHandOut(stranger, { cardId, placement: 'x' }, clock),
    codeAsFile: () => codeAsFile(stranger, handOut, { format: 'svg', widthMm: 25, dpi: 300, spot: null }, clock),
    openCode: () => openCode(stranger, handOut, clock),
    restyle: () => restyle(stranger, handOut, { style: PLAIN_STYLE, all: false }, clock),
    testCode: () => testCode(stranger, handOut, clock),
    readResponse: () => readResponse(stranger, { cardId, days: 7 }, clock),
    readPicture: () => readPicture(stranger, photo.picture),
    'somebody else’s picture': async () => {
      const own = await createRecord(stranger, { name: 'Own', phone: '', email: '' }, clock);
      return saveRecord(stranger, own.recordId, 1, withTheirs, clock);
    },
  };
  for (const [name, attempt] of Object.entries(attempts)) {
    await expect(attempt().then(() => `${name} let them`)).rejects.toMatchObject({ problem: { code: 'NOT_FOUND' } });
  }
  expect((await openCard(owner, cardId)).version).toBe(1);
});

test('a row cannot be planted in another organisation', async () => {
  const [owner, stranger] = [await newActor(clock), await newActor(clock)];
  const plant = inTenant(stranger.organisationId, (tx) =>
    tx('records').insert({ id: randomUUID(), organisation_id: owner.organisationId, written_name: 'x', body: '{}' }),
  );
  await expect(plant).rejects.toMatchObject({ code: '42501' }); // PostgreSQL: insufficient_privilege
});

test('revisions, codes and addresses cannot be changed or removed by the application', async () => {
  for (const statement of [
    'UPDATE revisions SET number = 9',
    'DELETE FROM directory_codes',
    'DELETE FROM directory_addresses',
    'SELECT * FROM event_inbox',
    'DELETE FROM event_inbox',
    'INSERT INTO events SELECT * FROM events',
    'UPDATE events SET kind = kind',
    'DELETE FROM events',
    'DELETE FROM hand_outs',
  ]) {
    await expect(outsideTenants((db) => db.raw(statement))).rejects.toMatchObject({ code: '42501' });
  }
});

test('a secret that the database does not know starts nothing and locks nobody out; with the one of before it gets a login of its own', async () => {
  const { SESSION_SECRET } = settings();
  const next = 'another secret of the tests, also no secret';
  const works = (secret: string) =>
    asOwner(applicationRole(databaseUrl, secret).url, (client) => client.query('SELECT 1'));
  await expect(migrate(databaseUrl, next, migrationSource)).rejects.toBeInstanceOf(UnknownSecret);
  await works(SESSION_SECRET);
  await expect(works(next)).rejects.toMatchObject({ code: '28P01' }); // PostgreSQL: invalid_password
  await migrate(databaseUrl, next, migrationSource, SESSION_SECRET);
  await Promise.all([works(SESSION_SECRET), works(next)]);
  // Now it is known by itself, until it is forgotten; the last one never is.
  await migrate(databaseUrl, next, migrationSource);
  expect(await forgetSecret(databaseUrl, fingerprintOf(next))).toBe(true);
  await expect(works(next)).rejects.toMatchObject({ code: '28P01' });
  await expect(migrate(databaseUrl, next, migrationSource)).rejects.toBeInstanceOf(UnknownSecret);
  expect(await forgetSecret(databaseUrl, fingerprintOf(SESSION_SECRET))).toBe(false);
});

test('migrations run down to nothing and up again to the same tables', async () => {
  const owner = knex({ client: 'pg', connection: databaseUrl, pool: { min: 0, max: 1 } });
  const columns = async (): Promise<unknown> =>
    (
      await owner.raw(
        `SELECT table_name, column_name, data_type, is_nullable FROM information_schema.columns WHERE table_schema = 'public' ORDER BY 1, 2`,
      )
    ).rows;
  const before = await columns();
  await migrateDown(databaseUrl, migrationSource);
  const left = await owner.raw(
    `SELECT relname FROM pg_class WHERE relkind = 'r' AND relnamespace = 'public'::regnamespace AND relname NOT LIKE 'knex%'`,
  );
  expect(left.rows).toEqual([]);
  await migrate(databaseUrl, settings().SESSION_SECRET, migrationSource);
  expect(await columns()).toEqual(before);
  await owner.destroy();
});
