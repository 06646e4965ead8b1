import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { NO_HOUSE, type HouseStyle } from '@/core/house';
import type { Actor } from '@/server/services/accounts/actor';
import { saveCard } from '@/server/services/cards/edit-card';
import { openCard } from '@/server/services/cards/open-card';
import { testCode } from '@/server/services/hand-outs/codes';
import { makeHandOut } from '@/server/services/hand-outs/make';
import { openTag, renewTag, sizeTag, tagBytes, tagWritten } from '@/server/services/hand-outs/tags';
import { readHouse, saveHouse } from '@/server/services/house/house-style';
import { takeContactFile } from '@/server/services/imports/begin-import';
import { publishCard } from '@/server/services/publishing/publish-card';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { listCopies } from '@/server/services/wild/list-copies';
import { takeAsTest } from '@/server/services/hand-outs/test-scan';
import { ask, clock, refused } from './full-card';
import { newActor, useDatabase } from './place';

useDatabase();
let actor: Actor;
let recordId: string;
let cardId: string;

beforeAll(async () => {
  actor = await newActor(clock);
  const taken = await takeContactFile(actor, readFileSync('tests/fixtures/contacts/phone-export-3.vcf'), clock);
  if (!('imported' in taken)) throw new Error('The fixture holds one contact.');
  ({ recordId, cardId } = taken.imported);
  const card = await openCard(actor, cardId);
  const lines = card.lines.map((line) => ({ ...line, ticks: { ...line.ticks, tag: line.ticks.page } }));
  await saveCard(actor, cardId, { baseVersion: card.version, lines, audience: card.audience }, clock);
  await publishCard(actor, cardId, { baseVersion: card.version + 1, address: 'tapped' }, clock);
});

const make = async (content: Parameters<typeof makeHandOut>[1]['content']) =>
  (await makeHandOut(actor, { cardId, placement: 'Helmet desk', channel: 'tag', content }, clock)).id;
/** What a reader of tags finds in the bytes (Debian's python3-pyqt6.qtnfc), past the TLV around the message. */
async function readByPhone(id: string): Promise<string[]> {
  const { bytes } = await tagBytes(actor, id);
  const message = bytes.subarray(bytes[1] === 0xff ? 4 : 2, -1);
  const told = execFileSync('/usr/bin/python3', ['tests/fixtures/read-ndef.py'], { input: message.toString('hex') });
  return (JSON.parse(told.toString()) as string[][]).map(([kind, value]) => `${kind} ${value}`);
}
const renumber = async (number: string) => {
  const { version, body } = await openRecord(actor, recordId);
  const at = body.details.findIndex((each) => each.kind === 'phone' && each.uses.includes('work'));
  const details = body.details.map((each, index) =>
    index === at && each.kind === 'phone' ? { ...each, number } : each,
  );
  await saveRecord(actor, recordId, version, { ...body, details }, clock);
  const { version: base } = await openCard(actor, cardId);
  await publishCard(actor, cardId, { baseVersion: base, address: 'tapped' }, clock);
};

test('what a tap does: opens the card, saves the contact, carries it after a link, opens another link, calls; the link comes first', async () => {
  const open = await openTag(actor, await make({ what: 'card' }), clock);
  expect(await readByPhone(open.id)).toEqual([`link ${open.link}`]);
  const save = await make({ what: 'save' });
  const [address] = await readByPhone(save);
  expect(address).toMatch(/^link http:\/\/cards\.example\/h\/\w{8}\.vcf$/);
  expect(String((await ask(new URL(address!.slice(5)).pathname)).body)).toMatch(/^BEGIN:VCARD/);
  const contact = await readByPhone(await make({ what: 'contact', form: 'vCard 3.0', link: true }));
  expect([contact.length, contact[0]!.slice(0, 5), contact[1]!.slice(0, 22)]).toEqual([
    2,
    'link ',
    'text/vcard BEGIN:VCARD',
  ]);
  expect(await readByPhone(await make({ what: 'address', url: 'films.example/ropeway' }))).toEqual([
    'link https://films.example/ropeway',
  ]);
  const phone = (await openCard(actor, cardId)).record.details.find(
    (each) => each.kind === 'phone' && each.uses.includes('work'),
  )!;
  const call = await make({ what: 'call', line: phone.id });
  expect((await readByPhone(call))[0]).toMatch(/^link tel:\+\d+$/);
  for (const id of [open.id, save, call]) expect((await openTag(actor, id, clock)).proof.passed).toBe(true);
  // A network is no link, and nothing that a tag can open on every phone.
  const wifi = { what: 'wifi', name: 'x', password: '', kind: 'none', hidden: false } as const;
  await expect(make(wifi)).rejects.toMatchObject(refused('INPUT'));
});

test('a contact that does not fit the tag is told, with the size that it needs, and is not noted as written', async () => {
  const id = await make({ what: 'contact', form: 'vCard 3.0', link: true });
  const small = await sizeTag(actor, id, 144, clock);
  expect([small.proof.passed, small.proof.checks.find(({ passed }) => !passed)!.name]).toEqual([false, 'room']);
  await expect(tagWritten(actor, id, { locked: false }, clock)).rejects.toMatchObject(refused('TAG_TOO_SMALL'));
  expect((await sizeTag(actor, id, 496, clock)).proof.passed).toBe(true);
});

test('a frozen tag is out of date until it is written again; a detail changed there and back is not; a locked one is never written again', async () => {
  const id = await make({ what: 'contact', form: 'vCard 3.0', link: true });
  await tagWritten(actor, id, { locked: false }, clock);
  const wild = async () => (await listCopies(actor, { handOutId: id, which: 'wild' })).copies;
  const number = (await openRecord(actor, recordId)).body.details.find(
    (each) => each.kind === 'phone' && each.uses.includes('work'),
  )! as { number: string };
  await renumber('+442079460155');
  expect((await wild()).map(({ values }) => values.filter(({ old }) => old).map(({ now }) => now))).toEqual([
    ['+44 20 7946 0155'],
  ]);
  await renumber(number.number);
  expect(await wild()).toEqual([]);
  await renumber('+442079460155');
  expect((await openTag(actor, id, clock)).renews).toBe(true);
  await renewTag(actor, id, clock);
  // The tag itself still carries the old one.
  expect(await wild()).toHaveLength(1);
  const written = await tagWritten(actor, id, { locked: true }, clock);
  expect([await wild(), written.state.writes, written.renews]).toEqual([[], 2, false]);
  for (const act of [() => renewTag(actor, id, clock), () => tagWritten(actor, id, { locked: false }, clock)])
    await expect(act()).rejects.toMatchObject(refused('TAG_LOCKED'));
});

test('“tap it now”: the next tap is the test and is not counted, also of a tag that carries the contact', async () => {
  const id = await make({ what: 'contact', form: 'vCard 3.0', link: true });
  const { testedAt, tests } = await openTag(actor, id, clock);
  expect([testedAt, tests]).toEqual([null, true]);
  await testCode(actor, id, clock);
  expect((await openTag(actor, id, clock)).waits).toBe(true);
  expect(await takeAsTest(actor.organisationId, id, cardId, clock)).toBe(true);
  const after = await openTag(actor, id, clock);
  expect([after.waits, after.testedAt !== null]).toEqual([false, true]);
});

test('a house style that changes while a tag is written: the copy says what lies in the tag', async () => {
  const desk = async (number: string) => {
    const common = { id: 'house-desk', label: 'Desk', preferred: false };
    const line: HouseStyle['lines'][number] = {
      ...{ id: 'house-desk', label: 'Desk', page: true, file: true },
      detail: { kind: 'phone', ...common, number, uses: ['work'] },
    };
    const { number: baseNumber } = await readHouse(actor);
    await saveHouse(actor, { baseNumber, style: { ...NO_HOUSE, lines: [line] }, note: '' }, clock);
  };
  await desk('+442079460301');
  const id = await make({ what: 'contact', form: 'vCard 3.0', link: true });
  await desk('+442079460302');
  await tagWritten(actor, id, { locked: false }, clock);
  expect((await readByPhone(id)).join()).toContain('+442079460301');
  const { copies } = await listCopies(actor, { handOutId: id, which: 'wild' });
  expect(copies.flatMap(({ values }) => values.filter(({ old }) => old).map(({ was, now }) => [was, now]))).toEqual([
    ['+44 20 7946 0301', '+44 20 7946 0302'],
  ]);
  await renewTag(actor, id, clock);
  await tagWritten(actor, id, { locked: false }, clock);
  expect((await listCopies(actor, { handOutId: id, which: 'wild' })).copies).toEqual([]);
});
