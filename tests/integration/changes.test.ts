import pg from 'pg';
import { changesAreTold, closeChanges, eventStream, hearChanges } from '@/server/changes';
import { settings } from '@/server/env';
import { deleteCard } from '@/server/services/cards/deletion';
import { saveCard } from '@/server/services/cards/edit-card';
import { cardVersions, openCard } from '@/server/services/cards/open-card';
import { createRecord } from '@/server/services/records/create-record';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { clockAt, newActor, useDatabase } from './place';

useDatabase();
const clock = clockAt('2026-11-24T09:00:00Z');
afterAll(closeChanges);

const LATE_MS = 2_000;
/** Whether a change is told within two seconds. */
async function isTold(changes: ReturnType<typeof hearChanges>): Promise<boolean> {
  const began = performance.now();
  await changes.next(LATE_MS);
  return performance.now() - began < LATE_MS - 50;
}
const told = async () => {
  while (!changesAreTold()) await new Promise((resume) => setTimeout(resume, 20));
};

test('a save by anybody is told to those who have the card or its record open, and to nobody else', async () => {
  const [actor, other] = [await newActor(clock), await newActor(clock)];
  const [mine, theirs] = [
    await createRecord(actor, { name: 'Ilse Varrow', phone: '', email: '' }, clock),
    await createRecord(other, { name: 'Kest Aldercott', phone: '', email: '' }, clock),
  ];
  const [onCard, onRecord, onOther] = [mine.cardId, mine.recordId, theirs.cardId].map((id) => hearChanges([id!]));
  await told();
  // Each looks once by itself, and once more when the connection stands.
  for (const changes of [onCard!, onRecord!, onOther!]) await changes.next(0).then(() => changes.next(0));

  const { version, ...card } = await openCard(actor, mine.cardId);
  await saveCard(actor, mine.cardId, { baseVersion: version, ...card, audience: 'Fair' }, clock);
  expect([await isTold(onCard!), await isTold(onOther!)]).toEqual([true, false]);
  const record = await openRecord(actor, mine.recordId);
  await saveRecord(actor, mine.recordId, record.version, record.body, clock);
  expect(await isTold(onRecord!)).toBe(true);
  await deleteCard(actor, mine.cardId, clock);
  expect([await isTold(onCard!), await isTold(onOther!)]).toEqual([true, false]);
  for (const changes of [onCard!, onRecord!, onOther!]) changes.stop();
});

test('what is told on the channel is an id and nothing else', async () => {
  const client = new pg.Client({ connectionString: settings().DATABASE_URL });
  await client.connect();
  const payloads: string[] = [];
  client.on('notification', ({ payload }) => payloads.push(payload ?? ''));
  await client.query('LISTEN heathland_changes');
  const actor = await newActor(clock);
  const { cardId } = await createRecord(actor, { name: 'Ilse Varrow', phone: '', email: '' }, clock);
  const { version, ...card } = await openCard(actor, cardId);
  await saveCard(actor, cardId, { baseVersion: version, ...card, audience: 'Fair' }, clock);
  await client.query('SELECT 1');
  await client.end();
  expect(payloads).toContain(cardId);
  for (const payload of payloads) expect(payload).toMatch(/^[0-9a-f-]{36}$/);
});

test('a stream goes on through a lost connection of the database, tells the end, and lets go', async () => {
  const actor = await newActor(clock);
  const { cardId, recordId } = await createRecord(actor, { name: 'Ilse Varrow', phone: '', email: '' }, clock);
  const look = () =>
    cardVersions(actor, cardId).then(
      ({ version }) => ({ version }),
      () => ({ version: 0 }),
    );
  const gone = new AbortController();
  const stream = eventStream(
    new Request('http://127.0.0.1/', { signal: gone.signal }),
    actor.userId,
    await look(),
    // Without being told it would look too late for this test.
    { of: [cardId, recordId], look, everyMs: 60_000, ends: ({ version }) => version === 0 },
  );
  const reader = stream.body!.pipeThrough(new TextDecoderStream()).getReader();
  const next = async () => (await reader.read()).value;
  const save = async (audience: string) => {
    const { version, ...card } = await openCard(actor, cardId);
    await saveCard(actor, cardId, { baseVersion: version, ...card, audience }, clock);
  };
  expect(await next()).toBe('data: {"version":1}\n\n');
  await told();
  await save('Fair');
  expect(await next()).toBe('data: {"version":2}\n\n');

  const owner = new pg.Client({ connectionString: settings().DATABASE_URL });
  await owner.connect();
  const ended = await owner.query(
    `SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = current_database() AND query LIKE 'LISTEN%'`,
  );
  await owner.end();
  // One connection of a process, however many streams it has.
  expect(ended.rowCount).toBe(1);
  await save('Suppliers');
  expect(await next()).toBe('data: {"version":3}\n\n');
  await told();
  await deleteCard(actor, cardId, clock);
  expect(await next()).toBe('data: {"version":0}\n\n');
  expect(await next()).toBeUndefined();
});
