import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { composeDraft, linesOn, squeeze, type Composition } from '@/core/card';
import { createTypesetter, type Face, type FaceItem, type Typesetter } from '@/core/face';
import { loadWords } from '@/core/messages';
import { drawCode, PLAIN_STYLE, symbolFor } from '@/core/qr';
import { shownValue, writtenName } from '@/core/record';
import { anyCard } from '../../../tests/fixtures/any-card';
import { bled, codeMmOf, FIRST_PIECE, layPiece, roomsOf, SIZE_NAMES, sizeOf, trimOf, type Piece } from './index';

let typesetter: Typesetter;
beforeAll(async () => {
  typesetter = createTypesetter(await import('harfbuzzjs'), (family, weight) =>
    readFileSync(`assets/fonts/${family}/${weight}.ttf`),
  );
  await Promise.all(['en', 'ar'].map((language) => loadWords(language)));
});

const code = drawCode(symbolFor('HTTPS://CARDS.EXAMPLE/H/7K3M9QWD'), PLAIN_STYLE);
const laid = (composition: Composition, piece: Piece, language = 'en') =>
  layPiece(
    {
      composition,
      language,
      piece,
      code,
      pictures: { photo: null, logo: null, logoOnBand: { width: 300, height: 100 } },
    },
    typesetter,
  );
const sidesOf = ({ front, back }: ReturnType<typeof laid>) => [front, ...(back ? [back] : [])];
const of = <Kind extends FaceItem['kind']>(face: Face, kind: Kind) =>
  face.items.filter((item): item is Extract<FaceItem, { kind: Kind }> => item.kind === kind);

const anyPiece: fc.Arbitrary<Piece> = fc.record({
  size: fc.constantFrom(...SIZE_NAMES),
  form: fc.constantFrom('lying', 'standing'),
  back: fc.constantFrom('code', 'lines', 'none'),
  sentence: fc.constantFrom('', 'Ride with us', 'Up, and down again, safely: every day from six in the morning'),
  codeMm: fc.option(fc.double({ min: 5, max: 300, noNaN: true })),
  distanceMm: fc.constantFrom(300, 1_000, 5_000),
  marks: fc.constant(true),
  ...{ ground: fc.constant('look' as const), placed: fc.constant([]), enlarged: fc.constant(false) },
  sheet: fc.constant(null),
  own: fc.record({ width: fc.integer({ min: 40, max: 200 }), height: fc.integer({ min: 25, max: 150 }) }),
});
const composedOf = ({
  record,
  draft,
}: {
  record: Parameters<typeof composeDraft>[0];
  draft: Parameters<typeof composeDraft>[1];
}) => {
  const made = composeDraft(record, draft, 'GB');
  if (!made.ok) throw new Error(made.problem.code);
  return made.value;
};

test('whatever a card says: words and code keep their margins and lie apart, and what stands on no face is told', () => {
  fc.assert(
    fc.property(anyCard, anyPiece, (card, piece) => {
      const composition = composedOf(card);
      const faces = sidesOf(laid(composition, piece));
      const { margin, leastType } = roomsOf(piece.size);
      const { width, height } = trimOf(piece);
      const said = squeeze(faces.flatMap((face) => of(face, 'text').map(({ says }) => says)).join('\n'));
      const told = new Set(faces.flatMap(({ leftOut }) => leftOut));
      const cut = faces.some((face) => face.cut.length > 0);
      for (const face of faces) {
        expect([face.width, face.height]).toEqual([width, height]);
        if (cut || told.size > 0) continue;
        for (const { x, y, text, shifts } of of(face, 'text')) {
          expect(text.size).toBeGreaterThanOrEqual(leastType - 1e-9);
          text.widths.forEach((each, line) => {
            expect(x + shifts[line]!).toBeGreaterThanOrEqual(margin - 0.01);
            expect(x + shifts[line]! + each).toBeLessThanOrEqual(width - margin + 0.01);
          });
          expect(y).toBeGreaterThanOrEqual(margin - 0.01);
          expect(y + text.height).toBeLessThanOrEqual(height - margin + 0.01);
          for (const box of of(face, 'code')) {
            const beside = x + Math.max(...text.widths) <= box.x + 0.01 || x >= box.x + box.width - 0.01;
            const apart = y + text.height <= box.y + 0.01 || y >= box.y + box.height - 0.01;
            expect(beside || apart).toBe(true);
          }
        }
      }
      if (sizeOf(piece.size).stock !== 'card' || cut) return;
      // Every line that is ticked for paper is said, or told as left out; the name always stands there.
      expect(said).toContain(squeeze(writtenName(composition.name)));
      for (const { id, detail } of linesOn(composition, 'print'))
        if (detail.kind !== 'photo' && detail.kind !== 'logo' && !told.has(id))
          expect([detail.kind, said.includes(squeeze(shownValue(detail)))]).toEqual([detail.kind, true]);
    }),
    { numRuns: 120 },
  );
});

test('a code of one face is the wanted one, within the trim, and as wide as its piece gives it', () => {
  fc.assert(
    fc.property(anyCard, anyPiece, (card, piece) => {
      const codes = sidesOf(laid(composedOf(card), piece)).flatMap((face) => of(face, 'code'));
      const wanted = sizeOf(piece.size).stock !== 'card' || piece.back === 'code' ? 1 : 0;
      expect(codes).toHaveLength(wanted);
      for (const { x, y, width, height, drawing } of codes) {
        const trim = trimOf(piece);
        expect([drawing === code, width]).toEqual([true, codeMmOf(piece)]);
        expect(Math.min(x, y, trim.width - x - width, trim.height - y - height)).toBeGreaterThanOrEqual(-0.01);
      }
    }),
    { numRuns: 60 },
  );
});

test('where reading begins on the right the code stands on the left', () => {
  const draft = fc.sample(anyCard, { numRuns: 1, seed: 7 })[0]!;
  const [english, arabic] = (['en', 'ar'] as const).map(
    (language) => laid(composedOf(draft), FIRST_PIECE, language).back!,
  );
  const [at, mirrored] = [english!, arabic!].map((face) => of(face, 'code')[0]!.x);
  expect(at! + of(english!, 'code')[0]!.width + mirrored!).toBeCloseTo(85, 6);
  expect(mirrored).toBeLessThan(at!);
});

test('colour goes three millimetres beyond the trim wherever it reaches it, and nothing else moves (common practice, no published source)', () => {
  fc.assert(
    fc.property(anyCard, anyPiece, (card, piece) => {
      for (const face of sidesOf(laid(composedOf(card), piece))) {
        const whole = bled(face);
        expect([whole.width, whole.height]).toEqual([face.width, face.height]);
        face.items.forEach((item, at) => {
          const now = whole.items[at]!;
          if (item.kind === 'text' || item.kind === 'code' || item.kind === 'rule') return expect(now).toBe(item);
          if (item.kind !== 'band' && item.kind !== 'sheet') return;
          const [before, after] = [item, now as typeof item].map(({ x, y, width, height }) => [
            x,
            y,
            x + width,
            y + height,
          ]);
          const edges = [0, 0, face.width, face.height];
          after!.forEach((each, side) => {
            const reaches = Math.abs(before![side]! - edges[side]!) < 0.01;
            expect(Math.abs(each - before![side]!)).toBeCloseTo(reaches ? 3 : 0, 9);
          });
        });
      }
    }),
    { numRuns: 60 },
  );
});

test('each letter of a text is said by its glyphs once, in whatever order they stand: ligatures, marks, Arabic (UAX #9, OpenType)', () => {
  const texts = [
    'office affluent flight',
    'Müller-Lind',
    'Zoë Å̊ngström',
    'إيلزه فارو مهندسة الحبال',
    'Ilse إيلزه 020 7946 0182',
    'Nguyễn Thị Ánh',
  ];
  for (const words of texts) {
    const { glyphs, missing } = typesetter.set(words, { family: 'lora', weight: 'plain', size: 3, width: 200 });
    expect([words, missing]).toEqual([words, []]);
    const letters = (text: string) => [...text].sort().join('');
    expect(letters(glyphs.map((glyph) => glyph.letters).join(''))).toBe(letters(words));
    // From left to right each stands where the last one ended, or a hair beside: the widths of the file lead there.
    for (let at = 1; at < glyphs.length; at += 1) expect(glyphs[at]!.x).toBeGreaterThanOrEqual(glyphs[at - 1]!.x - 3);
    for (const glyph of glyphs) expect(typesetter.advance(glyph)).toBeGreaterThanOrEqual(0);
  }
});
