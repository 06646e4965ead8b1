import { execFileSync } from 'node:child_process';
import naughty from 'big-list-of-naughty-strings';
import readXlsx from 'read-excel-file/node';
import { asText, csvOf } from '@/core/sheet';
import type { Actor } from '@/server/services/accounts/actor';
import { pointElsewhere, setHandOutState } from '@/server/services/hand-outs/change';
import { giveSpare, listSpares, makeSpares } from '@/server/services/hand-outs/spares';
import { listTags, makeTags, supplierList, tagsWritten } from '@/server/services/hand-outs/tag-rows';
import { openTag, tagBytes, tagWritten } from '@/server/services/hand-outs/tags';
import { publishCard } from '@/server/services/publishing/publish-card';
import { createRecord } from '@/server/services/records/create-record';
import { clock, pageAt, refused } from './full-card';
import { newActor, useDatabase } from './place';

useDatabase();

let maud: Actor;
let people: string[];
let cards: string[];

/** A name that a spreadsheet would reckon, one with the signs of its table, one in another script. */
const NAMES = ['=HYPERLINK("https://evil.example","Ilse")', '@Dell, "the Hythe"', 'عائشة بنت خالد', 'Keld'];

beforeAll(async () => {
  maud = await newActor(clock);
  const made = [];
  for (const name of NAMES) made.push(await createRecord(maud, { name, phone: '020 7946 0182', email: '' }, clock));
  people = made.map(({ recordId }) => recordId);
  cards = made.map(({ cardId }) => cardId);
  for (const [at, { cardId }] of made.slice(0, 3).entries())
    await publishCard(maud, cardId, { baseVersion: 1, address: `row-${at}` }, clock);
});

const BADGES = { placement: 'Name badges, May', what: 'card' as const };

/** A table as Python’s reader of RFC 4180 takes it (https://docs.python.org/3/library/csv.html). */
const READ =
  'import csv,json,sys,io; print(json.dumps(list(csv.reader(io.StringIO(sys.stdin.buffer.read().decode("utf-8-sig"), newline="")))))';
const readCsv = (bytes: Buffer) =>
  JSON.parse(execFileSync('python3', ['-c', READ], { input: bytes }).toString()) as string[][];

test('each of several people gets one tag however often it is asked, ticked off as it is written; two readers of tables read the list, and nothing in it is a formula', async () => {
  const asked = await Promise.all([1, 2, 3].map(() => makeTags(maud, { ...BADGES, records: people }, clock)));
  expect([asked.map(({ made }) => made).sort(), asked[0]!.without]).toEqual([[0, 0, 3], ['Keld']]);
  const placement = asked[0]!.placement!;
  expect(await makeTags(maud, { ...BADGES, placement: 'Nowhere', records: [people[3]!] }, clock)).toEqual({
    ...{ placement: null, made: 0, without: ['Keld'] },
  });
  const { tags, of } = await listTags(maud, placement);
  expect([tags.length, of?.name, new Set(tags.map(({ link }) => link)).size]).toEqual([3, BADGES.placement, 3]);
  for (const { id, memory } of tags) expect((await tagBytes(maud, id)).bytes.toString('base64')).toBe(memory);
  const wanted = tags.map(({ person, audience, link, memory }) => [
    ...['', person, audience, 'opens the card', link, String(Buffer.from(memory, 'base64').length), '144'],
  ]);
  const table = readCsv((await supplierList(maud, placement, 'csv')).bytes);
  expect(table.slice(1).map((row) => row.map((text) => text.replace(/^'(?=[=@+-])/, '')))).toEqual(wanted);
  expect(table.flat().filter((text) => /^[=+\-@\t\r]/.test(text))).toEqual([]);
  const { bytes } = await supplierList(maud, placement, 'xlsx');
  const [sheet] = await readXlsx(bytes);
  expect(sheet!.data.slice(1).map((row) => row.map((cell) => String(cell ?? '')))).toEqual(wanted);
  // Written as text: no cell of the sheet holds a formula (ECMA-376, 18.3.1.40, from memory).
  const xml = execFileSync(
    'python3',
    [
      '-c',
      'import sys,zipfile,io; print(zipfile.ZipFile(io.BytesIO(sys.stdin.buffer.read())).read("xl/worksheets/sheet1.xml").decode())',
    ],
    { input: bytes },
  ).toString();
  expect(xml).not.toMatch(/<f[ >]/);
  await tagWritten(maud, tags[0]!.id, { locked: false }, clock);
  expect(
    (
      await tagsWritten(
        maud,
        tags.map(({ id }) => id),
        clock,
      )
    ).written,
  ).toBe(2);
  expect((await listTags(maud, null)).placements).toMatchObject([{ name: BADGES.placement, tags: 3, written: 3 }]);
  expect((await openTag(maud, tags[1]!.id, clock)).state).toMatchObject({ writes: 1, locked: false });
  const stranger = await newActor(clock);
  await expect(listTags(stranger, placement)).rejects.toMatchObject(refused('NOT_FOUND'));
  await expect(supplierList(stranger, placement, 'csv')).rejects.toMatchObject(refused('NOT_FOUND'));
  await expect(tagsWritten(stranger, [tags[0]!.id], clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  await expect(makeTags(stranger, { ...BADGES, records: people }, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
});

test('whatever people are called, a reader of tables reads it as it is, and nothing as a formula', () => {
  const texts = [...naughty.filter((text) => !text.includes('\0')), '\t=1', '\r=1', '-1+1', '@SUM(A1)', 'a"b\r\nc,d'];
  const read = readCsv(Buffer.from(csvOf(texts.map((text) => [text, text]))));
  expect(read).toEqual(texts.map((text) => [asText(text), asText(text)]));
  expect(read.flat().filter((text) => /^[=+\-@\t\r]/.test(text))).toEqual([]);
  expect(texts.filter((text) => asText(text) !== text && asText(text) !== `'${text}`)).toEqual([]);
});

test('blank tags are numbered on and on, given by number once, and are what they say before and after; nobody gives another’s', async () => {
  const blank = { count: 2, placement: 'Key rings', channel: 'tag' as const };
  const { codes } = await makeSpares(maud, blank, clock);
  const [first, second] = [codes[0]!, codes[1]!];
  expect(second.number).toBe(first.number + 1);
  const pathOf = ({ link }: { link: string }) => new URL(link).pathname;
  expect(await pageAt(pathOf(first))).toContain('leads to no card yet');
  const give = (typed: string, to: object = { recordId: people[0] }, actor = maud) =>
    giveSpare(actor, { ...to, code: typed, placement: '' }, clock);
  const two = await Promise.allSettled([give(`No. ${first.number}`), give(String(first.number))]);
  expect(two.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  await expect(give(String(first.number))).rejects.toMatchObject(refused('CODE_GIVEN'));
  await expect(give('999999')).rejects.toMatchObject(refused('CODE_NOT_SPARE'));
  await expect(give(String(second.number), { recordId: people[3] })).rejects.toMatchObject(
    refused('CARD_NOT_PUBLISHED'),
  );
  const stranger = await newActor(clock);
  await expect(give(String(second.number), {}, stranger)).rejects.toMatchObject(refused('NOT_FOUND'));
  const own = await createRecord(stranger, { name: 'Wilf', phone: '020 7946 0199', email: '' }, clock);
  await publishCard(stranger, own.cardId, { baseVersion: 1, address: 'row-wilf' }, clock);
  await expect(give(second.link, { cardId: own.cardId }, stranger)).rejects.toMatchObject(refused('CODE_NOT_SPARE'));
  expect(await pageAt(pathOf(first))).toContain('HYPERLINK');
  const [given] = (
    await listTags(maud, (await listTags(maud, null)).placements.find(({ name }) => name === 'Key rings')!.id)
  ).tags;
  expect(given).toMatchObject({ number: first.number, what: 'card', writtenAt: expect.any(String) as string });
  // A number is never given again, also when those before are gone.
  const later = (await makeSpares(maud, { ...blank, count: 1 }, clock)).codes.at(-1)!;
  expect(later.number).toBe(second.number + 1);
  expect((await listSpares(maud)).codes.map(({ number }) => number)).not.toContain(first.number);
  // Lost: it rests, and then opens a colleague’s card.
  await setHandOutState(maud, given!.id, { state: 'resting', notice: 'This tag was lost.' }, clock);
  const resting = await pageAt(pathOf(first));
  expect([resting.includes('This tag was lost.'), resting.includes('HYPERLINK')]).toEqual([true, false]);
  await setHandOutState(maud, given!.id, { state: 'out', notice: '' }, clock);
  await pointElsewhere(maud, given!.id, cards[2]!, clock);
  expect(await pageAt(pathOf(first))).toContain('عائشة');
});
