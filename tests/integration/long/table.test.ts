import blns from 'big-list-of-naughty-strings';
import ICAL from 'ical.js';
import { lineOf, LinesSchema, NOWHERE, type Line } from '@/core/card';
import { RecordSchema, type Detail } from '@/core/record';
import { createAnswerer } from '@/recipient';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { adoptWording } from '@/server/services/cards/adopt-wording';
import { setState } from '@/server/services/cards/card-state';
import { createCard } from '@/server/services/cards/create-card';
import { createRecord } from '@/server/services/records/create-record';
import { saveCard } from '@/server/services/cards/edit-card';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { makeHandOut } from '@/server/services/hand-outs/make';
import { loadPublished, publishedVersion } from '@/server/services/publishing/load-published';
import { cardNow, openCard } from '@/server/services/cards/open-card';
import { loadPreview, makePreview } from '@/server/services/publishing/preview-card';
import { publishCard } from '@/server/services/publishing/publish-card';
import { cardsBehind, publishSeveral } from '@/server/services/publishing/publish-several';
import { recordEvent } from '@/server/intake/record-event';
import { visitorHash } from '@/server/intake/visitor-hash';
import { clockAt, newActor, useDatabase } from '../place';

useDatabase();
const clock = clockAt('2026-11-24T09:00:00Z');
const answer = createAnswerer({
  clock,
  load: loadPublished,
  preview: (secret) => loadPreview(secret, clock),
  version: publishedVersion,
  visitor: visitorHash,
  record: recordEvent,
});
const ask = (path: string) =>
  answer({
    method: 'GET',
    path,
    query: new URLSearchParams(),
    header: () => 'Mozilla/5.0 Safari',
    address: '192.0.2.9',
    body: '',
  });
const refused = (code: string) => ({ problem: { code } });
const typed = (actor: Actor, name: string) => createRecord(actor, { name, phone: '020 7946 0182', email: '' }, clock);
const lineWith = (id: string, text: string): Line => {
  const own: Detail = { kind: 'own', id, label: '', preferred: false, text };
  return lineOf(id, { ...NOWHERE, page: true, file: true }, own);
};

test.each([
  ['without a family name', 'Odile'],
  ['of four names and more', 'Maria de la Luz van der Berg Ortega y Vael'],
  ['right to left', 'ليلى بنت يوسف'],
  ['of combining marks', 'Z\u0351\u036b\u0343a\u0302\u0304lgo Va\u0308rrow'],
])('a name %s is published as it was typed, and FN says it (RFC 6350 6.2.1)', async (_, name) => {
  const actor = await newActor(clock);
  const { cardId } = await typed(actor, name);
  const address = `name-${name.length}`;
  await publishCard(actor, cardId, { baseVersion: 1, address }, clock);
  const file = String((await ask(`/c/${address}.vcf`)).body);
  const properties = (ICAL.parse(file) as unknown as [string, [string, object, string, unknown][]])[1];
  expect(properties.find(([property]) => property === 'fn')?.[3]).toBe(name.normalize('NFC'));
});

test('five hundred lines are kept, in order; more than a card holds is refused', async () => {
  const actor = await newActor(clock);
  const { cardId } = await typed(actor, 'Ilse Varrow');
  const { lines, version } = await openCard(actor, cardId);
  const many = [...lines, ...Array.from({ length: 500 }, (_, at) => lineWith(`o${at}`, `Line ${at}`))];
  await saveCard(actor, cardId, { baseVersion: version, lines: many, audience: 'All' }, clock);
  expect((await cardNow(actor, cardId)).lines.map(({ detail }) => detail)).toEqual(many.map(({ detail }) => detail));
  await publishCard(actor, cardId, { baseVersion: version + 1, address: 'five-hundred' }, clock);
  expect(String((await ask('/c/five-hundred')).body)).toContain('<dd>Line 499</dd>');
  // A script address, or a detail in the place of the name, is no line whoever sends it.
  const link = { kind: 'link', id: 'bad', url: 'javascript:alert(1)' };
  const name = { kind: 'own', id: 'name', text: 'Somebody else' };
  for (const own of [link, name])
    expect(LinesSchema.safeParse([{ ...lineOf(own.id, NOWHERE), own }]).success).toBe(false);
  const more = Array.from({ length: 801 }, (_, at) => lineWith(`o${at}`, 'x'));
  expect(LinesSchema.safeParse(more).success).toBe(false);
});

test('naughty strings as lines of the card’s own, notices and audiences are kept or refused in our own words', async () => {
  const actor = await newActor(clock);
  const { recordId, cardId } = await typed(actor, 'Ilse Varrow');
  await publishCard(actor, cardId, { baseVersion: 1, address: 'naughty-own' }, clock);
  for (const text of [...blns.filter((_, at) => at % 12 === 0), 'x'.repeat(10_000), '   ', '\u202Egpj.exe']) {
    const known = await cardNow(actor, cardId);
    const lines = [...known.lines.filter(({ own }) => !own), lineWith('own', text.slice(0, 1_000))];
    await saveCard(actor, cardId, { baseVersion: known.version, lines, audience: 'All' }, clock);
    await setState(actor, cardId, { state: 'resting', notice: text, instead: null }, clock);
    const shown = String((await ask('/c/naughty-own')).body);
    expect(shown).not.toMatch(/<(script|img|svg|iframe)/i);
    await setState(actor, cardId, { state: 'published', notice: '', instead: null }, clock);
    await createCard(actor, { recordId, audience: text.slice(0, 80), isPrivate: false }, clock).catch(
      (error: { problem?: object }) => expect(error.problem).toBeDefined(),
    );
  }
});

test('a preview shows the draft of the moment, counts nothing, and ends after its day', async () => {
  const actor = await newActor(clock);
  const { recordId, cardId } = await typed(actor, 'Corin Hathersage');
  const { url } = await makePreview(actor, cardId, clock);
  const path = new URL(url).pathname;
  expect(String((await ask(path)).body)).toContain('+44 20 7946 0182');
  const { body, version } = await openRecord(actor, recordId);
  const phone = { ...body.details[0]!, number: '+442079460183' } as Detail;
  await saveRecord(actor, recordId, version, { ...body, details: [phone] }, clock);
  const now = await ask(path);
  expect(String(now.body)).toContain('+44 20 7946 0183');
  expect([now.headers['Heathland-Event'], now.headers['Cache-Control']]).toEqual(['none', 'no-store']);
  const { rows } = await inTenant(actor.organisationId, (tx) =>
    tx.raw<{ rows: { count: string }[] }>('SELECT count(*) FROM events'),
  );
  expect(rows[0]!.count).toBe('0');
  const other = clockAt('2026-11-25T09:00:01Z');
  await expect(loadPreview(path.slice(3), other)).rejects.toMatchObject(refused('PREVIEW_EXPIRED'));
  // A newer one ends the one before.
  await makePreview(actor, cardId, clock);
  expect((await ask(path)).status).toBe(404);
});

test('a deleted record takes its card along: whoever still has it open is told, nothing is written', async () => {
  const actor = await newActor(clock);
  const { recordId, cardId } = await typed(actor, 'Ilse Varrow');
  const { lines, version } = await openCard(actor, cardId);
  await inTenant(actor.organisationId, (tx) => tx('records').where({ id: recordId }).delete());
  const late = saveCard(actor, cardId, { baseVersion: version, lines, audience: 'All' }, clock);
  await expect(late).rejects.toMatchObject(refused('NOT_FOUND'));
  await expect(cardNow(actor, cardId)).rejects.toMatchObject(refused('NOT_FOUND'));
});

test('what is adopted reaches the record and the other card, which is behind until all are published at once or none', async () => {
  const actor = await newActor(clock);
  const { recordId, cardId } = await typed(actor, 'Ilse Varrow');
  const fair = (
    await createCard(actor, { recordId, audience: 'Fair', isPrivate: false, from: { card: cardId } }, clock)
  ).cardId;
  await publishCard(actor, cardId, { baseVersion: 1, address: 'ilse-one' }, clock);
  await publishCard(actor, fair, { baseVersion: 1, address: 'ilse-two' }, clock);
  const { lines } = await openCard(actor, cardId);
  const worded = lines.map((line) => (line.detail === 'd1' ? { ...line, wording: '020 7946 0190' } : line));
  await saveCard(actor, cardId, { baseVersion: 1, lines: worded, audience: 'Work' }, clock);
  await adoptWording(actor, cardId, { baseVersion: 2, line: 'd1' }, clock);
  expect((await openRecord(actor, recordId)).body.details[0]).toMatchObject({ number: '+442079460190' });
  expect((await openCard(actor, cardId)).lines.find(({ detail }) => detail === 'd1')!.wording).toBeNull();
  const { cards: behind, recordVersion } = await cardsBehind(actor, recordId);
  expect(behind.map(({ audience, changes }) => [audience, changes.map(({ what }) => what)])).toEqual([
    ['Work', ['has changed']],
    ['Fair', ['has changed']],
  ]);
  const chosen = behind.map(({ id, version }) => ({ id, version }));
  const publish = (cards: typeof chosen, seen = recordVersion) =>
    publishSeveral(actor, recordId, { cards, recordVersion: seen }, clock);
  const stale = publish([chosen[0]!, { ...chosen[1]!, version: 99 }]);
  await expect(stale).rejects.toMatchObject(refused('CARD_CHANGED'));
  await expect(publish(chosen, recordVersion - 1)).rejects.toMatchObject(refused('RECORD_CHANGED'));
  expect((await cardsBehind(actor, recordId)).cards).toHaveLength(2);
  await publish(chosen);
  expect((await cardsBehind(actor, recordId)).cards).toEqual([]);
});

test('a hundred cards of a person, each of its own audience; beyond the limit is refused; a copy loses what is private', async () => {
  const actor = await newActor(clock);
  const { recordId, cardId } = await typed(actor, 'Odile Brandreth');
  const { body, version } = await openRecord(actor, recordId);
  const home = { kind: 'phone', id: 'home', number: '+447700900300', uses: ['mobile', 'home'] };
  const next = RecordSchema.parse({ ...body, details: [...body.details, home] });
  await saveRecord(actor, recordId, version, next, clock);
  const make = (audience: string, isPrivate: boolean, from: string | null) =>
    createCard(actor, { recordId, audience, isPrivate, from: from ? { card: from } : null }, clock);
  const own = await make('Neighbours', true, null);
  const copied = await make('Clients', false, own.cardId);
  const ticked = async (id: string) =>
    (await openCard(actor, id)).lines.find(({ detail }) => detail === 'home')!.ticks.file;
  expect([await ticked(own.cardId), await ticked(copied.cardId)]).toEqual([true, false]);
  for (let at = 3; at < 100; at += 1) await make(`Audience ${at}`, false, null);
  expect((await openRecord(actor, recordId)).cards).toHaveLength(100);
  await inTenant(actor.organisationId, (tx) =>
    tx.raw(
      `INSERT INTO cards (id, organisation_id, record_id, audience, lines) SELECT gen_random_uuid(), organisation_id, record_id, audience, lines FROM cards WHERE id <> ?`,
      [cardId],
    ),
  );
  await make('The last', false, null);
  await expect(make('One more', false, null)).rejects.toMatchObject(refused('TOO_MANY_CARDS'));
});

test('a frozen code says what was ticked for it and no more; what does not fit is refused with its figures', async () => {
  const actor = await newActor(clock);
  const { cardId } = await typed(actor, 'Ilse Varrow');
  await publishCard(actor, cardId, { baseVersion: 1, address: 'ilse-frozen' }, clock);
  const { id } = await makeHandOut(actor, { cardId, placement: 'badge', channel: 'code', frozen: true }, clock);
  const [row] = await inTenant(actor.organisationId, (tx) => tx('hand_outs').where({ id }));
  const contact = Buffer.from(String(row.frozen), 'base64').toString('utf8');
  const names = (ICAL.parse(contact) as unknown as [string, [string][]])[1].map(([name]) => name);
  // The link leads to the living card, so that a stale copy still does.
  expect(names.sort()).toEqual(['fn', 'n', 'tel', 'url', 'version']);
  expect((await openCard(actor, cardId)).channels).toEqual(['page', 'file', 'code']);
  // A number unticked since publishing does not leave in a new copy.
  const known = await openCard(actor, cardId);
  const unticked = known.lines.map((line) => (line.detail === 'd1' ? { ...line, ticks: NOWHERE } : line));
  await saveCard(actor, cardId, { baseVersion: 1, lines: unticked, audience: 'Work' }, clock);
  const late = makeHandOut(actor, { cardId, placement: 'late', channel: 'code', frozen: true }, clock);
  await expect(late).rejects.toMatchObject(refused('PROOF_FAILED'));
  await saveCard(actor, cardId, { baseVersion: 2, lines: known.lines, audience: 'Work' }, clock);
  const { lines } = await openCard(actor, cardId);
  const long = {
    ...lineWith('long', 'y'.repeat(1_000)),
    ticks: {
      page: true,
      file: true,
      code: true,
      tag: true,
      signature: false,
      print: false,
      backdrop: false,
      pass: false,
    },
  };
  await saveCard(actor, cardId, { baseVersion: 3, lines: [...lines, long], audience: 'Work' }, clock);
  await publishCard(actor, cardId, { baseVersion: 4, address: 'ilse-frozen' }, clock);
  const tag = makeHandOut(actor, { cardId, placement: 'tag', channel: 'tag', frozen: true }, clock);
  await expect(tag).rejects.toMatchObject({ problem: { code: 'TAG_TOO_SMALL', room: 872 } });
});
