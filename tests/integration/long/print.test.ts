import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { HouseStyleSchema, NO_HOUSE } from '@/core/house';
import { FIRST_LABELS, FIRST_PIECE, FIRST_SHEET, PRINT_SIZES, trimOf, type Piece } from '@/core/print';
import { closeCompute } from '@/server/compute';
import type { Actor } from '@/server/services/accounts/actor';
import { openCard } from '@/server/services/cards/open-card';
import { saveCard } from '@/server/services/cards/edit-card';
import { setState } from '@/server/services/cards/card-state';
import { duplicateHandOut } from '@/server/services/hand-outs/change';
import { addRun, editRun, makePiece, openPiece, pieceFile, pieceSide, savePiece } from '@/server/services/pieces/print';
import { readHouse, saveHouse } from '@/server/services/house/house-style';
import { takeContactFile } from '@/server/services/imports/begin-import';
import { addBlockPicture } from '@/server/services/media/add-picture';
import { createRecord } from '@/server/services/records/create-record';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { publishCard } from '@/server/services/publishing/publish-card';
import { ask, clock, refused } from '../full-card';
import { withPdf } from '../pdf-tools';
import { newActor, useDatabase } from '../place';
import { zbarimg } from '../zbarimg';

useDatabase();
afterAll(closeCompute);
let actor: Actor;
let cardId: string;
let id: string;

const piece = (more: Partial<Piece>): Piece => ({ ...FIRST_PIECE, ...more });
const flat = (text: string) => text.replace(/\s+/g, ' ');

beforeAll(async () => {
  actor = await newActor(clock);
  const taken = await takeContactFile(actor, readFileSync('tests/fixtures/contacts/phone-export-3.vcf'), clock);
  if (!('imported' in taken)) throw new Error('The fixture holds one contact.');
  ({ cardId } = taken.imported);
  const { lines, version, audience, record } = await openCard(actor, cardId);
  const kindOf = (detail: string) => record.details.find((each) => each.id === detail)?.kind;
  const ticked = lines.map((line) =>
    kindOf(line.detail) === 'photo' ? { ...line, ticks: { ...line.ticks, print: true } } : line,
  );
  await saveCard(actor, cardId, { baseVersion: version, lines: ticked, audience }, clock);
  await publishCard(actor, cardId, { baseVersion: version + 1, address: 'on-paper' }, clock);
  ({ id } = await makePiece(actor, { cardId, placement: 'Card from the depot' }, clock));
});

/**
 * Trimmed sizes in millimetres, apart from our own table: ISO/IEC 7810 ID-1, ISO 216, and common practice for cards (no published source).
 */
const MEASURES: Partial<Record<keyof typeof PRINT_SIZES, [number, number]>> = {
  '85x55': [85, 55],
  '3.5x2in': [88.9, 50.8],
  '91x55': [91, 55],
  '90x50': [90, 50],
  badge: [85.6, 53.98],
  a6: [148, 105],
  a5: [210, 148],
  a4: [297, 210],
  a3: [420, 297],
};

/** Sizes of each kind, in turn lying and standing. */
const TRIED = [
  '85x55',
  '3.5x2in',
  'square',
  'badge',
  'label-70x37',
  'a6',
  'a3',
  'sticker-round',
  'sticker-square',
] as const;
const EACH = TRIED.map((size, at): [Piece['size'], Piece['form']] => [size, at % 2 === 0 ? 'lying' : 'standing']);

test.each(EACH)(
  '%s, %s: trim, bleed, typefaces, words and code are what Debian’s readers find in the file',
  async (size, form) => {
    const { proof, link } = await savePiece(actor, id, piece({ size, form, distanceMm: 500 }), clock);
    expect(proof.checks.filter(({ passed }) => !passed)).toEqual([]);
    const { bytes, fileName } = await pieceFile(actor, id, clock);
    expect(fileName).toMatch(/^[a-z0-9.-]+\.pdf$/);
    // "Below 60 KB a card without photo" is measured by the bench; this one has a photo.
    expect(bytes.length).toBeLessThan(400_000);
    const [long, short] = MEASURES[size] ?? [
      trimOf({ size, form: 'lying' }).width,
      trimOf({ size, form: 'lying' }).height,
    ];
    const [width, height] = form === 'lying' ? [long, short] : [short, long];
    withPdf(bytes, ({ pages, boxes, fonts, text, faults, codes }) => {
      expect([faults, pages]).toEqual(['', PRINT_SIZES[size].stock === 'card' ? 2 : 1]);
      for (let page = 1; page <= pages; page += 1) {
        const {
          TrimBox: trim,
          BleedBox: bleed,
          MediaBox: media,
        } = boxes(page) as Record<string, [number, number, number, number]>;
        expect(trim![2] - trim![0]).toBeCloseTo(width, 1);
        expect(trim![3] - trim![1]).toBeCloseTo(height, 1);
        // Three millimetres of bleed on every side (common practice, no published source), and the marks outside it.
        expect(bleed!.map((each, at) => Math.abs(each - trim![at]!))).toEqual(Array(4).fill(expect.closeTo(3, 1)));
        expect(media![0]).toBeLessThan(bleed![0] - 4);
      }
      for (const font of fonts) expect(font).toMatchObject({ emb: 'yes', sub: 'yes', uni: 'yes' });
      if (PRINT_SIZES[size].stock !== 'sticker') expect(flat(text)).toContain('Müller-Lind');
      expect(codes(pages)).toEqual([link.toUpperCase()]);
    });
  },
);

test('words stand in their order, on the front what is ticked for paper and nothing else; black words are the black ink alone', async () => {
  await savePiece(actor, id, piece({}), clock);
  const { record, lines } = await openCard(actor, cardId);
  const { bytes } = await pieceFile(actor, id, clock);
  withPdf(bytes, ({ text, content }) => {
    const said = flat(text);
    const order = ['Jörg', 'Müller-Lind'].map((word) => said.indexOf(word));
    expect(order).toEqual([...order].sort((a, b) => a - b));
    for (const { detail, ticks } of lines) {
      const own = record.details.find((each) => each.id === detail);
      if (own?.kind === 'phone')
        expect([own.number, said.replace(/\s/g, '').includes(own.number)]).toEqual([own.number, ticks.print]);
      if (own?.kind === 'email') expect([own.address, said.includes(own.address)]).toEqual([own.address, ticks.print]);
    }
    // The text state of each word begins with its colour: of dark words 0 0 0 1 k (ISO 32000-1, 8.6.4.4: DeviceCMYK).
    const dark = [...content(1).matchAll(/BT\s+([\d. ]+ (?:k|rg))\s/g)].map(([, colour]) => colour);
    expect(dark.length).toBeGreaterThan(3);
    expect(dark).toContain('0 0 0 1 k');
  });
});

test('the code is the hand-out’s own and counts apart; at rest it prints nothing, and what is published later is printed later', async () => {
  const { link, unpublished, revision } = await openPiece(actor, id, clock);
  expect([(await ask(new URL(link).pathname)).status, unpublished]).toEqual([200, false]);
  const { lines, version, audience } = await openCard(actor, cardId);
  const fewer = lines.map((line, at) => (at === 0 ? line : { ...line, ticks: { ...line.ticks, print: false } }));
  await saveCard(actor, cardId, { baseVersion: version, lines: fewer, audience }, clock);
  // Asked before it is printed: the paper would say what the card says no longer.
  expect(await openPiece(actor, id, clock)).toMatchObject({ unpublished: true, revision });
  await publishCard(actor, cardId, { baseVersion: version + 1, address: 'on-paper' }, clock);
  const after = await openPiece(actor, id, clock);
  expect([after.unpublished, after.revision]).toEqual([false, revision + 1]);
  expect(after.proof.checks.find(({ name }) => name === 'ticked lines')!.finding).toMatchObject({ read: 1, of: 1 });
  await setState(actor, cardId, { state: 'resting', notice: '', instead: null }, clock);
  await expect(pieceFile(actor, id, clock)).rejects.toMatchObject(refused('CARD_NOT_PUBLISHED'));
  await setState(actor, cardId, { state: 'published', notice: '', instead: null }, clock);
});

test('a side by itself is as large as it is printed with its bleed, as vectors and at 300 dots an inch, and its code is read there', async () => {
  const { link } = await savePiece(actor, id, piece({}), clock);
  const svg = await pieceSide(actor, id, { side: 'front', format: 'svg' }, clock);
  expect(svg.bytes.toString()).toMatch(/^<svg [^>]*width="91mm" height="61mm" viewBox="-3 -3 91 61"/);
  const png = await pieceSide(actor, id, { side: 'back', format: 'png' }, clock);
  const { width, height, density } = await sharp(png.bytes).metadata();
  // 91 by 61 mm at 300 dots an inch.
  expect([width, height, density]).toEqual([1075, 720, 300]);
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'heathland-side-')), 'back.png');
  writeFileSync(file, png.bytes);
  expect(zbarimg(file)).toEqual([link.toUpperCase()]);
  await savePiece(actor, id, piece({ back: 'none' }), clock);
  const none = pieceSide(actor, id, { side: 'back', format: 'png' }, clock);
  await expect(none).rejects.toMatchObject(refused('NOT_FOUND'));
  await savePiece(actor, id, piece({}), clock);
});

test('copies are noted with the revision that they are of, corrected and taken away; a second piece is made up the same with a code of its own', async () => {
  const [run] = await addRun(actor, id, { printedOn: '2026-11-24', copies: 250, place: 'Print shop' }, clock);
  expect(run).toMatchObject({ printedOn: '2026-11-24', copies: 250, place: 'Print shop', revision: 2 });
  await addRun(actor, id, { printedOn: '2026-11-25', copies: 10, place: '' }, clock);
  const changed = await editRun(actor, id, run!.id, { printedOn: '2026-11-23', copies: 300, place: 'Office' }, clock);
  expect(changed.map(({ printedOn, copies }) => [printedOn, copies])).toEqual([
    ['2026-11-25', 10],
    ['2026-11-23', 300],
  ]);
  expect(await editRun(actor, id, run!.id, null, clock)).toHaveLength(1);
  await expect(editRun(actor, id, run!.id, null, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  await savePiece(actor, id, piece({ size: 'a5', sentence: 'Ride with us' }), clock);
  const second = await openPiece(actor, (await duplicateHandOut(actor, id, clock)).id, clock);
  expect([second.piece.size, second.piece.sentence, second.runs]).toEqual(['a5', 'Ride with us', []]);
  expect(second.link).not.toBe((await openPiece(actor, id, clock)).link);
});

/** Somebody with a card that says all this. */
async function saying(name: string, texts: string[], more: Partial<Parameters<typeof saveCard>[2]> = {}) {
  const made = await createRecord(actor, { name, phone: '', email: '' }, clock);
  const { body, version } = await openRecord(actor, made.recordId);
  const own = texts.map((text, at) => ({ kind: 'own' as const, id: `own${at}`, label: '', preferred: false, text }));
  await saveRecord(actor, made.recordId, version, { ...body, details: [...body.details, ...own] }, clock);
  const card = await openCard(actor, made.cardId);
  const lines = card.lines.map((line) => ({ ...line, ticks: { ...line.ticks, page: true, print: true } }));
  await saveCard(actor, made.cardId, { baseVersion: card.version, lines, audience: card.audience, ...more }, clock);
  const address = `says-${texts.length}-${name.length}`;
  await publishCard(actor, made.cardId, { baseVersion: card.version + 1, address }, clock);
  return (await makePiece(actor, { cardId: made.cardId, placement: 'Paper' }, clock)).id;
}

test('a name of sixty letters, Arabic beside Latin and no photo have room on the smallest card; forty lines have not, and say so', async () => {
  const long = await saying('Wilhelmina-Alexandrina van der Aa-Müller zu Skell Bridge-Hythe', [
    'إيلزه فارو مهندسة الحبال',
    'Seilbahnen',
  ]);
  const fits = await savePiece(actor, long, piece({ size: '90x50' }), clock);
  expect(fits.proof.checks.filter(({ passed }) => !passed)).toEqual([]);
  withPdf((await pieceFile(actor, long, clock)).bytes, ({ text, fonts }) => {
    // Poppler puts marks of direction around what is read from the right.
    expect(flat(text.replace(/[\u202a-\u202e]/g, ''))).toContain('إيلزه فارو مهندسة الحبال');
    expect(fonts.some(({ name }) => /Vazirmatn/.test(name))).toBe(true);
  });
  const foreign = await saying('Keld 李', ['Ropes 🚡 and cabins']);
  const letters = (await openPiece(actor, foreign, clock)).proof.checks.find(({ name }) => name === 'letters')!;
  expect(letters).toMatchObject({ passed: false, finding: { missing: ['李', '🚡'] } });
  const many = await saying(
    'Keld',
    Array.from({ length: 40 }, (_, at) => `Line ${at} of a card that says more than paper holds`),
  );
  const { proof } = await openPiece(actor, many, clock);
  expect(proof.checks[0]).toMatchObject({ name: 'room', passed: false });
  await expect(pieceFile(actor, many, clock)).rejects.toMatchObject(refused('PROOF_FAILED'));
  // On a back of their own more of them have room, and none is cut off in silence.
  const back = await savePiece(actor, many, piece({ back: 'lines', size: '91x55' }), clock);
  expect(back.proof.passed).toBe(false);
}, 90_000);

test('a code too small for print is refused with its size, and one that fills its room is not', async () => {
  const small = await savePiece(actor, id, piece({ codeMm: 6 }), clock);
  const finding = small.proof.checks.find(({ name }) => name === 'code')!;
  expect(finding.passed).toBe(false);
  await expect(pieceFile(actor, id, clock)).rejects.toMatchObject(refused('PROOF_FAILED'));
  const { code, proof } = await savePiece(actor, id, piece({ codeMm: 300 }), clock);
  expect([code.widthMm, proof.passed]).toEqual([code.roomMm, true]);
  // The ten-to-one rule of signs (common practice, no published source): read from two metres, as wide as 20 cm where there is room.
  const sign = await savePiece(actor, id, piece({ size: 'a3', form: 'standing', distanceMm: 2_000 }), clock);
  expect([sign.code.widthMm, sign.proof.passed]).toEqual([200, true]);
}, 90_000);

test('a sheet of an office printer is full of cards, their backs behind them; what has no room on it says so', async () => {
  const sheet = FIRST_SHEET;
  const shown = await savePiece(actor, id, piece({ sheet }), clock);
  expect(shown.proof.checks.filter(({ passed }) => !passed)).toEqual([]);
  expect(shown.proof.checks.find(({ name }) => name === 'sheet')!.finding).toMatchObject({ found: 16, of: 16 });
  withPdf((await pieceFile(actor, id, clock)).bytes, ({ pages, boxes, codes, faults, text }) => {
    expect([pages, faults]).toEqual([2, '']);
    expect(boxes(1).MediaBox!.map(Math.round)).toEqual([0, 0, 210, 297]);
    // Among many small codes zbar overlooks one now and then: a finer look decides.
    const all = Array<string>(8).fill(shown.link.toUpperCase());
    expect([codes(2), codes(2, 450), codes(2, 600)]).toContainEqual(all);
    expect(flat(text).split('Müller-Lind').length - 1).toBeGreaterThanOrEqual(8);
  });
  const none = await savePiece(actor, id, piece({ size: 'a4', sheet }), clock);
  expect(none.proof.checks.find(({ name }) => name === 'sheet')).toMatchObject({ passed: false, finding: { of: 0 } });
  // A sheet of labels by the pack's measures: 24 of 70 by 37 mm; one whose measures do not add up is told.
  const labelled = (more: Partial<typeof FIRST_LABELS>) =>
    savePiece(
      actor,
      id,
      piece({ size: 'label-own', sheet: { ...sheet, labels: { ...FIRST_LABELS, ...more } } }),
      clock,
    );
  expect((await labelled({})).proof.checks.filter(({ passed }) => !passed)).toEqual([]);
  withPdf((await pieceFile(actor, id, clock)).bytes, ({ pages, codes }) => {
    const read = codes(1);
    // Among so many on one page zbar may overlook one; the proof has found each at its place.
    expect([pages, new Set(read), read.length >= 20]).toEqual([1, new Set([shown.link.toUpperCase()]), true]);
  });
  const wrong = await labelled({ stepDown: 350 });
  expect(wrong.proof.checks.find(({ name }) => name === 'sheet')!.finding).toEqual({
    code: 'LABELS',
    fault: 'overlap',
  });
}, 90_000);

test('the house’s own logo and colours are on paper: for the band the logo for dark grounds, gradients and pictures drawn to the bleed', async () => {
  const mark = async (ink: string) => {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="300" height="100"><rect width="300" height="100" fill="${ink}"/></svg>`;
    const { picture: hash, ...size } = await addBlockPicture(
      actor,
      await sharp(Buffer.from(svg)).png().toBuffer(),
      clock,
    );
    return { hash, ...size };
  };
  const logos = { onLight: await mark('#123B4F'), onDark: await mark('#F0B08A') };
  const { number } = await readHouse(actor);
  const look = { ...NO_HOUSE.look, palette: { ...NO_HOUSE.look.palette, band: '#123B4F', onBand: '#FFFFFF' } };
  const ground = { kind: 'gradient' as const, to: '#1E5A63', angle: 165 };
  const style = HouseStyleSchema.parse({
    ...NO_HOUSE,
    look: { ...look, ground },
    logos,
    locks: { palette: 'ours', ground: 'ours' },
  });
  await saveHouse(actor, { baseNumber: number, style, note: '' }, clock);
  const { proof } = await savePiece(actor, id, piece({}), clock);
  expect(proof.checks.filter(({ passed }) => !passed)).toEqual([]);
  const { bytes } = await pieceFile(actor, id, clock);
  withPdf(bytes, ({ content, codes }) => {
    expect(content(1)).toMatch(/\/Pattern cs\s+\/G\w+ scn/);
    expect(codes(2)).toHaveLength(1);
  });
});

test('what a brand has inks for is printed by them: four per cents, or a plate with the name of the spot colour; the rest stays as screens have it', async () => {
  const { number, style } = await readHouse(actor);
  const { band, sheet } = style!.look.palette;
  const inks = [
    { colour: band, cmyk: [90, 40, 30, 45] as [number, number, number, number], spot: 'Tarnhope Slate' },
    { colour: sheet, cmyk: [0, 0, 4, 0] as [number, number, number, number], spot: '' },
  ];
  const plain = HouseStyleSchema.parse({ ...style, look: { ...style!.look, ground: { kind: 'plain' } }, inks });
  await saveHouse(actor, { baseNumber: number, style: plain, note: '' }, clock);
  const { proof } = await savePiece(actor, id, piece({}), clock);
  expect(proof.checks.filter(({ passed }) => !passed)).toEqual([]);
  expect(proof.checks.find(({ name }) => name === 'spot colours')!.finding).toEqual({
    ...{ code: 'SPOTS', found: ['Tarnhope Slate'], missing: [] },
  });
  withPdf((await pieceFile(actor, id, clock)).bytes, ({ content, faults, objects, codes }) => {
    expect(faults).toBe('');
    // A plate is a Separation over DeviceCMYK, and full tone its tint of 1 (ISO 32000-1, 8.6.6.4), as MuPDF shows the file.
    expect(objects).toMatch(/\/Separation\s*\/Tarnhope#20Slate\s*\/DeviceCMYK/);
    expect(objects).toMatch(/\/C1\s*\[\s*\.?0?\.?9[^\]]*\]/);
    expect(content(2)).toMatch(/\/Spot0 cs\s+1 scn/);
    expect(content(1)).toMatch(/0 0 0?\.04 0 k/);
    expect(codes(2)).toHaveLength(1);
  });
});
