import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { LAYOUT_NAMES, LookSchema } from '@/core/look';
import { shippedTypesetter, trueTypeFile } from '@/server/fonts';
import {
  FACE_NAMES,
  FACE_SIZES,
  faceSvg,
  initialsOf,
  layFace,
  type Face,
  type FaceContent,
  type Typesetter,
} from '@/core/face';

let typesetter: Typesetter;
beforeAll(async () => {
  typesetter = await shippedTypesetter();
});

const line = (id: string, label: string, value: string) => ({ id, label, value, named: true });
const usual: FaceContent = {
  name: 'Ilse Varrow',
  role: 'Lead rope inspector',
  firm: 'Tarnhope Cableways',
  alarm: null,
  lines: [
    line('a', 'Work', '+44\u00a020\u00a07946\u00a00182'),
    line('b', 'E-mail', 'ilse@tarnhope.example'),
    line('c', 'Web', 'tarnhope.example'),
  ],
  photo: { width: 640, height: 640 },
  logo: { width: 300, height: 100 },
  toRight: false,
};
/** Everything that is hard at once: 200 letters of name, no photo, no firm, 12 phones, an Arabic title beside a Latin name. */
const hard: FaceContent = {
  ...usual,
  name: 'Maximiliana Fredegunde von und zu Hohentannenberg-Oberwiesenbach '.repeat(4).slice(0, 200).trim(),
  role: 'مديرة العمليات',
  firm: '',
  photo: null,
  alarm: line('x', 'Duty line', '+44\u00a020\u00a07946\u00a00999'),
  lines: Array.from({ length: 12 }, (_, at) =>
    line(`p${at}`, `Phone ${at}`, `+44\u00a020\u00a07946\u00a001${10 + at}`),
  ),
};
const set = (text: string, width = 1e6) =>
  typesetter.set(text, { family: 'literata', weight: 'plain', size: 10, width });

/** What the face says within its edges, as boxes. */
function outside({ items, width, height }: Face): string[] {
  return items.flatMap((item) => {
    if (item.kind !== 'text') {
      const over = item.x < -0.01 || item.y < -0.01 || item.x + item.width > width + 0.01;
      return over || item.y + item.height > height + 0.01 ? [item.kind] : [];
    }
    const right = Math.max(...item.text.widths.map((each, at) => item.x + item.shifts[at]! + each));
    return item.x < -0.01 || right > width + 0.01 || item.y + item.text.height > height + 0.01 ? [item.says] : [];
  });
}

test('every face of every layout holds what a usual card says, within its edges and at readable sizes', () => {
  for (const layout of LAYOUT_NAMES)
    for (const name of FACE_NAMES) {
      const face = layFace(LookSchema.parse({ layout }), usual, FACE_SIZES[name], typesetter);
      expect([layout, name, face.leftOut, face.cut, face.missing]).toEqual([layout, name, [], [], []]);
      expect([layout, name, outside(face)]).toEqual([layout, name, []]);
      expect(face.smallestType).toBeGreaterThanOrEqual(FACE_SIZES[name].leastType - 1e-9);
    }
});

test('the hardest card leaves lines out and says which, yet nothing reaches over an edge or gets too small', () => {
  for (const layout of LAYOUT_NAMES)
    for (const name of FACE_NAMES) {
      const face = layFace(LookSchema.parse({ layout }), hard, FACE_SIZES[name], typesetter);
      expect([layout, name, outside(face)]).toEqual([layout, name, []]);
      expect(face.smallestType).toBeGreaterThanOrEqual(FACE_SIZES[name].leastType - 1e-9);
      const shown = face.items.flatMap((item) => (item.kind === 'text' ? item.says : []));
      for (const { id, value } of hard.lines) if (face.leftOut.includes(id)) expect(shown).not.toContain(value);
    }
});

test('a number is never broken over two lines, and a face from the right is the mirror of one from the left', () => {
  const face = layFace(LookSchema.parse({ layout: 'fold' }), usual, FACE_SIZES['card-standing'], typesetter);
  for (const item of face.items)
    if (item.kind === 'text' && item.says.startsWith('+44')) expect(item.text.widths).toHaveLength(1);
  const of = (toRight: boolean) =>
    layFace(LookSchema.parse({ layout: 'cairn' }), { ...usual, toRight }, FACE_SIZES.link, typesetter).items.find(
      (item) => item.kind === 'picture' && item.which === 'photo',
    ) as { x: number; width: number };
  expect(of(false).x).toBeCloseTo(0);
  expect(of(true).x + of(true).width).toBeCloseTo(FACE_SIZES.link.width);
});

test('advances are those of the font file itself, read by fontTools (an independent reader) from its hmtx table', () => {
  const file = trueTypeFile('literata', 'plain');
  const text = 'Hohentannenberg';
  const told = execFileSync('/usr/bin/python3', ['tests/fixtures/advances.py', file, text], { encoding: 'utf8' });
  const { advances, unitsPerEm } = JSON.parse(told) as { advances: number[]; unitsPerEm: number };
  const sum = advances.reduce((all, each) => all + each, 0);
  // Kerning moves a word by a few hundredths of its width at most.
  expect(set(text).widths[0]! / 10).toBeGreaterThan((sum / unitsPerEm) * 0.97);
  expect(set(text).widths[0]! / 10).toBeLessThan((sum / unitsPerEm) * 1.03);
  expect(readFileSync(file).subarray(0, 4).toString('hex')).toBe('00010000'); // TrueType (OpenType 1.9, font file)
});

test('Arabic joins and is read from the right; a Latin word within it keeps its own way (UAX #9)', () => {
  const joined = set('مديرة');
  const apart = [...'مديرة'].reduce((sum, letter) => sum + set(letter).widths[0]!, 0);
  expect(joined.toRight).toBe(true);
  expect(joined.missing).toEqual([]);
  expect(joined.glyphs.every(({ family }) => family === 'vazirmatn')).toBe(true);
  // Isolated forms are wider than initial and medial ones.
  expect(joined.widths[0]!).toBeLessThan(apart * 0.95);
  const mixed = set('مديرة Ilse');
  const latin = mixed.glyphs.filter(({ family }) => family === 'literata').map(({ x }) => x);
  expect(latin).toEqual([...latin].sort((a, b) => a - b));
  expect(Math.max(...latin)).toBeLessThan(Math.max(...mixed.glyphs.map(({ x }) => x)));
});

test('letters that no family has are told, not drawn as boxes', () => {
  expect(set('张 Wei').missing).toEqual(['张']);
  expect(set('Łoś Αθήνα Скелл').missing).toEqual([]);
});

test('nothing typed becomes mark-up of a drawing, and a drawing asks for nothing elsewhere', () => {
  const face = layFace(
    LookSchema.parse({}),
    { ...usual, name: '<script>alert(1)</script>&"' },
    FACE_SIZES.link,
    typesetter,
  );
  const svg = faceSvg(face, typesetter, { photo: 'data:image/png;base64,AA"/><script>', logo: null });
  expect(svg).not.toMatch(/<script|<text|href="(?!data:)/);
  expect(new Set([...svg.matchAll(/<([a-z]+)/gi)].map((found) => found[1]))).toEqual(
    new Set(['svg', 'defs', 'clipPath', 'rect', 'image', 'g', 'path']),
  );
});

test('initials are the first and the last word’s', () => {
  expect(initialsOf('Odile Brandreth')).toBe('OB');
  expect(initialsOf('Dr. Ilse van der Varrow')).toBe('DV');
  expect(initialsOf('— Maud')).toBe('M');
  expect(initialsOf('نور الهاشمي')).toHaveLength(2);
});
