import { readFileSync } from 'node:fs';
import fc from 'fast-check';
import { Parser } from 'htmlparser2';
import { composeDraft, type Composition } from '@/core/card';
import { FIRST_LOOK, type Ground } from '@/core/look';
import { drawCode, PLAIN_STYLE, symbolFor } from '@/core/qr';
import { anyCard } from '../../../tests/fixtures/any-card';
import type { Face, FaceItem } from './face';
import { faceSvg, iconSvg, createTypesetter, type Typesetter } from './index';
import { initialsOf } from './icon';

let typesetter: Typesetter;
beforeAll(async () => {
  typesetter = createTypesetter(await import('harfbuzzjs'), (family, weight) =>
    readFileSync(`assets/fonts/${family}/${weight}.ttf`),
  );
});

type Element = { name: string; attributes: Record<string, string> };
/** The elements of an SVG, read as XML; what is not closed is told. */
function elementsOf(svg: string): Element[] {
  const elements: Element[] = [];
  const open: string[] = [];
  const parser = new Parser(
    {
      onopentag: (name, attributes) => (elements.push({ name, attributes }), open.push(name)),
      onclosetag: (name) => expect(open.pop()).toBe(name),
    },
    { xmlMode: true },
  );
  parser.end(svg);
  expect(open).toEqual([]);
  return elements;
}
const face = (items: FaceItem[]): Face => ({
  width: 85,
  height: 55,
  items,
  smallestType: 2.3,
  leftOut: [],
  cut: [],
  missing: [],
});
const whole = { x: 0, y: 0, width: 85, height: 55 };
const band = (ground: Ground): FaceItem => ({ kind: 'band', ...whole, colour: '#17312C', ground });
const drawn = (
  items: FaceItem[],
  ...more: [pictures?: Parameters<typeof faceSvg>[2], unit?: 'px' | 'mm', bleed?: number]
) => elementsOf(faceSvg(face(items), typesetter, more[0] ?? {}, more[1], more[2]));
const of = (elements: Element[], name: string) =>
  elements.filter((each) => each.name === name).map(({ attributes }) => attributes);

test.each<[number, string, [number, number, number, number]]>([
  // CSS Images Module Level 4, 3.4.1: 0deg points up, 90deg to the right, clockwise.
  [0, 'up', [0.5, 1, 0.5, 0]],
  [90, 'to the right', [0, 0.5, 1, 0.5]],
  [180, 'down', [0.5, 0, 0.5, 1]],
  [270, 'to the left', [1, 0.5, 0, 0.5]],
])('a gradient of %i degrees goes %s, as the page’s does', (angle, _, ends) => {
  const elements = drawn([band({ kind: 'gradient', to: '#FFFFFF', angle })]);
  const [gradient] = of(elements, 'linearGradient');
  expect(['x1', 'y1', 'x2', 'y2'].map((each) => Math.abs(Number(gradient![each])))).toEqual(ends);
  expect(of(elements, 'stop').map((stop) => stop['stop-color'])).toEqual(['#17312C', '#FFFFFF']);
  expect(of(elements, 'rect')[0]!.fill).toBe(`url(#${gradient!.id})`);
});

test('each motif is set down once for its band and painted from there; names of several do not meet', () => {
  const motifs = ['furrows', 'dots', 'weave'] as const;
  const code = drawCode(symbolFor('HTTPS://CARDS.EXAMPLE/H/7K3M9QWD'), {
    ...PLAIN_STYLE,
    gradient: { to: '#222222', way: 'down' },
  });
  const elements = drawn([
    ...motifs.map((motif) => band({ kind: 'pattern', motif, to: '#FFFFFF' })),
    { kind: 'code', x: 1, y: 1, width: 20, height: 20, drawing: code },
    { kind: 'code', x: 30, y: 1, width: 20, height: 20, drawing: code },
  ]);
  const names = elements.flatMap(({ attributes }) => attributes.id ?? []);
  expect([names.length, new Set(names).size]).toEqual([5, 5]);
  const used = elements.flatMap(({ attributes }) =>
    Object.values(attributes).flatMap((value) => /^url\(#(.+)\)$/.exec(value)?.[1] ?? []),
  );
  expect(new Set(used)).toEqual(new Set(names));
});

test('pictures: faces are cut from the top, logos keep their whole shape, a ground has its veil; what is missing leaves its place empty', () => {
  const place = { x: 5, y: 5, width: 20, height: 20 };
  const photo = (shape: Extract<FaceItem, { kind: 'picture' }>['shape']): FaceItem => ({
    kind: 'picture',
    which: 'photo',
    ...place,
    shape,
  });
  const href = 'data:image/png;base64,AA"<x>';
  const [image] = of(drawn([photo('round')], { photo: href }), 'image');
  // Escaped on its way out: read again it is the very address.
  expect([image!.href, image!.preserveAspectRatio]).toEqual([href, 'xMidYMin slice']);
  expect(of(drawn([photo('round')], { photo: href }), 'rect').map(({ rx }) => rx)).toEqual(['10']);
  expect(of(drawn([photo('eased')], { photo: href }), 'rect').map(({ rx }) => rx)).toEqual(['1.6']);
  const logo: FaceItem = { kind: 'picture', which: 'logo', ...place, shape: 'whole' };
  expect(of(drawn([logo], { logo: href }), 'image')[0]!.preserveAspectRatio).toBe('xMidYMid meet');
  expect(of(drawn([photo('square'), logo, { kind: 'artwork', ...whole }]), 'image')).toEqual([]);
  const ground = { kind: 'picture', picture: { hash: 'ab', width: 9, height: 9 }, veil: 0.6 } as Ground;
  expect(of(drawn([band(ground)], { ground: href }), 'rect')[0]).toMatchObject({
    fill: '#17312C',
    'fill-opacity': '0.6',
  });
  // Without it, the colour that the veil makes of a middling picture, so that words on it still read.
  expect(of(drawn([band(ground)]), 'rect')[0]!.fill).toMatch(/^#[0-9A-F]{6}$/i);
});

test('sizes are in the unit that is asked for, and with a bleed the sheet is larger and its middle where it was', () => {
  const [svg] = of(drawn([], {}, 'mm', 3), 'svg');
  expect(svg).toMatchObject({ width: '91mm', height: '61mm', viewBox: '-3 -3 91 61' });
  expect(of(drawn([]), 'svg')[0]).toMatchObject({ width: '85px', viewBox: '0 0 85 55' });
});

test.each([
  ['Ilse Varrow', 'IV'],
  ['Maud van der Vael', 'MV'],
  ['Odile', 'O'],
  ['  élodie   ström ', 'ÉS'],
  ['فاطمة الزهراء', 'فا'],
  ['李 小龍', '李小'],
  ['Rope desk (day & night)', 'Rn'.toUpperCase()],
  ['42', '·'],
  ['', '·'],
])('the initials of “%s” are %s', (name, initials) => {
  expect(initialsOf(name)).toBe(initials);
});

test('whatever somebody is called, an icon’s letters lie within the four fifths that every mask leaves (W3C Web App Manifest, maskable; property)', () => {
  fc.assert(
    fc.property(anyCard, fc.constantFrom('WM', 'Ilse Varrow', 'Ōyama Ŵyn', '', 'W W'), ({ record, draft }, given) => {
      const made = composeDraft(
        { ...record, name: { ...record.name, given, family: '' } },
        { ...draft, look: { ...FIRST_LOOK, title: draft.look.title } },
        'GB',
      );
      const composed: Composition | null = made.ok ? made.value : null;
      if (!composed) return;
      const elements = elementsOf(iconSvg(composed, typesetter));
      const [svg] = of(elements, 'svg');
      expect([svg!.width, svg!.height]).toEqual(['512', '512']);
      for (const { transform } of of(elements, 'path')) {
        const [x, y] = /translate\(([-\d.]+) ([-\d.]+)\)/.exec(transform!)!.slice(1).map(Number) as [number, number];
        // The left edge of a letter on its baseline lies within the circle; a serif may stand out by a few pixels.
        expect(Math.hypot(x - 256, y - 256)).toBeLessThanOrEqual(0.4 * 512);
      }
    }),
    { numRuns: 40 },
  );
});
