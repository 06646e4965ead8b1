import { randomUUID } from 'node:crypto';
import { asOwner } from '../../commands/cluster/databases';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { createRecord } from '@/server/services/records/create-record';
import { listFaults } from '@/server/services/jobs/faults';
import { runDuePlans, planCard } from '@/server/services/publishing/plans';
import { signUp } from '@/server/services/accounts/sign-up';
import { sweep, SWEEPS, type Sweep } from '@/server/services/jobs/sweeps';
import { beginSession } from '@/server/services/accounts/sessions';
import { clockAt, databaseUrl, newActor, useDatabase } from './place';

useDatabase();
const clock = clockAt('2026-11-24T09:00:00Z');
const owner = <T extends object>(text: string, values: unknown[] = []) =>
  asOwner(databaseUrl, async (client) => (await client.query<T>(text, values)).rows);

const planned = async (actor: Actor, address: string) => {
  const { cardId } = await createRecord(actor, { name: 'Ilse Varrow', phone: '020 7946 0182', email: '' }, clock);
  const plan = { publishAt: '2026-11-24T10:00:00Z', address, note: '', endsAt: null, endsWith: null };
  await planCard(actor, cardId, plan, clock);
  return cardId;
};
const stateOf = (actor: Actor, cardId: string) =>
  inTenant(actor.organisationId, async (tx) => (await tx('cards').where({ id: cardId }).first('state')).state);

/** One view of a card of theirs, sorted. */
const viewed = async ({ organisationId, ...actor }: Actor, at: string) => {
  const { cardId } = await createRecord({ organisationId, ...actor }, { name: 'Seen', phone: '', email: '' }, clock);
  await owner('INSERT INTO events (organisation_id, card_id, kind, occurred_at) VALUES ($1, $2, $3, $4)', [
    organisationId,
    cardId,
    'view',
    at,
  ]);
};

type Case = {
  /** Puts a row at fault where the sweep meets it first. */
  spoil: (bad: Actor) => Promise<unknown>;
  /** What the sweep does for somebody whose rows are in order. */
  good: (actor: Actor) => Promise<() => Promise<boolean>>;
  /** Where its owner sees it; not all rows belong to somebody. */
  told: boolean;
};

/** A bad row for every sweep there is; null where the types of its columns leave no row that could be at fault. */
const CASES: Record<Sweep, Case | null> = {
  'visitor secrets': {
    spoil: (bad) =>
      owner(`UPDATE organisations SET time_zone = 'Mars/Olympus' WHERE id = $1`, [bad.organisationId]).catch(
        async () => {
          await owner('ALTER TABLE organisations DROP CONSTRAINT organisations_time_zone_known');
          await owner(`UPDATE organisations SET time_zone = 'Mars/Olympus' WHERE id = $1`, [bad.organisationId]);
          await owner(`INSERT INTO visitor_secrets VALUES ($1, '2020-01-01', '\\x00'), ($1, current_date, '\\x00')`, [
            bad.organisationId,
          ]);
        },
      ),
    good: async ({ organisationId }) => {
      await owner(`INSERT INTO visitor_secrets VALUES ($1, '2020-01-01', '\\x00')`, [organisationId]);
      return async () => (await owner('SELECT FROM visitor_secrets WHERE day < $1', ['2021-01-01'])).length === 0;
    },
    told: true,
  },
  'event inbox': {
    spoil: () =>
      owner(`INSERT INTO event_inbox (id, events, received_at) VALUES ($1, '[{"organisation":"x"}]', '2020-01-01')`, [
        randomUUID(),
      ]),
    good: async ({ organisationId }) => {
      const card = randomUUID();
      const event = { organisation: organisationId, card, handOut: null, kind: 'view', line: null, visitor: null };
      await owner('INSERT INTO event_inbox (id, events) VALUES ($1, $2)', [
        randomUUID(),
        JSON.stringify([{ ...event, at: Date.now() }]),
      ]);
      return async () => (await owner('SELECT FROM events WHERE card_id = $1', [card])).length === 1;
    },
    told: false,
  },
  plans: {
    spoil: async (bad) => {
      const cardId = await planned(bad, 'spoilt-plan');
      await owner(`UPDATE records SET body = '{"name": 7}' WHERE organisation_id = $1`, [bad.organisationId]);
      await owner(`UPDATE plans SET publish_at = '2026-11-24T09:30:00Z' WHERE card_id = $1`, [cardId]);
    },
    good: async (actor) => {
      const cardId = await planned(actor, 'good-plan');
      return async () => (await stateOf(actor, cardId)) === 'published';
    },
    told: true,
  },
  leavers: {
    spoil: async (bad) => {
      await createRecord(bad, { name: 'Held', phone: '', email: '' }, clock);
      await owner(`UPDATE records SET leaves_on = '2020-01-01', body = '{"name": 7}' WHERE organisation_id = $1`, [
        bad.organisationId,
      ]);
    },
    good: async (actor) => {
      const { recordId } = await createRecord(actor, { name: 'Left', phone: '', email: '' }, clock);
      await owner(`UPDATE records SET leaves_on = '2020-01-02' WHERE id = $1`, [recordId]);
      return async () =>
        (await owner('SELECT FROM records WHERE id = $1 AND left_on IS NOT NULL', [recordId])).length === 1;
    },
    told: true,
  },
  files: {
    spoil: async (bad) => {
      await owner(
        `INSERT INTO pictures (organisation_id, hash, width, height, page_hash, file_hash, created_at) VALUES ($1, $2, 1, 1, $2, $2, '2020-01-01')`,
        [bad.organisationId, 'a'.repeat(64)],
      );
      // A row that cannot be taken away.
      await owner(
        `CREATE FUNCTION hold_picture() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN IF OLD.organisation_id = '${bad.organisationId}' THEN RAISE EXCEPTION 'held'; END IF; RETURN OLD; END $$`,
      );
      await owner('CREATE TRIGGER hold BEFORE DELETE ON pictures FOR EACH ROW EXECUTE FUNCTION hold_picture()');
    },
    good: async ({ organisationId }) => {
      await owner(
        `INSERT INTO pictures (organisation_id, hash, width, height, page_hash, file_hash, created_at) VALUES ($1, $2, 1, 1, $2, $2, '2020-01-01')`,
        [organisationId, 'b'.repeat(64)],
      );
      return async () =>
        (await owner('SELECT FROM pictures WHERE organisation_id = $1', [organisationId])).length === 0;
    },
    told: true,
  },
  deleted: {
    spoil: async (bad) => {
      await createRecord(bad, { name: 'Held', phone: '', email: '' }, clock);
      await owner(
        `CREATE FUNCTION hold_record() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN IF OLD.organisation_id = '${bad.organisationId}' THEN RAISE EXCEPTION 'held'; END IF; RETURN OLD; END $$`,
      );
      await owner('CREATE TRIGGER hold BEFORE DELETE ON records FOR EACH ROW EXECUTE FUNCTION hold_record()');
      await owner(`UPDATE records SET deleted_at = '2020-01-01' WHERE organisation_id = $1`, [bad.organisationId]);
    },
    good: async (actor) => {
      const { recordId } = await createRecord(actor, { name: 'Gone', phone: '', email: '' }, clock);
      await owner(`UPDATE records SET deleted_at = '2020-01-01' WHERE id = $1`, [recordId]);
      return async () => (await owner('SELECT FROM records WHERE id = $1', [recordId])).length === 0;
    },
    told: true,
  },
  figures: {
    spoil: async (bad) => {
      await owner('ALTER TABLE organisations DROP CONSTRAINT IF EXISTS organisations_time_zone_known');
      await owner(`UPDATE organisations SET time_zone = 'Mars/Olympus' WHERE id = $1`, [bad.organisationId]);
      await viewed(bad, '2026-11-20T10:00:00Z');
    },
    good: async (actor) => {
      await viewed(actor, '2026-11-20T10:00:00Z');
      return async () =>
        (
          await owner('SELECT FROM response_days WHERE organisation_id = $1 AND NOT due AND views = 1', [
            actor.organisationId,
          ])
        ).length === 1;
    },
    told: true,
  },
  rates: null,
  sessions: null,
  previews: null,
  jobs: null,
  mail: null,
  rosters: null,
  'mailed codes': null,
  leads: null,
  // Where mail leaves: in invitations.test.ts.
  invitations: null,
  // In leads.test.ts.
  evening: null,
};

test.each(Object.keys(SWEEPS) as Sweep[])('a bad row costs the sweep of %s only itself, and is told', async (name) => {
  const one = CASES[name];
  if (!one)
    return expect([
      'rates',
      'sessions',
      'previews',
      'jobs',
      'mail',
      'rosters',
      'mailed codes',
      'leads',
      'invitations',
      'evening',
    ]).toContain(name);
  clock.set('2026-11-24T09:00:00Z');
  const [bad, well] = [await newActor(clock), await newActor(clock)];
  await one.spoil(bad);
  const isDone = await one.good(well);
  clock.set('2026-11-24T10:00:01Z');
  await sweep([name], clock);
  expect(await isDone()).toBe(true);
  expect(await listFaults(well)).toEqual([]);
  if (one.told) expect(await listFaults(bad)).toMatchObject([{ sweep: name, count: 1 }]);
});

test('a plan at fault is tried again later each time, and its fault is gone once it works', async () => {
  clock.set('2026-11-24T09:00:00Z');
  const bad = await newActor(clock);
  const cardId = await planned(bad, 'healed-plan');
  const body = await inTenant(bad.organisationId, async (tx) => (await tx('records').first('body')).body as object);
  await owner(`UPDATE records SET body = '{"name": 7}' WHERE organisation_id = $1`, [bad.organisationId]);
  clock.set('2026-11-24T10:00:01Z');
  expect([await runDuePlans(clock), await runDuePlans(clock)]).toEqual([0, 0]);
  expect(await listFaults(bad)).toMatchObject([{ sweep: 'plans', count: 1 }]);
  await owner('UPDATE records SET body = $2 WHERE organisation_id = $1', [bad.organisationId, JSON.stringify(body)]);
  clock.set('2026-11-24T10:01:02Z');
  expect(await runDuePlans(clock)).toBe(1);
  expect([await stateOf(bad, cardId), await listFaults(bad)]).toEqual(['published', []]);
});

test('ended sessions, previews and counts go, and what holds stays', async () => {
  clock.set('2026-11-24T09:00:00Z');
  const actor = await newActor(clock);
  await beginSession({ id: actor.userId, organisation_id: actor.organisationId }, 'computer', clock);
  const count = async () => (await owner('SELECT FROM sessions WHERE user_id = $1', [actor.userId])).length;
  const before = await count();
  await sweep(['sessions', 'previews', 'rates'], clock);
  expect(await count()).toBe(before);
  clock.set('2027-11-24T09:00:00Z');
  await sweep(['sessions', 'previews', 'rates'], clock);
  expect(await count()).toBe(0);
});

test('jobs that ended ninety days ago go; those that ended later, and those that never did, stay', async () => {
  clock.set('2026-11-24T09:00:00Z');
  const { organisationId, userId } = await newActor(clock);
  for (const [state, at] of [
    ['done', '2026-08-25'],
    ['failed', '2026-08-25'],
    ['cancelled', '2026-08-25'],
    ['done', '2026-08-27'],
    ['running', '2020-01-01'],
    ['waiting', '2020-01-01'],
  ])
    await owner(
      `INSERT INTO jobs (id, organisation_id, user_id, task, input, state, created_at, updated_at) VALUES ($1, $2, $3, 'import', '{}', $4, $5, $5)`,
      [randomUUID(), organisationId, userId, state, at],
    );
  await sweep(['jobs'], clock);
  const left = await owner<{ state: string }>('SELECT state FROM jobs WHERE organisation_id = $1 ORDER BY state', [
    organisationId,
  ]);
  expect(left.map(({ state }) => state)).toEqual(['done', 'running', 'waiting']);
});

test('a time zone that this program knows and PostgreSQL does not is refused at sign-up', async () => {
  const account = { name: 'A', email: 'zone@heath.example', password: 'long enough a password', country: 'GB' };
  for (const timeZone of ['Mars/Olympus', '', '+01:00'])
    await expect(signUp({ ...account, timeZone }, clock)).rejects.toMatchObject({
      problem: { code: 'TIME_ZONE_UNKNOWN' },
    });
});
