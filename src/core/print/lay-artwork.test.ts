import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { composeDraft, linesOn, type Composition } from '@/core/card';
import { createTypesetter, type Face, type FaceItem, type Typesetter } from '@/core/face';
import { contrast, FIRST_LOOK } from '@/core/look';
import { loadWords } from '@/core/messages';
import { drawCode, PLAIN_STYLE, symbolFor } from '@/core/qr';
import { shownValue, writtenName } from '@/core/record';
import { anyCard, marksOf } from '../../../tests/fixtures/any-card';
import { anyLook } from '../../../tests/fixtures/any-look';
import { layArtwork, lineColours, linesToPlace, PlacedSchema, POINTS_PER_MM, type Artwork, type Placed } from './index';

let typesetter: Typesetter;
beforeAll(async () => {
  typesetter = createTypesetter(await import('harfbuzzjs'), (family, weight) =>
    readFileSync(`assets/fonts/${family}/${weight}.ttf`),
  );
  await loadWords('en');
});

const TRIM = { width: 85, height: 55 };
const DESIGN: Artwork = { kind: 'pdf', width: 91, height: 61, trim: null, text: true, removed: [] };
const code = drawCode(symbolFor('HTTPS://CARDS.EXAMPLE/H/7K3M9QWD'), PLAIN_STYLE);
const composedOf = ({
  record,
  draft,
}: {
  record: Parameters<typeof composeDraft>[0];
  draft: Parameters<typeof composeDraft>[1];
}): Composition => {
  const made = composeDraft(record, draft, 'GB');
  if (!made.ok) throw new Error(made.problem.code);
  return made.value;
};
const laid = (composition: Composition, placed: Placed[], back: Artwork | null = null) =>
  layArtwork(
    { composition, language: 'en', artworks: { front: DESIGN, back }, placed, enlarged: false, trim: TRIM, code },
    typesetter,
  );
const of = <Kind extends FaceItem['kind']>(face: Face | null, kind: Kind) =>
  (face?.items ?? []).filter((item): item is Extract<FaceItem, { kind: Kind }> => item.kind === kind);
const line = (id: string, more: Partial<Extract<Placed, { kind: 'line' }>> = {}): Placed => ({
  ...{ kind: 'line', side: 'front', x: 10, y: 12, line: id, widthMm: 60, points: 8, colour: '#17312C' },
  ...{ heavy: false, align: 'left', ...more },
});
const placedCode = (more: Partial<Extract<Placed, { kind: 'code' }>> = {}): Placed => ({
  ...{ kind: 'code', side: 'front', x: 50, y: 20, widthMm: 25, plate: false, ...more },
});
const anyPlaced = (ids: string[]): fc.Arbitrary<Placed[]> =>
  fc
    .array(
      fc.record({
        ...{ id: fc.constantFrom('name', 'gone', ...ids), side: fc.constantFrom('front' as const, 'back' as const) },
        ...{
          x: fc.integer({ min: -5, max: 80 }),
          y: fc.integer({ min: -5, max: 50 }),
          widthMm: fc.integer({ min: 5, max: 90 }),
        },
        ...{
          points: fc.constantFrom(4.5, 8, 24),
          heavy: fc.boolean(),
          align: fc.constantFrom('left' as const, 'middle' as const, 'right' as const),
        },
      }),
      { maxLength: 8 },
    )
    .map((all) => all.map(({ id, ...more }) => line(id, more)));

test('on a design of one’s own stands what was placed, where it was, and no other value of the card; what is on paper no more has no box (property)', () => {
  fc.assert(
    fc.property(
      anyCard.chain((card) =>
        fc.record({ card: fc.constant(card), placed: anyPlaced(card.record.details.map(({ id }) => id)) }),
      ),
      ({ card, placed }) => {
        const composition = composedOf(card);
        const { front, back, boxes } = laid(composition, placed, DESIGN);
        expect(placed.every((each) => PlacedSchema.safeParse(each).success)).toBe(true);
        const offered = new Map(linesToPlace(composition, 'en').map((each) => [each.line, each.value]));
        placed.forEach((each, at) => {
          if (each.kind !== 'line') return;
          const value = offered.get(each.line);
          const box = boxes[at];
          expect([each.line, box !== null]).toEqual([each.line, Boolean(value)]);
          if (!box) return;
          expect([box.x, box.y, box.width]).toEqual([each.x, each.y, each.widthMm]);
          const text = of(each.side === 'front' ? front : back, 'text').find(
            ({ x, y, says, text: { size } }) =>
              x === each.x && y === each.y && says === value && Math.abs(size * POINTS_PER_MM - each.points) < 1e-6,
          );
          expect(text).toBeDefined();
          // Set to the left, to the middle or to the right of its box, and within it.
          const free = each.widthMm;
          text!.text.widths.forEach((width, row) => {
            const share = { left: 0, middle: 0.5, right: 1 }[each.align];
            expect(text!.shifts[row]).toBeCloseTo((free - width) * share, 6);
            if (!text!.text.broken) expect(width).toBeLessThanOrEqual(free + 0.01);
          });
          expect(text!.text.glyphs.every(({ weight }) => weight === (each.heavy ? 'heavy' : 'plain'))).toBe(true);
        });
        const said = [front, back].flatMap((face) => of(face, 'text').map(({ says }) => says)).join('\n');
        const shown = new Set(
          linesOn(composition, 'print').flatMap(({ detail }) =>
            marksOf(card.record.details.find(({ id }) => id === detail.id)!),
          ),
        );
        for (const mark of card.record.details.flatMap(marksOf))
          if (!shown.has(mark)) expect(said.includes(mark)).toBe(false);
        for (const face of [front, back!])
          expect(face.smallestType).toBe(Math.min(Infinity, ...of(face, 'text').map(({ text }) => text.size)));
      },
    ),
    { numRuns: 60 },
  );
});

test('lines that may be placed are the name and what is ticked for paper, pictures not among them (property)', () => {
  fc.assert(
    fc.property(anyCard, (card) => {
      const composition = composedOf(card);
      const [first, ...rest] = linesToPlace(composition, 'en');
      expect(first).toEqual({ line: 'name', title: '', value: writtenName(composition.name) });
      expect(rest.map((each) => each.line)).toEqual(linesOn(composition, 'print').map(({ id }) => id));
      for (const { line: id, value } of rest) {
        expect(value).not.toMatch(/\n/);
        const { detail } = composition.lines.find((each) => each.id === id)!;
        const letters = (text: string) => text.replace(/[\s\u00a0,]/g, '');
        expect(letters(value)).toBe(letters(shownValue(detail, 'en')));
      }
    }),
    { numRuns: 40 },
  );
});

test('below everything lies the design on white paper; a code has its plate where it was given one, and stands on its own side alone', () => {
  const [card] = fc.sample(anyCard, { numRuns: 1, seed: 5 });
  const composition = composedOf(card!);
  const { front, back, boxes } = laid(composition, [placedCode({ plate: true }), line('name')], DESIGN);
  expect(front.items.map(({ kind }) => kind)).toEqual(['sheet', 'artwork', 'sheet', 'code', 'text']);
  expect(back!.items.map(({ kind }) => kind)).toEqual(['sheet', 'artwork']);
  // ISO/IEC 18004: a symbol is square, its margin in.
  expect(boxes[0]).toEqual({ x: 50, y: 20, width: 25, height: 25 });
  expect(of(front, 'sheet').at(-1)).toMatchObject({ ...boxes[0], colour: '#FFFFFF' });
  // 3 mm of bleed all round (common practice, no published source).
  expect(of(front, 'artwork')).toEqual([{ kind: 'artwork', x: -3, y: -3, width: 91, height: 61 }]);
  const bare = laid(composition, [placedCode({ side: 'back' })], DESIGN);
  expect([of(bare.front, 'code'), of(bare.back, 'code').length, of(bare.back, 'sheet').length]).toEqual([[], 1, 1]);
  expect(laid(composition, [placedCode()]).back).toBeNull();
});

test('words that have no room in three lines are told by their line, letters that nobody has by themselves', () => {
  const [card] = fc.sample(anyCard, { numRuns: 1, seed: 5 });
  const composition = composedOf(card!);
  const named = (given: string) => ({ ...composition, name: { ...composition.name, given, family: '', written: '' } });
  expect(laid(named('Ilse '.repeat(40).trim()), [line('name', { widthMm: 20 })]).front.cut).toEqual(['name']);
  expect(laid(named('Ilse'), [line('name')]).front).toMatchObject({ cut: [], missing: [] });
  expect(laid(named('Ilse ⵣ'), [line('name')]).front.missing).toEqual(['ⵣ']);
});

test('colours that a line is offered are black, white and those of the look, each once, one of which reads on any ground (WCAG 2.2, 1.4.3)', () => {
  fc.assert(
    fc.property(anyLook, fc.integer({ min: 0, max: 255 }), (look, grey) => {
      const [card] = fc.sample(anyCard, { numRuns: 1, seed: 5 });
      const colours = lineColours({ ...composedOf(card!), look });
      expect([colours.slice(0, 2), new Set(colours).size]).toEqual([['#000000', '#FFFFFF'], colours.length]);
      expect(colours.every((each) => /^#[0-9A-F]{6}$/.test(each))).toBe(true);
      const ground = `#${grey.toString(16).padStart(2, '0').repeat(3)}`;
      expect(colours.some((each) => contrast(each, ground) >= 4.5)).toBe(true);
    }),
    { numRuns: 30 },
  );
  expect(lineColours({ look: FIRST_LOOK } as Composition)).toContain(FIRST_LOOK.palette.ink.toUpperCase());
});
