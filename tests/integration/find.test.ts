import { RecordSchema } from '@/core/record';
import { inTenant, outsideTenants } from '@/server/db/pool';
import { hashedMark } from '@/server/db/cards/records';
import { deletePerson, bringBackPerson } from '@/server/services/cards/deletion';
import { find } from '@/server/services/cards/find';
import { makeHandOut } from '@/server/services/hand-outs/make';
import { importContact } from '@/server/services/imports/import-contact';
import { knowPeople } from '@/server/services/imports/know-people';
import { publishCard } from '@/server/services/publishing/publish-card';
import { createRecord } from '@/server/services/records/create-record';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { listPeople, listPeopleIds } from '@/server/services/records/list-people';
import { clockAt, newActor, useDatabase } from './place';

// Functions that look as the database's owner are held to what row-level security would have let through.
useDatabase();
const clock = clockAt('2026-11-24T09:00:00Z');
const NAMES = [
  'Kest Aldercott',
  'Kester Øvrebø',
  '100% Wool',
  'under_score',
  "O'Hara \\ Sons",
  'ÉLODIE MÉRIC',
  'e\u0301lan',
];
const TYPED = [
  'kest',
  'KEST ald',
  '%',
  '_',
  '\\',
  "'",
  'é',
  'élodie',
  'øv',
  'work',
  '100%',
  'a e',
  'kest nobody',
  'ﬁ',
  '$1',
];
const NO_NAME = { prefix: '', given: '', additional: '', family: '', suffix: '', written: '' };
const folded = (text: string) => text.normalize('NFKC').toLowerCase();

test('what is found is what a plain look at every name would find, of the own organisation alone', async () => {
  const [actor, other] = [await newActor(clock), await newActor(clock)];
  for (const who of [actor, other])
    for (const name of NAMES)
      await createRecord(who, { name, title: 'Rigger', firm: 'Wool', phone: '', email: '' }, clock);
  const people = await inTenant(actor.organisationId, (tx) =>
    tx('records').orderBy('written_name').select('id', 'written_name'),
  );
  for (const typed of TYPED) {
    const words = folded(typed).split(/\s+/);
    const expected = people
      .filter(({ written_name }) => words.every((word) => folded(`${written_name} Rigger Wool`).includes(word)))
      .map(({ id }) => `/people/${id}`);
    const found = (await find(actor, typed)).filter(({ kind }) => kind === 'person').map(({ href }) => href);
    expect([typed, [...found].sort()]).toEqual([typed, expected.sort()]);
    const ids = await listPeopleIds(actor, typed);
    expect(expected.every((href) => ids.includes(href.slice('/people/'.length)))).toBe(true);
    expect(ids.every((id) => people.some((person) => person.id === id))).toBe(true);
  }
});

test('without a tenant the functions that look as the owner see nothing', async () => {
  const actor = await newActor(clock);
  await createRecord(actor, { name: 'Kest Aldercott', phone: '', email: 'kest@heath.example' }, clock);
  for (const statement of [
    `SELECT * FROM find_by_words(ARRAY['kest'], NULL, 10)`,
    `SELECT * FROM find_people(ARRAY['kest'])`,
    `SELECT * FROM records_marked(ARRAY['${hashedMark('mail kest@heath.example')}'])`,
    'SELECT * FROM response_days',
  ])
    expect((await outsideTenants((db) => db.raw<{ rows: object[] }>(statement))).rows).toEqual([]);
  for (const statement of ['SELECT * FROM findable', 'SELECT * FROM findable_rows'])
    await expect(inTenant(actor.organisationId, (tx) => tx.raw(statement))).rejects.toMatchObject({ code: '42501' });
});

test('what is found follows names, audiences, addresses and placements, and what is deleted is not found until it is back', async () => {
  const actor = await newActor(clock);
  const { recordId, cardId } = await createRecord(
    actor,
    { name: 'Renske Aukes', phone: '020 7946 0182', email: '' },
    clock,
  );
  const hrefs = async (typed: string) => (await find(actor, typed)).map(({ href }) => href);
  const { version } = (await inTenant(actor.organisationId, (tx) =>
    tx('cards').where({ id: cardId }).first('version'),
  )) as {
    version: number;
  };
  await publishCard(actor, cardId, { baseVersion: version, address: 'renske-at-heath' }, clock);
  await makeHandOut(actor, { cardId, placement: 'Helmet desk', channel: 'code' }, clock);
  expect(await hrefs('renske-at')).toEqual([`/cards/${cardId}`]);
  expect(await hrefs('helmet')).toEqual([`/cards/${cardId}/hand-outs`]);
  const { version: baseVersion, body } = await openRecord(actor, recordId);
  await saveRecord(
    actor,
    recordId,
    baseVersion,
    { ...body, name: { ...NO_NAME, given: 'Bram', family: 'Aukes' } },
    clock,
  );
  expect(await hrefs('renske')).toEqual([`/cards/${cardId}`]);
  // The first code came with publishing.
  const outs = `/cards/${cardId}/hand-outs`;
  expect(await hrefs('bram')).toEqual([`/people/${recordId}`, `/cards/${cardId}`, outs, outs]);
  await deletePerson(actor, recordId, clock);
  expect([await hrefs('bram'), await hrefs('helmet')]).toEqual([[], []]);
  await bringBackPerson(actor, recordId, clock);
  expect(await hrefs('helmet')).toEqual([`/cards/${cardId}/hand-outs`]);
});

test('a long list comes in pages that miss nobody and repeat nobody, also while somebody is added', async () => {
  const actor = await newActor(clock);
  await inTenant(actor.organisationId, (tx) =>
    tx.raw(
      `INSERT INTO records (id, organisation_id, written_name, body)
       SELECT gen_random_uuid(), ?, 'Somebody ' || (n % 50), '{"name":{},"details":[],"kept":[]}' FROM generate_series(1, 250) n`,
      [actor.organisationId],
    ),
  );
  const seen: string[] = [];
  for (let after: string | null = null, pages = 0; pages < 6; pages += 1) {
    const page = await listPeople(actor, { after }, clock);
    seen.push(...page.people.map(({ id }) => id));
    if (pages === 0) await createRecord(actor, { name: 'Aaron First', phone: '', email: '' }, clock);
    expect(page.matching).toBe(pages === 0 ? 250 : 251);
    after = page.next;
    if (after === null) break;
  }
  expect([seen.length, new Set(seen).size]).toEqual([250, 250]);
  expect(await listPeople(actor, {}, clock)).toMatchObject({ matching: 251, cards: 1 });
  await expect(listPeople(actor, { after: 'nonsense' }, clock)).rejects.toMatchObject({ problem: { code: 'INPUT' } });
});

test('somebody is known again by mail, number and UID, also from before that was written down', async () => {
  const actor = await newActor(clock);
  const name = { ...NO_NAME, given: 'Keld' };
  const mail = RecordSchema.parse({
    name,
    details: [{ kind: 'email', id: 'd1', label: '', preferred: false, address: 'keld@heath.example', uses: [] }],
    kept: [],
  });
  const body = { ...mail, uid: 'urn:x:1' };
  const contact = { record: body, photo: null, tooLarge: [] };
  const { recordId, cardId } = await importContact(actor, contact, clock);
  const stranger = { name, details: [], kept: [] };
  const known = () =>
    inTenant(actor.organisationId, (tx) =>
      knowPeople(tx, [
        mail,
        { ...stranger, uid: 'URN:X:1' },
        { ...stranger, uid: `urn:uuid:${cardId}` },
        { ...stranger, uid: `urn:uuid:${recordId}` },
        stranger,
      ]),
    );
  const all = [recordId, recordId, recordId, recordId, null];
  expect(await known()).toEqual(all);
  await inTenant(actor.organisationId, (tx) => tx('records').update({ marks: null }));
  expect(await known()).toEqual(all);
  const other = await newActor(clock);
  expect(await inTenant(other.organisationId, (tx) => knowPeople(tx, [body]))).toEqual([null]);
});
