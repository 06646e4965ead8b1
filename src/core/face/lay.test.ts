import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import {
  bandOn,
  cellsOf,
  coloursOf,
  contrast,
  FIRST_LOOK,
  LAYOUT_NAMES,
  layoutOf,
  mapWith,
  nightLook,
  PALETTES,
  spansOf,
  type Area,
  type Look,
} from '@/core/look';
import { anyLook } from '../../../tests/fixtures/any-look';
import { createTypesetter, FACE_NAMES, FACE_SIZES, layFace, type Face, type FaceContent, type FaceItem } from './index';
import type { Typesetter } from './index';

let typesetter: Typesetter;
beforeAll(async () => {
  typesetter = createTypesetter(await import('harfbuzzjs'), (family, weight) =>
    readFileSync(`assets/fonts/${family}/${weight}.ttf`),
  );
});

type Text = Extract<FaceItem, { kind: 'text' }>;
type Box = { x: number; y: number; width: number; height: number };
const of = <Kind extends FaceItem['kind']>(face: Face, kind: Kind) =>
  face.items.filter((item): item is Extract<FaceItem, { kind: Kind }> => item.kind === kind);
/** The box of each line of a text without the leading above and below its letters. */
const linesOf = ({ x, y, text, shifts }: Text): Box[] =>
  text.widths.map((width, at) => {
    const height = text.height / text.widths.length;
    const leading = (height - text.size) / 2;
    return { x: x + shifts[at]!, y: y + at * height + leading, width, height: text.size };
  });
const meet = (a: Box, b: Box) =>
  a.x < b.x + b.width - 0.01 &&
  b.x < a.x + a.width - 0.01 &&
  a.y < b.y + b.height - 0.01 &&
  b.y < a.y + a.height - 0.01;
const within = (a: Box, b: Box) =>
  a.x >= b.x - 0.01 &&
  a.y >= b.y - 0.01 &&
  a.x + a.width <= b.x + b.width + 0.01 &&
  a.y + a.height <= b.y + b.height + 0.01;

const words = fc
  .array(fc.constantFrom('Ilse', 'Varrow', 'rope', 'Seilbahngesellschaft', 'of', 'Tarnhope', 'ÅÉÎ', '&', 'x'), {
    minLength: 1,
    maxLength: 7,
  })
  .map((parts) => parts.join(' '));
const line = fc.record({
  ...{ id: fc.constant(''), label: fc.constantFrom('', 'Desk', 'Duty line at night') },
  ...{ value: fc.oneof(fc.constant('+44\u00a020\u00a07946\u00a00182'), words), named: fc.boolean() },
});
const anyContent: fc.Arbitrary<FaceContent> = fc.record({
  ...{ name: words, role: fc.oneof(fc.constant(''), words), firm: fc.oneof(fc.constant(''), words) },
  alarm: fc.option(line.map((each) => ({ ...each, id: 'alarm' }))),
  lines: fc.array(line, { maxLength: 12 }).map((lines) => lines.map((each, at) => ({ ...each, id: `l${at}` }))),
  photo: fc.constantFrom(null, { width: 640, height: 640 }),
  logo: fc.constantFrom(null, { width: 300, height: 100 }, { width: 90, height: 200, plate: '#FFFFFF' }),
  toRight: fc.boolean(),
});
const anyFace = fc.constantFrom(...FACE_NAMES);

test('whatever a card says in whatever look: all within the face, words never over words, and what is not on it is told (property)', () => {
  fc.assert(
    fc.property(anyContent, anyLook, anyFace, fc.boolean(), (content, look, name, whole) => {
      const size = whole ? { ...FACE_SIZES[name], whole: true as const } : FACE_SIZES[name];
      const face = layFace(look, content, size, typesetter);
      const edges = { x: 0, y: 0, width: size.width, height: size.height };
      const free = {
        ...{ x: size.margin, y: size.margin },
        ...{ width: size.width - 2 * size.margin, height: size.height - 2 * size.margin },
      };
      for (const item of face.items) if (item.kind !== 'text') expect(within(item, edges)).toBe(true);
      const texts = of(face, 'text');
      if (face.cut.length > 0) return;
      const boxes = texts.flatMap((text) => linesOf(text).map((box) => ({ box, says: text.says })));
      for (const { box } of boxes) expect(within(box, free)).toBe(true);
      boxes.forEach(({ box, says }, at) => {
        for (const other of boxes.slice(at + 1))
          expect([says, other.says, meet(box, other.box)]).toEqual([says, other.says, false]);
      });
      for (const { text } of texts) expect(text.size).toBeGreaterThanOrEqual(size.leastType - 1e-9);
      expect(face.smallestType).toBe(Math.min(Infinity, ...texts.map(({ text }) => text.size)));
      // What the map has a place for, or whatever is said where all of it is wanted, stands on it or is told as left out.
      const said = texts.map(({ says }) => says);
      const map = spansOf(cellsOf(layoutOf(look.layout).map[size.form]));
      const placed = (area: Area) => whole || map.has(area);
      const left = new Set(face.leftOut);
      if (placed('name')) expect(said).toContain(content.name);
      if (placed('role') && content.role) expect(said).toContain(content.role);
      if (placed('firm') && content.firm) expect(said).toContain(content.firm);
      if (placed('alarm') && content.alarm) expect(said).toEqual(expect.arrayContaining([content.alarm.value]));
      if (placed('lines')) for (const { id, value } of content.lines) if (!left.has(id)) expect(said).toContain(value);
      // Lines are left out from the last on.
      expect(face.leftOut).toEqual(content.lines.slice(content.lines.length - left.size).map(({ id }) => id));
    }),
    { numRuns: 80 },
  );
});

test('where reading begins on the right, a face is the mirror image of the one that is read from the left (property)', () => {
  fc.assert(
    fc.property(anyContent, anyLook, anyFace, (content, look, name) => {
      const size = FACE_SIZES[name];
      const [left, right] = [false, true].map((toRight) => layFace(look, { ...content, toRight }, size, typesetter));
      expect(right!.leftOut).toEqual(left!.leftOut);
      const mirrored = ({ x, width, ...box }: Box): Box => ({ ...box, x: size.width - x - width, width });
      const boxesOf = (face: Face) =>
        face.items
          .flatMap((item) => {
            // A label keeps the room that the widest one of its table takes.
            if (item.kind === 'text') return linesOf(item).map((box) => ({ ...box, kind: 'text' as string }));
            return [{ x: item.x, y: item.y, width: item.width, height: item.height, kind: item.kind as string }];
          })
          .map((each) => ({ ...each, x: Math.round(each.x * 100) / 100, y: Math.round(each.y * 100) / 100 }));
      const sorted = (boxes: (Box & { kind: string })[]) =>
        boxes
          .map(({ kind, x, y, width, height }) =>
            [kind, ...[x, y, width, height].map((each) => each.toFixed(1))].join(' '),
          )
          .sort();
      const seen = boxesOf(left!).map((box) => ({ ...mirrored(box), kind: box.kind }));
      const there = boxesOf(right!);
      expect(there).toHaveLength(seen.length);
      const off = sorted(there).filter((each) => !sorted(seen).includes(each));
      // What stands in the middle of two roundings may be off by the last digit.
      for (const each of off) {
        const [kind, ...at] = each.split(' ');
        const near = seen.some(
          (box) =>
            box.kind === kind &&
            [box.x, box.y, box.width, box.height].every((value, part) => Math.abs(value - Number(at[part])) <= 0.11),
        );
        expect([each, near]).toEqual([each, true]);
      }
    }),
    { numRuns: 60 },
  );
});

test('a ready palette reads on every face: each word has 4.5 to 1 to the sheet or band below it (WCAG 2.2, 1.4.3), by day and by night', () => {
  const content: FaceContent = {
    ...{ name: 'Ilse Varrow', role: 'Rope inspector', firm: 'Tarnhope', toRight: false, photo: null, logo: null },
    alarm: { id: 'alarm', label: 'Duty line', value: '020 7946 0999', named: true },
    lines: [
      { id: 'l0', label: 'Desk', value: '020 7946 0182', named: true },
      { id: 'l1', label: '', value: 'tarnhope.example', named: false },
    ],
  };
  const lines = {
    l0: { size: 'normal', heavy: false, tone: 'accent' },
    l1: { size: 'small', heavy: true, tone: 'soft' },
  } as const;
  for (const palette of Object.values(PALETTES))
    for (const layout of LAYOUT_NAMES)
      for (const name of ['card-lying', 'card-back'] as const)
        for (const look of [{ ...FIRST_LOOK, palette, layout, lines }].flatMap((day) => [day, nightLook(day)])) {
          const face = layFace(look, content, { ...FACE_SIZES[name], whole: true }, typesetter);
          const grounds = face.items.filter((item) => item.kind === 'sheet' || item.kind === 'band');
          for (const text of of(face, 'text'))
            for (const box of linesOf(text)) {
              const below = grounds.filter((ground) => meet(box, ground)).at(-1)!;
              expect([layout, name, text.says, contrast(text.colour, below.colour) >= 4.5]).toEqual([
                ...[layout, name, text.says, true],
              ]);
              // Words stand on the band or beside it, never half on it.
              expect(within(box, below)).toBe(true);
            }
        }
});

test('a line is larger, smaller, heavier or in another tone where its look says so, and never below the least type', () => {
  const content: FaceContent = {
    ...{ name: 'Ilse Varrow', role: '', firm: '', alarm: null, toRight: false, photo: null, logo: null },
    lines: ['plain', 'large', 'small', 'heavy'].map((id) => ({ id, label: '', value: id, named: false })),
  };
  const own = { size: 'normal', heavy: false, tone: 'ink' } as const;
  const look: Look = {
    ...FIRST_LOOK,
    lines: {
      large: { ...own, size: 'large', tone: 'accent' },
      small: { ...own, size: 'small', tone: 'soft' },
      heavy: { ...own, heavy: true },
    },
  };
  const colours = coloursOf(look.palette);
  for (const name of FACE_NAMES.filter((each) => !each.endsWith('back'))) {
    const face = layFace(look, content, FACE_SIZES[name], typesetter);
    const said = new Map(of(face, 'text').map((text) => [text.says, text]));
    const [plain, large, small, heavy] = ['plain', 'large', 'small', 'heavy'].map((id) => said.get(id)!);
    expect(large!.text.size / plain!.text.size).toBeCloseTo(1.2, 6);
    expect(small!.text.size).toBeCloseTo(Math.max(FACE_SIZES[name].leastType, plain!.text.size * 0.88), 6);
    expect([plain, large, small].map((text) => text!.colour)).toEqual([colours.ink, colours.accent, colours.soft]);
    expect(heavy!.text.glyphs.every(({ weight }) => weight === 'heavy')).toBe(true);
    expect(plain!.text.glyphs.every(({ weight }) => weight === 'plain')).toBe(true);
  }
});

test('a hundred lines, a word without end, and nothing but a name are each laid out at once and told', () => {
  const bare: FaceContent = {
    ...{ name: 'Odile', role: '', firm: '', alarm: null, lines: [], photo: null, logo: null, toRight: false },
  };
  const many = Array.from({ length: 100 }, (_, at) => ({
    id: `l${at}`,
    label: 'Desk',
    value: `Line ${at}`,
    named: true,
  }));
  for (const layout of LAYOUT_NAMES)
    for (const name of ['card-standing', 'card-back', 'link'] as const) {
      const look = { ...FIRST_LOOK, layout };
      const [alone, long, full] = [bare, { ...bare, name: 'W'.repeat(400) }, { ...bare, lines: many }].map((content) =>
        layFace(look, content, FACE_SIZES[name], typesetter),
      );
      expect(of(alone!, 'text').map(({ says }) => says)).toEqual(['Odile']);
      expect(alone!.cut).toEqual([]);
      expect(long!.cut.length > 0 || long!.smallestType >= FACE_SIZES[name].leastType).toBe(true);
      if (of(full!, 'text').some(({ says }) => says === 'Line 0')) expect(full!.leftOut.length).toBeGreaterThan(45);
      // A band is painted behind what is on it, once.
      const present = new Set<Area>(['name']);
      const map = mapWith(cellsOf(layoutOf(layout).map[FACE_SIZES[name].form]), present);
      if (FACE_SIZES[name].form !== 'back' && map.cells.length > 0)
        expect(of(alone!, 'band')).toHaveLength(bandOn(map, layoutOf(layout).band).length);
    }
});
