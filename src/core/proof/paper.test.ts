import { readFileSync } from 'node:fs';
import { FIRST_BACKDROP, layBackdrop } from '@/core/backdrop';
import { CompositionSchema, type Composition } from '@/core/card';
import { createTypesetter, type Face, type FaceItem, type Typesetter } from '@/core/face';
import { FIRST_LOOK } from '@/core/look';
import { loadWords } from '@/core/messages';
import { FIRST_PIECE, layPiece, placesOn, trimOf, type LaidPiece, type Piece } from '@/core/print';
import { drawCode, PLAIN_STYLE, symbolFor } from '@/core/qr';
import { proveBackdrop, type ReadBackdrop } from './backdrop';
import { provePass, type ReadPass } from './pass';
import { provePrint, provePrintedWords, type PrintedCode, type ReadPrint, type ReadSide } from './print';
import type { Proof } from './proof';

/*
 * A proof is as good as what it finds: a piece, a backdrop and a pass as they would be read back from sound files, each with one thing in it
 * that should not be there or without one that should. Numbers are those that Ofcom reserves for fiction.
 */
let typesetter: Typesetter;
beforeAll(async () => {
  typesetter = createTypesetter(await import('harfbuzzjs'), (family, weight) =>
    readFileSync(`assets/fonts/${family}/${weight}.ttf`),
  );
  await loadWords('en');
});

const EVERYWHERE = ['page', 'print', 'backdrop', 'pass'] as const;
const line = (id: string, label: string, detail: object, on: readonly string[] = EVERYWHERE) => ({
  ...{ id, label, on: [...on], preferred: false, opens: null },
  detail: { id, label: '', preferred: false, ...detail },
});
const composed = (lines: object[], more: object = {}): Composition =>
  CompositionSchema.parse({
    name: { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' },
    lines,
    ...more,
  });
const DESK = line('p', 'Desk', { kind: 'phone', number: '+442079460182', uses: ['work'] });
const MAIL = line('m', '', { kind: 'email', address: 'ilse@tarnhope.example', uses: ['work'] });
const card = composed([DESK, MAIL]);
const PRIVATE = ['+44 7700 900184', 'Kest'];

const LINK = 'HTTPS://CARDS.EXAMPLE/H/7K3M9QWD';
const symbol = symbolFor(LINK);
const code = drawCode(symbol, PLAIN_STYLE);
/** ISO/IEC 18004, 9.1: four light modules on each side of the symbol. */
const QUIET = 4;

const failed = ({ checks }: Proof) => checks.filter(({ passed }) => !passed).map(({ name }) => name);
const noted = ({ checks }: Proof) => checks.filter(({ note }) => note).map(({ name }) => name);
const finding = ({ checks }: Proof, code: string) => checks.find((check) => check.finding.code === code)?.finding;
const of = <Kind extends FaceItem['kind']>({ items }: Face, kind: Kind) =>
  items.filter((item): item is Extract<FaceItem, { kind: Kind }> => item.kind === kind);
const wordsOn = (face: Face) => of(face, 'text').map(({ says }) => says);

/** The code of a face as sound readers find it: its symbol without the margin. */
const codesOn = (face: Face, at = { x: 0, y: 0 }): PrintedCode[] =>
  of(face, 'code').map(({ x, y, width }) => {
    const module = width / (symbol.size + 2 * QUIET);
    return {
      ...{ text: LINK, x: at.x + x + QUIET * module, y: at.y + y + QUIET * module, width: symbol.size * module },
      ...{ modules: symbol.size, readers: 2 },
    };
  });

describe('the proof of a printed piece', () => {
  const laidAs = (piece: Piece, composition = card) =>
    layPiece(
      {
        ...{ composition, language: 'en', piece, code },
        pictures: { photo: null, logo: null, logoOnBand: null },
      },
      typesetter,
    );
  const facesOf = ({ front, back }: LaidPiece) => [front, ...(back ? [back] : [])];
  /** The sides of a sound file of a piece. */
  const sidesOf = (laid: LaidPiece): ReadSide[] =>
    facesOf(laid).map((face) => ({
      ...{ trim: { width: face.width, height: face.height }, bleedMm: 3, text: wordsOn(face).join('\n') },
      ...{ smallestPt: 6.5, nearestMm: 8, dpi: [300], contrasts: [12, 7], codes: codesOn(face), spots: [] },
    }));
  const proven = (
    spoil: (sides: ReadSide[]) => ReadSide[] = (sides) => sides,
    {
      piece = FIRST_PIECE,
      fonts = { embedded: 2, of: 2 },
      laid = laidAs(piece),
      ...more
    }: Partial<Parameters<typeof provePrint>[1]> & Partial<Pick<ReadPrint, 'fonts'>> = {},
  ) =>
    provePrint(
      { sides: spoil(sidesOf(laid)), fonts },
      { composition: card, withheld: PRIVATE, piece, laid, link: LINK, inks: [], ...more },
    );
  const each = (change: Partial<ReadSide>) => (sides: ReadSide[]) => sides.map((side) => ({ ...side, ...change }));
  const codes = (change: (code: PrintedCode) => Partial<PrintedCode>) => (sides: ReadSide[]) =>
    sides.map((side) => ({ ...side, codes: side.codes.map((each) => ({ ...each, ...change(each) })) }));

  test('a sound file passes, of every kind of piece, and says what it measured', () => {
    for (const piece of [
      FIRST_PIECE,
      { ...FIRST_PIECE, back: 'lines' as const },
      { ...FIRST_PIECE, back: 'none' as const, form: 'standing' as const },
      { ...FIRST_PIECE, size: 'badge' as const },
      { ...FIRST_PIECE, size: 'a6' as const },
      { ...FIRST_PIECE, size: 'label-63x38' as const },
    ]) {
      const proof = proven(undefined, { piece });
      expect([piece.size, piece.back, proof.passed, noted(proof)]).toEqual([piece.size, piece.back, true, []]);
      // Of a sign, a badge and a label nobody asks the lines: they say who it is.
      expect([piece.size, finding(proof, 'ON_PAPER')?.code]).toEqual([
        piece.size,
        piece.size === '85x55' ? 'ON_PAPER' : undefined,
      ]);
    }
    expect(finding(proven(), 'ON_PAPER')).toEqual({ code: 'ON_PAPER', read: 3, of: 3, missing: [] });
    expect(finding(proven(), 'TRIM')).toEqual({ code: 'TRIM', width: 85, height: 55, bleedMm: 3, right: true });
    expect(finding(proven(), 'UNTICKED')).toEqual({ code: 'UNTICKED', still: 0, of: 2 });
  });

  test.each<[string, (sides: ReadSide[]) => ReadSide[], string[]]>([
    ['a mail address that no reader finds', each({ text: 'Ilse Varrow 020 7946 0182' }), ['ticked lines', 'words']],
    // A sentence beside the code is no line of the card, and yet it was meant to be there.
    ['a back without its sentence', ([front, back]) => [front!, { ...back!, text: '' }], ['words']],
    [
      'a private number in other letters',
      each({ text: `${wordsOf(card)}\n+447700 900184` }),
      ['words', 'unticked lines'],
    ],
    ['no code at all', each({ codes: [] }), ['code']],
    ['another link in the code', codes(() => ({ text: `${LINK}X` })), ['code']],
    ['a code that one reader fails on', codes(() => ({ readers: 1 })), ['code']],
    ['a code half a millimetre and more to the right', codes(({ x }) => ({ x: x + 0.6 })), ['code']],
    ['a code half a millimetre and more too high', codes(({ y }) => ({ y: y - 0.6 })), ['code']],
    ['a code smaller than it was put', codes(({ width }) => ({ width: width - 1.1 })), ['code']],
    ['modules finer than a quarter of a millimetre', codes(({ width }) => ({ modules: width / 0.24 })), ['code']],
    ['type of 4.4 points', each({ smallestPt: 4.4 }), ['type']],
    ['words 3 mm from the cut', each({ nearestMm: 3 }), ['safe area']],
    ['a pale word', each({ contrasts: [12, 4.1] }), ['contrast']],
    ['another size', each({ trim: { width: 85, height: 54.9 } }), ['trim and bleed']],
    ['too little bleed', each({ bleedMm: 2.9 }), ['trim and bleed']],
    ['a side too few', ([front]) => [front!], ['code', 'words', 'trim and bleed']],
  ])('%s fails it', (_, spoil, names) => expect(failed(proven(spoil)).sort()).toEqual([...names].sort()));

  test('what is as it was put within half a millimetre, in six points and at two hundred pixels an inch is let pass; below it is noted or refused', () => {
    expect(failed(proven(codes(({ x, y }) => ({ x: x + 0.49, y: y - 0.49 }))))).toEqual([]);
    expect([noted(proven(each({ smallestPt: 6 }))), noted(proven(each({ smallestPt: 5.9 })))]).toEqual([[], ['type']]);
    expect(noted(proven(each({ dpi: [400, 200] })))).toEqual([]);
    const coarse = proven(each({ dpi: [400, 199] }));
    expect([failed(coarse), noted(coarse), finding(coarse, 'RESOLUTION')]).toEqual([
      ...[[], ['pictures'], { code: 'RESOLUTION', dpi: 199, least: 200 }],
    ]);
    expect(finding(proven(each({ dpi: [] })), 'RESOLUTION')).toMatchObject({ dpi: 0 });
    expect(failed(proven(undefined, { fonts: { embedded: 1, of: 2 } }))).toEqual(['typefaces']);
    // Nothing but a code has neither type nor place nor contrast of words.
    const bare = proven(each({ smallestPt: Infinity, nearestMm: Infinity, contrasts: [] }));
    expect(['TYPE', 'SAFE', 'CONTRAST'].map((code) => finding(bare, code))).toEqual([undefined, undefined, undefined]);
  });

  test('a line that had no room, words cut short and letters that nobody has are told by name', () => {
    const laid = laidAs(FIRST_PIECE);
    const without = (change: Partial<Face>) =>
      proven(undefined, { laid: { ...laid, front: { ...laid.front, ...change } } });
    const left = without({ leftOut: ['p', 'm', 'gone'] });
    expect([failed(left), finding(left, 'HAD_ROOM')]).toEqual([
      ...[['room'], { code: 'HAD_ROOM', left: ['Desk', 'ilse@tarnhope.example'], cut: false }],
    ]);
    expect(finding(without({ cut: ['name'] }), 'HAD_ROOM')).toMatchObject({ left: [], cut: true });
    const odd = without({ missing: [...'ⵣⵣ𐤀'] });
    expect([failed(odd), finding(odd, 'LETTERS')]).toEqual([['letters'], { code: 'LETTERS', missing: ['ⵣ', '𐤀'] }]);
  });

  test('spot colours: each that stands on a side has its plate or is told of, and a plate that nobody asked for fails', () => {
    const { ink, band } = FIRST_LOOK.palette as { ink: string; band: string };
    const spot = (colour: string, name: string) => ({
      colour,
      cmyk: [0, 0, 0, 100] as [number, number, number, number],
      spot: name,
    });
    const laid = laidAs(FIRST_PIECE);
    const colours = new Set(
      facesOf(laid).flatMap(({ items }) => items.flatMap((item) => ('colour' in item ? item.colour : []))),
    );
    expect([...colours].map((each) => each.toUpperCase())).toEqual(
      expect.arrayContaining([ink, band].map((each) => each.toUpperCase())),
    );
    const inks = [spot(ink, 'Rope black'), spot(band.toLowerCase(), 'Mast green'), spot('#012345', 'Never used')];
    const with_ = (...spots: string[]) => proven(each({ spots }), { inks });
    const both = with_('Mast green', 'Rope black');
    expect([both.passed, finding(both, 'SPOTS')]).toEqual([
      ...[true, { code: 'SPOTS', found: ['Mast green', 'Rope black'], missing: [] }],
    ]);
    expect(finding(with_('Rope black'), 'SPOTS')).toMatchObject({ missing: ['Mast green'] });
    expect(failed(with_('Rope black', 'Cyan of nobody'))).toEqual(['spot colours']);
    // Four inks without a name make no plate.
    expect(finding(proven(undefined, { inks: [spot(ink, '')] }), 'SPOTS')).toBeUndefined();
  });

  test('a sheet has every copy where it was put, its words as often; what does not add up is told', () => {
    const piece: Piece = { ...FIRST_PIECE, back: 'none' };
    const laid = laidAs({ ...piece, size: 'label-63x38' });
    const places = placesOn('a4', trimOf({ ...piece, size: 'label-63x38' })).map((at) => ({ face: laid.front, ...at }));
    expect(places.length).toBeGreaterThan(3);
    const words = wordsOn(laid.front).join('\n');
    const whole: ReadSide = {
      ...{ trim: { width: 210, height: 297 }, bleedMm: 0, text: places.map(() => words).join('\n') },
      ...{ smallestPt: 6, nearestMm: 8, dpi: [], contrasts: [], spots: [] },
      codes: places.flatMap((at) => codesOn(laid.front, at)),
    };
    const sheet = (side: ReadSide | null, fault: 'overlap' | 'beyond' | null = null) =>
      proven(undefined, {
        ...{ piece: { ...piece, size: 'label-63x38' }, laid },
        sheets: { read: { sides: side ? [side] : [], fonts: { embedded: 1, of: 1 } }, places: [places], fault },
      });
    const all = { code: 'SHEET', found: places.length, of: places.length };
    expect([failed(sheet(whole)), finding(sheet(whole), 'SHEET')]).toEqual([[], all]);
    const moved = { ...whole, codes: whole.codes.map((each, at) => (at === 1 ? { ...each, y: each.y + 0.6 } : each)) };
    expect([failed(sheet(moved)), finding(sheet(moved), 'SHEET')]).toEqual([['sheet'], { ...all, found: all.of - 1 }]);
    // A copy without its words cannot be told from the others.
    const wordless = {
      ...whole,
      text: places
        .slice(1)
        .map(() => words)
        .join('\n'),
    };
    expect(finding(sheet(wordless), 'SHEET')).toMatchObject({ found: 0 });
    expect(failed(sheet(null))).toEqual(['sheet']);
    expect(finding(sheet(whole, 'overlap'), 'LABELS')).toEqual({ code: 'LABELS', fault: 'overlap' });
    // What a sheet says besides is searched as well.
    expect(failed(sheet({ ...whole, text: `${whole.text}\nKest` }))).toEqual(['unticked lines']);
    const typefaces = proven(undefined, {
      ...{ piece: { ...piece, size: 'label-63x38' }, laid },
      sheets: { read: { sides: [whole], fonts: { embedded: 0, of: 1 } }, places: [places], fault: null },
    });
    expect(failed(typefaces)).toEqual(['typefaces']);
  });

  test('before there is a file, the words that it would have are held against the ticks', () => {
    const words = facesOf(laidAs(FIRST_PIECE)).flatMap(wordsOn).join('\n');
    expect(failed(provePrintedWords(words, card, PRIVATE))).toEqual([]);
    expect(failed(provePrintedWords(`${words} kes`, card, ['Kest']))).toEqual([]);
    expect(failed(provePrintedWords(`${words} k.ES-T`, card, ['Kest']))).toEqual(['unticked lines']);
    const elsewhere = composed([DESK, line('n', '', { kind: 'note', text: 'Rings back' }, ['backdrop'])]);
    expect(failed(provePrintedWords('Ilse Varrow +44 20 7946 0182', elsewhere, []))).toEqual([]);
    expect(finding(provePrintedWords('Ilse Varrow', elsewhere, [], 'backdrop'), 'ON_PAPER')).toEqual({
      ...{ code: 'ON_PAPER', read: 1, of: 3, missing: ['Desk', 'Rings back'] },
    });
  });
});

/** What a card says on paper, letter by letter. */
function wordsOf({ name, lines }: Composition): string {
  expect(lines).toHaveLength(2);
  return `${name.given} ${name.family} +44 20 7946 0182 ilse@tarnhope.example`;
}

describe('the proof of a backdrop', () => {
  const proven = (
    spoil: Partial<ReadBackdrop> | ((read: ReadBackdrop) => ReadBackdrop) = {},
    change: (face: Face) => Face = (face) => face,
    withheld = PRIVATE,
  ) => {
    const order = { composition: card, language: 'en', backdrop: FIRST_BACKDROP, code };
    const face = change(layBackdrop({ ...order, pictures: { photo: null, logo: null } }, typesetter));
    const sound: ReadBackdrop = { width: 1920, height: 1080, codes: codesOn(face), contrasts: [9, 5] };
    const read = typeof spoil === 'function' ? spoil(sound) : { ...sound, ...spoil };
    return proveBackdrop(read, { composition: card, withheld, face, link: LINK, bytes: 77_000 });
  };
  const moved = (change: Partial<Record<'x' | 'y', number>>) => (face: Face) => ({
    ...face,
    items: face.items.map((item) => (item.kind === 'text' ? { ...item, ...change } : item)),
  });
  const codes = (change: (code: PrintedCode) => Partial<PrintedCode>) => (read: ReadBackdrop) => ({
    ...read,
    codes: read.codes.map((each) => ({ ...each, ...change(each) })),
  });

  test('a sound one passes; sizes are those that a call leaves of 1920 by 1080, a third', () => {
    const proof = proven();
    expect([proof.passed, noted(proof)]).toEqual([true, []]);
    const module = 330 / (symbol.size + 2 * QUIET);
    expect(finding(proof, 'CALL_CODE')).toEqual({
      ...{ code: 'CALL_CODE', readers: 2, of: 2, placed: true },
      pixels: expect.closeTo(module / 3, 6),
    });
    expect(finding(proof, 'SIZE')).toEqual({ code: 'SIZE', bytes: 77_000, photo: 0 });
    expect(finding(proof, 'ON_PAPER')).toMatchObject({ read: 3, of: 3 });
  });

  test.each<[string, Parameters<typeof proven>, string[]]>([
    ['words behind whoever sits there', [{}, moved({ x: 700, y: 300 })], ['middle']],
    ['words that end where the sitter begins are none of them', [{}, moved({ y: 40 })], []],
    ['another link', [codes(() => ({ text: 'HTTPS://CARDS.EXAMPLE/' }))], ['code']],
    ['a code that one reader loses in the call', [codes(() => ({ readers: 1 }))], ['code']],
    ['a code that was moved by two pixels of a call', [codes(({ x }) => ({ x: x + 6 }))], ['code']],
    ['a code that was moved by one', [codes(({ x, y }) => ({ x: x + 3, y: y - 3 }))], []],
    [
      'a face without a code',
      [{}, (face) => ({ ...face, items: face.items.filter(({ kind }) => kind !== 'code') })],
      ['code'],
    ],
    ['a pale word', [{ contrasts: [9, 4.1] }], ['contrast']],
    ['a smaller picture', [{ width: 1280, height: 720 }], ['size']],
    ['type of 26 pixels', [{}, (face) => ({ ...face, smallestType: 26 })], ['type']],
    ['words cut short', [{}, (face) => ({ ...face, cut: ['name'] })], ['room']],
    ['letters that nobody has', [{}, (face) => ({ ...face, missing: ['ⵣ'] })], ['letters']],
    ['a value that nobody ticked', [{}, undefined, ['Varrow']], ['unticked lines']],
    [
      'no words at all',
      [{}, (face) => ({ ...face, items: of(face, 'code'), smallestType: Infinity })],
      ['ticked lines'],
    ],
  ])('%s', (_, given, names) => expect(failed(proven(...given))).toEqual(names));
});

describe('the proof of a pass', () => {
  const NOW = Date.parse('2026-11-30T10:00:00Z');
  const sound: ReadPass = {
    names: ['pass.json', 'manifest.json', 'signature', 'icon.png', 'icon@2x.png'],
    wrong: [],
    signature: {
      ...{ fits: true, chained: true, passType: 'pass.example.tarnhope', team: 'TARNHOPE01' },
      ...{ from: '2026-01-01T00:00:00Z', until: '2027-06-01T00:00:00Z' },
    },
    pass: {
      ...{ passTypeIdentifier: 'pass.example.tarnhope', teamIdentifier: 'TARNHOPE01' },
      barcodes: [{ message: LINK, format: 'QR' }],
      generic: {
        primaryFields: [{ key: 'name', value: 'Ilse Varrow' }],
        backFields: [
          { label: 'Desk', value: '+44 20 7946 0182' },
          { label: '', value: 'ilse@tarnhope.example' },
          { label: 'Since', value: 1998 },
        ],
      },
    },
  };
  const proven = (change: Partial<ReadPass> = {}, voided = false, withheld = PRIVATE) =>
    provePass(
      { ...sound, ...change },
      {
        ...{ composition: card, withheld, link: LINK, passType: 'pass.example.tarnhope', team: 'TARNHOPE01' },
        ...{ voided, now: NOW, bytes: 9_000 },
      },
    );
  const signed = (change: Partial<ReadPass['signature']>) => ({ signature: { ...sound.signature, ...change } });
  const says = (change: Record<string, unknown>) => ({ pass: { ...sound.pass, ...change } });

  test('a sound one passes, and one whose card is out no more without its code', () => {
    expect([proven().passed, noted(proven())]).toEqual([true, []]);
    expect(proven(says({ barcodes: [] }), true).passed).toBe(true);
    expect(finding(proven(), 'PASS_SIGNED')).toEqual({
      ...{ code: 'PASS_SIGNED', fits: true, known: true, holds: true, until: '2027-06-01' },
    });
  });

  test.each<[string, Parameters<typeof proven>, string[]]>([
    ['a file that was changed after it was signed', [{ wrong: ['icon.png'] }], ['files']],
    // Without its icons a phone opens no pass (common practice, no published source).
    ['no icon', [{ names: sound.names.filter((name) => name !== 'icon@2x.png') }], ['files']],
    ['a signature that does not fit', [signed({ fits: false })], ['signature']],
    ['a certificate of nobody known', [signed({ chained: false })], ['signature']],
    ['a certificate for another kind of pass', [signed({ passType: 'pass.example.other' })], ['signature']],
    ['another team', [signed({ team: 'SOMEBODY' })], ['signature']],
    ['a certificate that ended today', [signed({ until: '2026-11-30T10:00:00Z' })], ['signature']],
    ['a certificate that begins tomorrow', [signed({ from: '2026-12-01T00:00:00Z' })], ['signature']],
    ['a certificate without days', [signed({ from: '', until: '' })], ['signature']],
    ['another link', [says({ barcodes: [{ message: 'https://cards.example/' }] })], ['code']],
    ['two codes', [says({ barcodes: [{ message: LINK }, { message: LINK }] })], ['code']],
    ['no code', [says({ barcodes: undefined })], ['code']],
    ['a code though the card is out no more', [{}, true], ['code']],
    ['no fields', [says({ generic: undefined })], ['ticked lines']],
    [
      'a private word as a label',
      [says({ generic: { ...(sound.pass.generic as object), auxiliaryFields: [{ label: 'Kest' }] } })],
      ['unticked lines'],
    ],
    ['a private number as a number', [{}, false, ['1998']], ['unticked lines']],
  ])('%s fails it', (_, given, names) => expect(failed(proven(...given))).toEqual(names));

  test('a certificate that ends within thirty days is told of and fails nothing', () => {
    expect(noted(proven(signed({ until: '2026-12-30T10:00:00Z' })))).toEqual([]);
    const soon = proven(signed({ until: '2026-12-30T09:59:59Z' }));
    expect([soon.passed, noted(soon)]).toEqual([true, ['signature']]);
    expect(noted(proven(signed({ until: '2026-11-29T00:00:00Z' })))).toEqual([]);
  });
});
