import { readFileSync } from 'node:fs';
import type { Actor } from '@/server/services/accounts/actor';
import { saveCard } from '@/server/services/cards/edit-card';
import { openCard } from '@/server/services/cards/open-card';
import { makeHandOut } from '@/server/services/hand-outs/make';
import { messageDraft } from '@/server/services/hand-outs/message';
import { cardShared, shareCard } from '@/server/services/hand-outs/share';
import { makeSignature, signatureTaken } from '@/server/services/hand-outs/signature';
import { takeContactFile } from '@/server/services/imports/begin-import';
import { publishCard } from '@/server/services/publishing/publish-card';
import { createRecord } from '@/server/services/records/create-record';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { copiesCarrying, listCopies, outThere } from '@/server/services/wild/list-copies';
import { setCopyDone } from '@/server/services/wild/mark-copy';
import { ask, clock, refused } from './full-card';
import { newActor, useDatabase } from './place';

useDatabase();
let actor: Actor;
let recordId: string;
let cardId: string;
const OLD = '020 7946 0123';

beforeAll(async () => {
  actor = await newActor(clock);
  const taken = await takeContactFile(actor, readFileSync('tests/fixtures/contacts/phone-export-3.vcf'), clock);
  if (!('imported' in taken)) throw new Error('The fixture holds one contact.');
  ({ recordId, cardId } = taken.imported);
  await publishCard(actor, cardId, { baseVersion: 1, address: 'copied' }, clock);
});

const renumber = async (number: string) => {
  const { version, body } = await openRecord(actor, recordId);
  const details = body.details.map((each) =>
    each.kind === 'phone' && each.uses.includes('work') && !each.uses.includes('fax') ? { ...each, number } : each,
  );
  await saveRecord(actor, recordId, version, { ...body, details }, clock);
  const { version: base } = await openCard(actor, cardId);
  await publishCard(actor, cardId, { baseVersion: base, address: 'copied' }, clock);
};
const carrying = async (text: string) => (await listCopies(actor, { which: 'all', value: text })).copies;

test('saved contacts are counted by the revision that was saved, those sent along as they are sent, and told once, apart from what is to do', async () => {
  const { id } = await makeSignature(actor, cardId, clock);
  // Two at once, and once more: one is out.
  await Promise.all([signatureTaken(actor, id, clock), signatureTaken(actor, id, clock)]);
  await signatureTaken(actor, id, clock);
  for (const agent of ['Firefox/140.0', 'Firefox/141.0', 'Firefox/141.0'])
    await ask('/c/copied.vcf', { 'user-agent': `Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 ${agent}` });
  // What is only about to be shared is out nowhere.
  const shared = await shareCard(actor, cardId, { placement: 'Hall', occasionId: null }, clock);
  expect((await listCopies(actor, { handOutId: shared.id, which: 'all', value: OLD })).copies).toEqual([]);
  await cardShared(actor, shared.id, clock);
  for (let sent = 0; sent < 2; sent += 1)
    await messageDraft(actor, cardId, { note: '', placement: '', occasionId: null }, clock);
  expect((await listCopies(actor, { which: 'wild' })).unsettled).toBe(0);
  await renumber('+442079460155');
  const { copies, unsettled, gone } = await listCopies(actor, { which: 'wild' });
  expect([unsettled, copies.map(({ channel }) => channel)]).toEqual([1, ['signature']]);
  expect(gone.map(({ saved, sent, values }) => [saved, sent, values.map(({ was, now }) => [was, now])])).toEqual([
    [2, 3, [['+44 20 7946 0123', '+44 20 7946 0155']]],
  ]);
  // Beside the field of the record, whatever is typed there.
  const out = (await outThere(actor, recordId)).filter(({ value }) => value === '+442079460123');
  expect(out.map(({ channel, pieces, copies: count }) => [channel, pieces, count]).sort()).toEqual([
    ['file', 1, 2],
    ['mail', 2, 3],
    ['signature', 1, null],
  ]);
});

test('a number is found however it is written, also inside words; another organisation finds nothing, and marks nothing', async () => {
  for (const text of [OLD, '+44 20 7946 0123', '(020) 7946-0123'])
    expect((await carrying(text)).map(({ channel }) => channel).sort()).toEqual(['file', 'mail', 'mail', 'signature']);
  expect(await carrying('020 7946 0124 1')).toEqual([]);
  const content = { what: 'words', text: 'At night ring 020 7946 0991, or write to night@tarnhope.example.' } as const;
  const { code } = await makeHandOut(actor, { cardId, placement: 'Gate', content }, clock);
  expect((await carrying('020 7946 0991')).map((copy) => copy.code)).toEqual([code]);
  expect((await carrying('NIGHT@tarnhope.example')).map((copy) => copy.code)).toEqual([code]);
  // What was typed for one piece is nobody's to renew.
  expect((await listCopies(actor, { which: 'wild' })).copies.map((copy) => copy.code)).not.toContain(code);
  const lines: object[] = [];
  for await (const each of copiesCarrying({ id: actor.organisationId, country: 'GB' }, OLD)) lines.push(each);
  expect(lines.find((each) => (each as { channel: string }).channel === 'signature')).toMatchObject({
    ...{ placement: 'Mail signature', carried: '+44 20 7946 0123', now: '+44 20 7946 0155' },
  });
  const stranger = await newActor(clock);
  expect((await listCopies(stranger, { which: 'all', value: OLD })).copies).toEqual([]);
  const [mine] = (await listCopies(actor, { which: 'wild' })).copies;
  await expect(setCopyDone(stranger, mine!.id, true, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  await expect(listCopies(stranger, { which: 'all', cardId })).rejects.toMatchObject(refused('NOT_FOUND'));
});

test('a copy stays dealt with when it is out of date once more; a line in words of the card’s own does not follow the record', async () => {
  const [copy] = (await listCopies(actor, { which: 'wild' })).copies;
  await setCopyDone(actor, copy!.id, true, clock);
  await renumber('+442079460166');
  expect((await listCopies(actor, { which: 'wild' })).unsettled).toBe(0);
  await setCopyDone(actor, copy!.id, false, clock);
  expect((await listCopies(actor, { which: 'wild' })).unsettled).toBe(1);
  const phone = (await openRecord(actor, recordId)).body.details.find(
    (each) => each.kind === 'phone' && each.uses.includes('work'),
  )!;
  const card = await openCard(actor, cardId);
  const lines = card.lines.map((line) => (line.detail === phone.id ? { ...line, wording: OLD } : line));
  await saveCard(actor, cardId, { baseVersion: card.version, lines, audience: card.audience }, clock);
  expect((await outThere(actor, recordId)).filter(({ line }) => line === phone.id)).toEqual([]);
  // Nor does a part of a value: it never was the whole.
  const cut = lines.map((line) => (line.detail === 'name' ? { ...line, part: 'initials' as const } : line));
  await saveCard(actor, cardId, { baseVersion: card.version + 1, lines: cut, audience: card.audience }, clock);
  expect((await outThere(actor, recordId)).filter(({ line }) => line === 'name')).toEqual([]);
  await saveCard(actor, cardId, { baseVersion: card.version + 2, lines, audience: card.audience }, clock);
  await publishCard(actor, cardId, { baseVersion: card.version + 3, address: 'copied' }, clock);
  expect((await listCopies(actor, { which: 'wild' })).unsettled).toBe(0);
});

test('a list goes on where it ended, each copy once', async () => {
  const many = await newActor(clock);
  const phone = { name: 'Dell Hythe', phone: '020 7946 0211', email: '' };
  const made = await createRecord(many, phone, clock);
  await publishCard(many, made.cardId, { baseVersion: 1, address: 'dell-copied' }, clock);
  for (let at = 0; at < 65; at += 1)
    await makeHandOut(many, { cardId: made.cardId, placement: `Tag ${at}`, channel: 'tag', frozen: true }, clock);
  const first = await listCopies(many, { which: 'all' });
  const rest = await listCopies(many, { which: 'all', after: first.next });
  const ids = new Set([...first.copies, ...rest.copies].map(({ id }) => id));
  expect([first.copies.length, rest.copies.length, ids.size, rest.next]).toEqual([60, 5, 65, null]);
  await expect(listCopies(many, { which: 'all', after: 'x' })).rejects.toMatchObject(refused('INPUT'));
});
