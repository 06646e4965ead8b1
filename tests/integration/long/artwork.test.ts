import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { deflateSync } from 'node:zlib';
import sharp from 'sharp';
import { sayFinding, type Finding } from '@/core/findings';
import type { Placed } from '@/core/print';
import type { ShownPiece } from '@/core/shown';
import { closeCompute } from '@/server/compute';
import type { Actor } from '@/server/services/accounts/actor';
import { artworksOf } from '@/server/db/hand-outs/artworks';
import { inTenant } from '@/server/db/pool';
import { files } from '@/server/files';
import { deletePerson } from '@/server/services/cards/deletion';
import { duplicateHandOut } from '@/server/services/hand-outs/change';
import { sweep } from '@/server/services/jobs/sweeps';
import { openCard } from '@/server/services/cards/open-card';
import { dropArtwork, giveArtwork } from '@/server/services/pieces/give-artwork';
import { testDesign } from '@/server/services/hand-outs/designs';
import { makePiece, openPiece, pieceFile, pieceSide, savePiece } from '@/server/services/pieces/print';
import { publishCard } from '@/server/services/publishing/publish-card';
import { createRecord } from '@/server/services/records/create-record';
import { inked, shopPdf } from '../../fixtures/print-shop';
import { clock, refused } from '../full-card';
import { withPdf } from '../pdf-tools';
import { newActor, useDatabase } from '../place';

useDatabase();
afterAll(closeCompute);
let actor: Actor;
let id: string;
let recordId: string;

/** A typeface in the document itself, put there by MuPDF: 91 x 61 mm, so with 3 mm of bleed around 85 x 55. */
function byMupdf(pages: string[]): Buffer {
  const folder = mkdtempSync(path.join(tmpdir(), 'heathland-shop-'));
  const named = pages.map((content, at) => {
    const file = path.join(folder, `page-${at}.txt`);
    const font = path.resolve('assets/fonts/bitter/plain.ttf');
    writeFileSync(file, `%%MediaBox 0 0 257.953 172.913\n%%Font F0 ${font}\n${content}\n`);
    return file;
  });
  const made = path.join(folder, 'made.pdf');
  const { status, stderr } = spawnSync('mutool', ['create', '-o', made, ...named], { encoding: 'utf8' });
  if (status !== 0) throw new Error(stderr);
  return readFileSync(made);
}
const SHOP = byMupdf([inked('Ilse Varrow +44 20-7946-0182'), inked('Tarnhope Cableways', '0 0 0 0.05')]);

const give = (bytes: Buffer, side: 'front' | 'back' = 'front', name = 'card.pdf') =>
  giveArtwork(actor, id, { side, name, bytes }, clock);
const finding = <Code extends Finding['code']>({ proof }: ShownPiece, code: Code) =>
  proof.checks.find((check) => check.finding.code === code)?.finding as Extract<Finding, { code: Code }> | undefined;
const failing = ({ proof }: ShownPiece) => proof.checks.filter(({ passed }) => !passed).map(({ name }) => name);

beforeEach(async () => void (id && (await dropArtwork(actor, id, 'front', clock))));
beforeAll(async () => {
  actor = await newActor(clock);
  const made = await createRecord(
    actor,
    { name: 'Ilse Varrow', phone: '020 7946 0182', email: 'ilse.varrow@tarnhope.example' },
    clock,
  );
  ({ recordId } = made);
  const { version } = await openCard(actor, made.cardId);
  await publishCard(actor, made.cardId, { baseVersion: version, address: 'on-artwork' }, clock);
  ({ id } = await makePiece(actor, { cardId: made.cardId, placement: 'Card of the print shop' }, clock));
});

test('a print shop’s own card with our proven code: sizes, inks, typefaces, words and code as Debian’s readers tell them', async () => {
  const shown = await give(SHOP);
  expect([shown.piece.ground, shown.piece.size, failing(shown)]).toEqual(['artwork', '85x55', []]);
  expect(finding(shown, 'ARTWORK_LINES')).toMatchObject({ known: true, read: 2, of: 2, foreign: [] });
  const { bytes } = await pieceFile(actor, id, clock);
  withPdf(bytes, (told) => {
    expect([told.pages, told.faults]).toEqual([2, '']);
    const { TrimBox, BleedBox } = told.boxes(1);
    expect(TrimBox!.map((each) => each.toFixed(1))).toEqual(['10.0', '10.0', '95.0', '65.0']);
    expect(BleedBox!.map((each) => each.toFixed(1))).toEqual(['7.0', '7.0', '98.0', '68.0']);
    expect(told.fonts.every(({ emb }) => emb === 'yes')).toBe(true);
    expect(told.text).toContain('Ilse Varrow +44 20-7946-0182');
    expect([told.codes(1), told.codes(2)]).toEqual([[], [shown.link.toUpperCase()]]);
    // The four inks are those that the shop gave.
    expect(told.objects).toContain('/FormType 1');
  });
  // Whoever tests the printed card is told whose it is.
  const tested = await testDesign(actor, bytes);
  expect(tested.codes.map(({ page, ours }) => [page, ours?.placement])).toEqual([[2, 'Card of the print shop']]);
});

test('what is placed by hand stands there and is proven: a line, the code without a plate; what hides the code or goes over the cut is told', async () => {
  const shown = await give(SHOP);
  const line: Placed = {
    ...{ kind: 'line', side: 'back', line: shown.lines.find(({ value }) => value.includes('7946'))!.line, x: 8, y: 12 },
    ...{ widthMm: 45, points: 8, colour: '#000000', heavy: false, align: 'left' },
  };
  const code: Placed = { kind: 'code', side: 'back', x: 55, y: 25, widthMm: 24, plate: false };
  const placed = await savePiece(actor, id, { ...shown.piece, placed: [code, line] }, clock);
  expect(failing(placed)).toEqual([]);
  expect(finding(placed, 'ARTWORK_LINES')).toMatchObject({ read: 2, of: 2, missing: [] });
  expect(finding(placed, 'QUIET_ZONE')!.contrast).toBeGreaterThan(10);
  const { bytes } = await pieceFile(actor, id, clock);
  withPdf(bytes, (told) => {
    expect(told.text).toMatch(/\+44\s20\s7946\s0182/);
    expect(told.codes(2)).toEqual([shown.link.toUpperCase()]);
  });
  // On the front's dark ink there is no contrast, over its words nothing is free, beyond the cut nothing is kept.
  const dark = await savePiece(actor, id, { ...shown.piece, placed: [{ ...code, side: 'front' }] }, clock);
  expect(failing(dark)).toContain('margin of the code');
  const over = { ...code, side: 'front' as const, x: 4, y: 6, plate: true };
  expect(
    finding(await savePiece(actor, id, { ...shown.piece, placed: [over] }, clock), 'COVERED')!.letters,
  ).toBeGreaterThan(3);
  const out = await savePiece(actor, id, { ...shown.piece, placed: [{ ...code, x: 66 }] }, clock);
  expect(failing(out)).toContain('place of the code');
  await expect(pieceFile(actor, id, clock)).rejects.toMatchObject(refused('PROOF_FAILED'));
});

test('another size, no bleed, a number that is not ticked: each is told, with what helps', async () => {
  const wide = shopPdf([{ width: 96, height: 56, trim: [3, 3, 90, 50], content: '0 0 1 0 k 0 0 500 500 re f' }]);
  const shown = await give(wide);
  // It takes the size that the design is made for; another one does not fit.
  expect([shown.piece.size, failing(shown)]).toEqual(['90x50', []]);
  const other = await savePiece(actor, id, { ...shown.piece, size: '85x55' }, clock);
  expect(failing(other)).toContain('size of the design');
  expect(sayFinding(finding(other, 'ARTWORK_SIZE')!)).toContain('90 × 50 mm and not for 85 × 55');
  const bare = await give(shopPdf([{ width: 85, height: 55, content: '1 0 0 rg 0 0 500 500 re f' }]));
  expect(failing(bare)).toEqual(['bleed of the design']);
  const larger = await savePiece(actor, id, { ...bare.piece, enlarged: true }, clock);
  expect(failing(larger)).toEqual([]);
  // As its own picture it has its own colour: pure red, and no other.
  const side = await pieceSide(actor, id, { side: 'front', format: 'png' }, clock);
  const { data } = await sharp(side.bytes)
    .extract({ left: 60, top: 60, width: 1, height: 1 })
    .raw()
    .toBuffer({ resolveWithObject: true });
  expect([...data.subarray(0, 3)]).toEqual([255, 0, 0]);
  // White edges need none.
  expect(failing(await give(shopPdf([{ width: 85, height: 55, content: '0 0 1 0 k 60 60 90 40 re f' }])))).toEqual([]);
  // The number is said as people elsewhere write it where it is the same, and told where it is another.
  const foreign = await give(byMupdf([inked('Ilse Varrow 020 7946 0555')]));
  expect(finding(foreign, 'ARTWORK_LINES')).toMatchObject({ foreign: ['020 7946 0555'], read: 1, of: 2 });
});

test('a picture becomes the ground: its words are not known, coarse ones are told, its inks stay', async () => {
  const ground = { width: 1075, height: 720, channels: 3 as const, background: '#F2E8D5' };
  const shown = await give(await sharp({ create: ground }).png().toBuffer(), 'front', 'front.png');
  expect([failing(shown), finding(shown, 'ARTWORK_LINES')!.known]).toEqual([[], false]);
  expect(finding(shown, 'RESOLUTION')!.dpi).toBeCloseTo(300, -1);
  const coarse = await sharp({ create: { ...ground, width: 358, height: 240 } })
    .toColourspace('cmyk')
    .jpeg()
    .toBuffer();
  expect(finding(await give(coarse, 'front', 'front.jpg'), 'RESOLUTION')!.dpi).toBeCloseTo(100, -1);
  const { bytes } = await pieceFile(actor, id, clock);
  withPdf(bytes, (told) => expect(told.objects).toContain('/DeviceCMYK'));
});

test('scripts, notes and files that a design brings along stay outside, and that is told', async () => {
  const acting = shopPdf(
    [
      {
        width: 91,
        height: 61,
        content: '0 0 0 0.1 k 0 0 500 500 re f',
        more: '/Annots [21 0 R] /AA << /O 20 0 R >> /Group << /S /Transparency /CS /DeviceCMYK /X 20 0 R >>',
      },
    ],
    {
      catalog: '/OpenAction 20 0 R /Names << /JavaScript << /Names [(a) 20 0 R] >> >>',
      objects: [
        '<< /S /JavaScript /JS (app.alert\\(1\\)) >>',
        '<< /Type /Annot /Subtype /Link /Rect [0 0 9 9] /A << /S /URI /URI (http://shop.example) >> >>',
        '<< /Type /Filespec /F (secret.txt) >>',
      ],
    },
  );
  const shown = await give(acting);
  expect(finding(shown, 'ARTWORK_CLEANED')!.removed.sort()).toEqual(['files', 'notes', 'script']);
  const { bytes } = await pieceFile(actor, id, clock);
  withPdf(bytes, ({ objects, faults }) => {
    expect(faults).toBe('');
    expect(/JavaScript|\/JS\b|Annot|URI|Filespec|OpenAction/.exec(objects)).toBeNull();
  });
});

test('what cannot be a design is refused in words: locked, with hidden layers, broken, no picture, one that unfolds without end', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'heathland-locked-'));
  writeFileSync(path.join(folder, 'open.pdf'), SHOP);
  spawnSync('qpdf', ['--encrypt', 'rope', 'owner', '256', '--', 'open.pdf', 'locked.pdf'], { cwd: folder });
  await expect(give(readFileSync(path.join(folder, 'locked.pdf')))).rejects.toMatchObject(refused('DESIGN_LOCKED'));
  const layered = shopPdf([{ width: 91, height: 61, content: '' }], {
    catalog: '/OCProperties << /OCGs [20 0 R] /D << /OFF [20 0 R] >> >>',
    objects: ['<< /Type /OCG /Name (Die line) >>'],
  });
  await expect(give(layered)).rejects.toMatchObject(refused('ARTWORK_LAYERS'));
  await expect(give(SHOP.subarray(0, 700))).rejects.toMatchObject(refused('ARTWORK_UNREADABLE'));
  await expect(give(Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>'))).rejects.toMatchObject(
    refused('ARTWORK_UNREADABLE'),
  );
  await expect(give(Buffer.alloc(20_000_001))).rejects.toMatchObject(refused('FILE_TOO_LARGE'));
  const zeros = deflateSync(Buffer.alloc(300_000_000, 0x20)).toString('latin1');
  const bomb = Buffer.from(
    shopPdf([{ width: 91, height: 61, content: '' }])
      .toString('latin1')
      .replace('<< /Length 0 >>\nstream\n', `<< /Length ${zeros.length} /Filter /FlateDecode >>\nstream\n${zeros}`),
    'latin1',
  );
  await expect(give(bomb)).rejects.toMatchObject(refused('ARTWORK_UNREADABLE'));
});

test('a design goes, and the piece has the look of the card again; nobody else gives or takes one', async () => {
  await give(SHOP);
  const other = await newActor(clock);
  await expect(giveArtwork(other, id, { side: 'front', name: '', bytes: SHOP }, clock)).rejects.toMatchObject(
    refused('NOT_FOUND'),
  );
  await expect(dropArtwork(other, id, 'front', clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  const frontOnly = await dropArtwork(actor, id, 'back', clock);
  expect([frontOnly.back, frontOnly.piece.placed[0]!.side, failing(frontOnly)]).toEqual([null, 'front', []]);
  const plain = await dropArtwork(actor, id, 'front', clock);
  expect([plain.piece.ground, plain.artworks, failing(plain)]).toEqual(['look', null, []]);
  await expect(give(SHOP, 'back')).rejects.toMatchObject(refused('INPUT'));
});

test('a second piece like it has the design as well; both go with whom they are for, and their file with them', async () => {
  await give(SHOP);
  const { id: second } = await duplicateHandOut(actor, id, clock);
  const like = await openPiece(actor, second, clock);
  expect([like.piece.ground, failing(like), like.artworks!.back?.name]).toEqual(['artwork', [], 'card.pdf']);
  const { front } = await inTenant(actor.organisationId, (tx) => artworksOf(tx, second));
  await dropArtwork(actor, id, 'front', clock);
  await deletePerson(actor, recordId, clock);
  expect(await files().get(front!.file)).not.toBeNull();
  await sweep(['deleted'], { now: () => clock.now() + 31 * 86_400_000 });
  expect(await files().get(front!.file)).toBeNull();
});
