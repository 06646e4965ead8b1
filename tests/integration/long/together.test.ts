import { buffer } from 'node:stream/consumers';
import { FIRST_PIECE, FIRST_SHEET, type Piece } from '@/core/print';
import { closeCompute } from '@/server/compute';
import { madeFile } from '@/server/db/jobs/made-files';
import { inTenant } from '@/server/db/pool';
import { files } from '@/server/files';
import { updateJob } from '@/server/db/jobs/jobs';
import type { Actor } from '@/server/services/accounts/actor';
import { deletePerson } from '@/server/services/cards/deletion';
import { openCard } from '@/server/services/cards/open-card';
import { saveCard } from '@/server/services/cards/edit-card';
import { readJob } from '@/server/services/jobs/jobs';
import { runJob } from '@/server/services/jobs/run-job';
import { sweep } from '@/server/services/jobs/sweeps';
import { openPiece } from '@/server/services/pieces/print';
import { askTogether, madeFileStream, printTogether, readMadeFile } from '@/server/services/pieces/together';
import { publishCard } from '@/server/services/publishing/publish-card';
import { createRecord } from '@/server/services/records/create-record';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { clock, refused } from '../full-card';
import { withPdf } from '../pdf-tools';
import { newActor, useDatabase } from '../place';

useDatabase();
afterAll(closeCompute);
let actor: Actor;
const records: string[] = [];
const cards: string[] = [];
const NAMES = ['Ada', 'Brid', 'Cuno', 'Dagny'];

beforeAll(async () => {
  actor = await newActor(clock);
  // Out of their order, which the file puts right.
  for (const name of [...NAMES].reverse()) {
    const made = await createRecord(actor, { name: `${name} Varrow`, phone: '020 7946 0182', email: '' }, clock);
    const { version } = await openCard(actor, made.cardId);
    await publishCard(actor, made.cardId, { baseVersion: version, address: `together-${name.toLowerCase()}` }, clock);
    records.unshift(made.recordId);
    cards.unshift(made.cardId);
  }
  // One without a published card, and one whose lines no card holds.
  const draft = await createRecord(actor, { name: 'Keld Draft', phone: '020 7946 0182', email: '' }, clock);
  const long = await createRecord(actor, { name: 'Lotte Long', phone: '020 7946 0182', email: '' }, clock);
  const { body, version } = await openRecord(actor, long.recordId);
  const texts = Array.from({ length: 40 }, (_, at) => `Line ${at} of a card that says more than paper holds`);
  const own = texts.map((text, at) => ({ kind: 'own' as const, id: `own${at}`, label: '', preferred: false, text }));
  await saveRecord(actor, long.recordId, version, { ...body, details: [...body.details, ...own] }, clock);
  const card = await openCard(actor, long.cardId);
  const lines = card.lines.map((line) => ({ ...line, ticks: { ...line.ticks, page: true, print: true } }));
  await saveCard(actor, long.cardId, { baseVersion: card.version, lines, audience: card.audience }, clock);
  await publishCard(actor, long.cardId, { baseVersion: card.version + 1, address: 'together-long' }, clock);
  records.push(draft.recordId, long.recordId);
});

async function together(piece: Partial<Piece>, copies = 0) {
  const wanted = { records, piece: { ...FIRST_PIECE, ...piece }, placement: 'Cards, autumn', copies };
  const { job } = await askTogether(actor, wanted, clock);
  await runJob({ job, organisation: actor.organisationId }, printTogether, clock);
  return job;
}

test('one a page: everybody’s front and back in the order of names, each with a code of its own; whom it leaves out is told with the reason', async () => {
  const job = await together({}, 250);
  expect(await readJob(actor, job)).toMatchObject({
    state: 'done',
    done: 6,
    total: 6,
    result: { printed: 4, leftOut: 2 },
  });
  const made = (await readMadeFile(actor, job))!;
  expect(made.leftOut.map(({ name, finding }) => [name, finding?.code ?? null])).toEqual([
    ['Keld Draft', null],
    ['Lotte Long', 'HAD_ROOM'],
  ]);
  const { stream, fileName } = await madeFileStream(actor, job);
  const bytes = await buffer(stream);
  expect([fileName, bytes.length]).toEqual(['Cards, autumn.pdf', made.bytes]);
  const links = await Promise.all(cards.map(async (card) => (await pieceOf(card)).link.toUpperCase()));
  withPdf(bytes, ({ pages, faults, fonts, text, boxes, codes }) => {
    expect([pages, faults]).toEqual([8, '']);
    for (const font of fonts) expect(font).toMatchObject({ emb: 'yes', sub: 'yes', uni: 'yes' });
    const at = NAMES.map((name) => text.indexOf(`${name} Varrow`));
    expect([at.every((each) => each >= 0), at]).toEqual([true, [...at].sort((a, b) => a - b)]);
    const trim = boxes(5).TrimBox!;
    expect([trim[2]! - trim[0]!, trim[3]! - trim[1]!].map(Math.round)).toEqual([85, 55]);
    expect(NAMES.map((_, each) => codes(2 * each + 2, 200))).toEqual(links.map((each) => [each]));
  });
}, 90_000);

async function pieceOf(cardId: string) {
  const { handOuts } = await openCard(actor, cardId);
  const own = handOuts.filter(({ channel }) => channel === 'print');
  expect(own).toHaveLength(1);
  return openPiece(actor, own[0]!.id, clock);
}

test('on a sheet: several people on an A4, backs behind their own fronts; tried twice, as after a process that was killed, its copies are noted once', async () => {
  const job = await together({ sheet: FIRST_SHEET }, 50);
  const at = new Date(clock.now());
  await inTenant(actor.organisationId, (tx) => updateJob(tx, job, { state: 'waiting', updated_at: at }));
  await runJob({ job, organisation: actor.organisationId }, printTogether, clock);
  const bytes = await buffer((await madeFileStream(actor, job)).stream);
  const pieces = await Promise.all(cards.map(pieceOf));
  withPdf(bytes, ({ pages, faults, codes, boxes }) => {
    expect([pages, faults]).toEqual([2, '']);
    expect(boxes(1).MediaBox!.map(Math.round)).toEqual([0, 0, 210, 297]);
    expect(codes(1)).toEqual([]);
    expect(codes(2).sort()).toEqual(pieces.map(({ link }) => link.toUpperCase()).sort());
  });
  for (const { runs } of pieces) expect(runs.map(({ copies }) => copies).sort()).toEqual([250, 50]);
}, 90_000);

test('too many, nobody, a stranger’s people and a size without room are refused before or told after', async () => {
  const piece = FIRST_PIECE;
  const ask = (more: object) => askTogether(actor, { records, piece, placement: 'x', copies: 0, ...more }, clock);
  await expect(ask({ records: [] })).rejects.toMatchObject(refused('NOTHING_CHOSEN'));
  await expect(ask({ records: Array(501).fill(records[0]) })).rejects.toMatchObject(refused('TOO_MANY_CHOSEN'));
  await expect(ask({ placement: ' ' })).rejects.toMatchObject(refused('INPUT'));
  const stranger = await newActor(clock);
  const theirs = askTogether(stranger, { records, piece, placement: 'x', copies: 0 }, clock);
  await expect(theirs).rejects.toMatchObject(refused('NOT_FOUND'));
  const none = await together({ size: 'a4', sheet: FIRST_SHEET });
  await expect(readMadeFile(stranger, none)).rejects.toMatchObject(refused('NOT_FOUND'));
  await expect(madeFileStream(actor, none)).rejects.toMatchObject(refused('NOT_FOUND'));
  expect(await readJob(actor, none)).toMatchObject({ state: 'failed', problem: { code: 'INPUT' } });
});

test('a file that shows somebody goes with them, bytes and all; of what shows others nothing goes', async () => {
  const shows = async (record: string) => {
    const wanted = { records: [record], piece: { ...FIRST_PIECE, size: 'label-70x37' as const }, placement: 'Door' };
    const { job } = await askTogether(actor, { ...wanted, copies: 0 }, clock);
    await runJob({ job, organisation: actor.organisationId }, printTogether, clock);
    return job;
  };
  const [gone, kept] = [await shows(records[2]!), await shows(records[3]!)];
  const { file } = (await inTenant(actor.organisationId, (tx) => madeFile(tx, gone)))!;
  expect(await files().get(file!)).not.toBeNull();
  await deletePerson(actor, records[2]!, clock);
  const later = { now: () => clock.now() + 31 * 86_400_000 };
  await sweep(['deleted'], later);
  expect(await readMadeFile(actor, gone)).toBeNull();
  expect(await readMadeFile(actor, kept)).toMatchObject({ leftOut: [] });
  // Its row named it last, so that the store has forgotten it as well.
  expect(await files().get(file!)).toBeNull();
});
