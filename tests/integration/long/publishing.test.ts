import ICAL from 'ical.js';
import type { Block, Draft } from '@/core/card';
import { restoredDraft } from '@/core/revisions';
import type { Detail } from '@/core/record';
import { asOwner } from '../../../commands/cluster/databases';
import { allowPrefix } from '../../../commands/prefix';
import { askPrefix } from '@/server/services/publishing/address-prefix';
import { createCard } from '@/server/services/cards/create-card';
import { createRecord } from '@/server/services/records/create-record';
import { settings } from '@/server/env';
import { saveCard } from '@/server/services/cards/edit-card';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { openCard } from '@/server/services/cards/open-card';
import { runDuePlans, planCard } from '@/server/services/publishing/plans';
import { publishCard } from '@/server/services/publishing/publish-card';
import { listRevisions, openRevision } from '@/server/services/publishing/revisions';
import { databaseUrl, newActor, useDatabase } from '../place';

import { ask, clock, fullCard, pageAt, picture, refused } from '../full-card';

useDatabase();

test('two who publish at once make two revisions; they are listed with their notes, compared and restored, erased pictures named', async () => {
  const actor = await newActor(clock);
  const { cardId, version, blocks } = await fullCard(actor);
  const input = { baseVersion: version, address: 'revisions' };
  const both = await Promise.all([
    publishCard(actor, cardId, { ...input, note: 'First' }, clock),
    publishCard(actor, cardId, { ...input, note: 'Second' }, clock),
  ]);
  expect(both.map(({ revision }) => revision).sort()).toEqual([1, 2]);
  expect((await listRevisions(actor, cardId)).map(({ number, who }) => [number, who])).toEqual([
    [2, actor.name],
    [1, actor.name],
  ]);

  // The record and the card go on; the revision still knows what it said.
  const opened = await openCard(actor, cardId);
  const record = opened.record;
  const { version: recordVersion } = await openRecord(actor, opened.recordId);
  const details = record.details.flatMap((detail): Detail[] =>
    detail.id === 'o1' ? [] : detail.id === 't' ? [{ ...detail, text: 'Chief of ropes' } as Detail] : [detail],
  );
  await saveRecord(actor, opened.recordId, recordVersion, { ...record, details }, clock);
  const gallery = blocks.find((block) => block.kind === 'gallery') as Extract<Block, { kind: 'gallery' }>;
  const erased = gallery.items[3]!.picture!.hash;
  await saveCard(actor, cardId, { baseVersion: version, lines: opened.lines, audience: 'Fair', blocks: [] }, clock);
  await asOwner(databaseUrl, (client) => client.query('DELETE FROM pictures WHERE hash = $1', [erased]));

  const revision = await openRevision(actor, cardId, 1);
  expect(revision.erased).toEqual([erased]);
  const now = await openCard(actor, cardId);
  const { draft, lost } = restoredDraft(
    { ...revision, draft: revision.draft! },
    { draft: now as Draft, record: now.record, country: 'GB' },
  );
  expect(lost).toEqual(['Picture 3']);
  expect(draft.lines.find(({ detail }) => detail === 't')).toMatchObject({ wording: 'Rope inspector' });
  expect(draft.lines.find(({ detail }) => detail === 'o1')?.own).toMatchObject({ text: 'Line 1' });
  const saved = await saveCard(actor, cardId, { baseVersion: now.version, ...draft }, clock);
  await publishCard(actor, cardId, { baseVersion: saved.version, address: 'revisions' }, clock);
  const html = await pageAt('/c/revisions');
  for (const text of ['Rope inspector', 'Line 1<', 'Picture 3', 'Picture 4']) expect(html).toContain(text);
});

test('a card goes out at its time and ends at its time; what cannot be is refused or told', async () => {
  const actor = await newActor(clock);
  const { cardId } = await createRecord(actor, { name: 'Odile Brandreth', phone: '020 7946 0182', email: '' }, clock);
  const plan = (publishAt: string | null, endsAt: string | null = null) =>
    planCard(
      actor,
      cardId,
      { publishAt, address: 'planned', note: '', endsAt, endsWith: endsAt ? 'resting' : null },
      clock,
    );
  await expect(plan('2026-11-24T08:59:00Z')).rejects.toMatchObject(refused('PLAN_IN_THE_PAST'));
  await expect(plan('2026-11-25T09:00:00Z', '2026-11-25T08:00:00Z')).rejects.toMatchObject(refused('PLAN_ENDS_BEFORE'));
  await expect(plan(null, '2026-11-25T08:00:00Z')).rejects.toMatchObject(refused('CARD_NOT_OUT'));
  await plan('2026-11-25T09:00:00Z', '2026-11-26T09:00:00Z');
  expect(await runDuePlans(clock)).toBe(0);
  expect((await ask('/c/planned')).status).toBe(404);
  clock.set('2026-11-25T09:00:01Z');
  // Two processes at once: one revision.
  const carried = await Promise.all([runDuePlans(clock), runDuePlans(clock)]);
  expect(carried.reduce((sum, each) => sum + each)).toBe(1);
  expect(await listRevisions(actor, cardId)).toHaveLength(1);
  expect((await ask('/c/planned')).status).toBe(200);
  // The end holds from its instant, before anything has carried it out.
  clock.set('2026-11-26T09:00:00Z');
  expect((await ask('/c/planned')).status).toBe(410);
  expect(await runDuePlans(clock)).toBe(1);
  expect((await openCard(actor, cardId)).state).toBe('resting');
  // A plan that fails says why and is not tried for ever.
  const taken = await newActor(clock);
  const other = await createRecord(taken, { name: 'Keld', phone: '020 7946 0182', email: '' }, clock);
  await planCard(
    taken,
    other.cardId,
    { publishAt: '2026-11-27T09:00:00Z', address: 'planned', note: '', endsAt: null, endsWith: null },
    clock,
  );
  clock.set('2026-11-27T09:00:00Z');
  expect([await runDuePlans(clock), await runDuePlans(clock)]).toEqual([0, 0]);
  expect((await openCard(taken, other.cardId)).plan?.problem).toEqual({ code: 'ADDRESS_TAKEN' });
  clock.set('2026-11-24T09:00:00Z');
});

test('what goes out is what was shown: versions that moved are refused, a plan keeps what it was made of', async () => {
  const actor = await newActor(clock);
  const { cardId, recordId } = await createRecord(
    actor,
    { name: 'Odile Brandreth', phone: '020 7946 0182', email: '' },
    clock,
  );
  const looked = await openCard(actor, cardId);
  const seen = { version: looked.version, recordVersion: looked.recordVersion };
  const ends = { at: '2026-11-28T09:00:00Z', with: 'resting' as const };
  const plan = (of: typeof seen) =>
    planCard(
      actor,
      cardId,
      { seen: of, publishAt: '2026-11-25T09:00:00Z', address: 'as-shown', note: '', endsAt: null, endsWith: null },
      clock,
    );
  const publish = (of: typeof seen) =>
    publishCard(
      actor,
      cardId,
      { baseVersion: of.version, recordVersion: of.recordVersion, address: 'as-shown', ends },
      clock,
    );
  // Somebody else changes the number after it was looked at.
  const changed = { ...looked.record, details: looked.record.details.map((each) => ({ ...each })) };
  Object.assign(changed.details[0]!, { number: '+442079460183' });
  await saveRecord(actor, recordId, seen.recordVersion, changed, clock);
  for (const act of [plan, publish]) await expect(act(seen)).rejects.toMatchObject(refused('RECORD_CHANGED'));
  await plan({ ...seen, recordVersion: seen.recordVersion + 1 });
  // What is edited after planning is not in the plan.
  Object.assign(changed.details[0]!, { number: '+442079460184' });
  await saveRecord(actor, recordId, seen.recordVersion + 1, changed, clock);
  clock.set('2026-11-25T09:00:01Z');
  expect(await runDuePlans(clock)).toBe(1);
  const out = await pageAt('/c/as-shown');
  expect(out).toContain('+442079460183');
  expect(out).not.toContain('+442079460184');
  // Publishing with its end is one act.
  const now = await openCard(actor, cardId);
  await publish({ version: now.version, recordVersion: now.recordVersion });
  expect((await openCard(actor, cardId)).plan).toMatchObject({ publishAt: null, endsAt: '2026-11-28T09:00:00.000Z' });
  await expect(
    publishCard(
      actor,
      cardId,
      { baseVersion: now.version, address: 'as-shown', ends: { ...ends, at: '2026-11-25T08:00:00Z' } },
      clock,
    ),
  ).rejects.toMatchObject(refused('PLAN_IN_THE_PAST'));
  expect(await listRevisions(actor, cardId)).toHaveLength(2);
  clock.set('2026-11-24T09:00:00Z');
});

test('a card in several languages: the browser’s, the one chosen, right to left; ALTID and LANGUAGE in 4.0 (RFC 6350 5.4), one of them in 3.0', async () => {
  const actor = await newActor(clock);
  const { cardId, version, blocks } = await fullCard(actor);
  const about = blocks.find(({ kind }) => kind === 'about')!;
  const { lines } = await openCard(actor, cardId);
  const words = { de: { [`${about.id}/text`]: 'Ich sorge dafür, dass die Seile halten.' }, ar: {} };
  const saved = await saveCard(
    actor,
    cardId,
    { baseVersion: version, lines, audience: 'Fair', language: 'en', words },
    clock,
  );
  await publishCard(actor, cardId, { baseVersion: saved.version, address: 'three-tongues' }, clock);
  const german = await pageAt('/c/three-tongues', { 'accept-language': 'de-AT, en;q=0.5' });
  expect(german).toMatch(/<html lang="de"/);
  for (const text of ['Seilprüferin', 'Ich sorge dafür', 'Kontakt speichern', 'href="/c/three-tongues?lang=ar"'])
    expect(german).toContain(text);
  expect(german).not.toContain('I see to it');
  const arabic = await pageAt('/c/three-tongues?lang=ar', { 'accept-language': 'de' });
  expect(arabic).toContain('<html lang="ar" dir="rtl">');
  expect(arabic).toContain('<h1 class="p-name">إيلزه فارو</h1>');
  expect(await pageAt('/c/three-tongues', { 'accept-language': 'fr' })).toContain('I see to it');
  type Property = [name: string, params: Record<string, string>, type: string, value: unknown];
  const properties = async (query: string) =>
    (ICAL.parse(String((await ask(`/c/three-tongues.vcf?${query}`)).body)) as unknown as [string, Property[]])[1];
  const of = (all: Property[], name: string) =>
    all.filter(([each]) => each === name).map(([, params, , value]) => [params.language, params.altid, value]);
  const newest = await properties('v=4.0&lang=de');
  expect(of(newest, 'title')).toEqual([
    ['en', expect.any(String), 'Rope inspector'],
    ['de', expect.any(String), 'Seilprüferin'],
  ]);
  expect(new Set(of(newest, 'fn').map(([, altid]) => altid)).size).toBe(1);
  expect(of(newest, 'fn').map(([language, , value]) => [language, value])).toEqual([
    ['en', 'Ilse Varrow'],
    ['ar', 'إيلزه فارو'],
  ]);
  expect(of(await properties('lang=de'), 'title')).toEqual([[undefined, undefined, 'Seilprüferin']]);
  expect(of(await properties(''), 'title')).toEqual([[undefined, undefined, 'Rope inspector']]);
});

test('what opens first; an address that was renamed keeps leading; an organisation’s beginning is its own', async () => {
  const actor = await newActor(clock);
  const { cardId, version, blocks } = await fullCard(actor);
  const { lines } = await openCard(actor, cardId);
  let at = version;
  const opening = async (opens: Draft['opens'], address: string) => {
    at = (await saveCard(actor, cardId, { baseVersion: at, lines, audience: 'Fair', opens }, clock)).version;
    await publishCard(actor, cardId, { baseVersion: at, address }, clock);
  };
  const video = blocks.find(({ kind }) => kind === 'video')!;
  await opening({ first: 'block', block: video.id }, 'first-name');
  const html = await pageAt('/c/first-name');
  expect(html.indexOf('<video')).toBeLessThan(html.indexOf('<main'));
  await opening({ first: 'picture', picture: await picture(actor), alt: 'Ilse Varrow, rope inspector' }, 'second-name');
  const art = await pageAt('/c/first-name');
  expect(art).toMatch(/<div class="first"><img class="art" src="[^"]+" alt="Ilse Varrow, rope inspector"/);
  await opening({ first: 'file' }, 'second-name');
  expect((await ask('/c/first-name')).headers['Content-Type']).toContain('text/vcard');
  expect((await ask('/c/first-name?page')).headers['Content-Type']).toContain('text/html');
  const preview = await ask('/c/first-name', { 'user-agent': 'Mozilla/5.0 (compatible; examplebot/2.1)' });
  expect(preview.headers['Content-Type']).toContain('text/html');
  const publish = (address: string, who = actor, card = cardId, base = at) =>
    publishCard(who, card, { baseVersion: base, address }, clock);
  // Asked for by its administrator, given by the operator alone.
  await askPrefix(actor, 'tarnhope', clock);
  await publish('not-yet-held');
  await asOwner(databaseUrl, (client) => allowPrefix(client, 'tarnhope', actor.organisationId));
  await expect(publish('third-name')).rejects.toMatchObject(refused('PREFIX_MISSING'));
  await publish('first-name');
  await publish('tarnhope-ilse');
  expect((await ask('/c/second-name?page')).status).toBe(200);
  const other = await newActor(clock);
  const theirs = await createRecord(other, { name: 'Keld', phone: '020 7946 0182', email: '' }, clock);
  await expect(publish('tarnhope-keld', other, theirs.cardId, 1)).rejects.toMatchObject(refused('PREFIX_TAKEN'));
  await expect(askPrefix(other, 'tarnhope', clock)).rejects.toMatchObject(refused('PREFIX_TAKEN'));
  for (const prefix of ['tarnhope', 'first', 'tarnhope-ilse', 'tarnh0pe'])
    await expect(
      asOwner(databaseUrl, (client) => allowPrefix(client, prefix, other.organisationId)),
    ).rejects.toMatchObject({ name: 'Stop' });
});

test('an organisation’s own host shows its cards and nobody else’s, and its contact files name it', async () => {
  const [mine, theirs] = [await newActor(clock), await newActor(clock)];
  for (const [actor, address] of [
    [mine, 'on-our-host'],
    [theirs, 'not-on-theirs'],
  ] as const) {
    const { cardId } = await createRecord(actor, { name: 'Ilse Varrow', phone: '020 7946 0182', email: '' }, clock);
    settings().CARD_HOSTS['cards.tarnhope.example'] = mine.organisationId;
    await publishCard(actor, cardId, { baseVersion: 1, address }, clock);
  }
  const host = { host: 'cards.tarnhope.example' };
  expect([(await ask('/c/on-our-host', host)).status, (await ask('/c/not-on-theirs', host)).status]).toEqual([
    200, 404,
  ]);
  expect((await ask('/c/not-on-theirs')).status).toBe(200);
  expect(String((await ask('/c/on-our-host.vcf', host)).body)).toContain(
    'SOURCE:http://cards.tarnhope.example/c/on-our-host',
  );
});

test('a starting card brings its trade’s blocks, another card brings its own', async () => {
  const actor = await newActor(clock);
  const { recordId } = await createRecord(actor, { name: 'Odile Brandreth', phone: '020 7946 0182', email: '' }, clock);
  const make = (from: { start: string } | { card: string }) =>
    createCard(actor, { recordId, audience: 'Guests', isPrivate: false, from }, clock);
  const { cardId } = await make({ start: 'hospitality' });
  const started = await openCard(actor, cardId);
  expect(started.blocks.map(({ kind }) => kind)).toEqual(['action bar', 'gallery', 'hours']);
  const again = await openCard(actor, (await make({ card: cardId })).cardId);
  expect(again.blocks).toEqual(started.blocks);
});
