import axe from 'axe-core';
import fc from 'fast-check';
import { compose, firstLines, linesOn, withheldFrom } from '@/core/card';
import { FIRST_LOOK, groundsOf, hexOf, LOOK_PARTS, mix, PALETTES, type Ground, type Look } from '@/core/look';
import type { PersonRecord } from '@/core/record';
import {
  applyHouseStyle,
  houseLogo,
  houseLook,
  judgeLook,
  NO_HOUSE,
  PART_FIELDS,
  withoutHouse,
  type HouseStyle,
} from './index';

const part = fc.integer({ min: 0, max: 255 });
const hex = fc.tuple(part, part, part).map(([r, g, b]) => hexOf([r / 255, g / 255, b / 255]));
const palette = fc.constantFrom(...Object.values(PALETTES));
const ground: fc.Arbitrary<Ground> = fc.oneof(
  fc.constant({ kind: 'plain' } as const),
  fc.record({ kind: fc.constant('gradient' as const), to: hex, angle: fc.integer({ min: 0, max: 345 }) }),
  fc.record({ kind: fc.constant('pattern' as const), motif: fc.constantFrom('dots', 'weave'), to: hex }),
  fc.record({
    kind: fc.constant('picture' as const),
    picture: fc.constant({ hash: 'a'.repeat(64), width: 9, height: 9 }),
    veil: fc.double({ min: 0, max: 1, noNaN: true }),
    darkest: hex,
    lightest: hex,
  }),
) as fc.Arbitrary<Ground>;
const parts = fc.subarray([...LOOK_PARTS]);
const look: fc.Arbitrary<Look> = fc
  .record({ palette, ground, follows: parts, tone: fc.constantFrom('accent' as const, 'soft' as const) })
  .map(({ tone, ...each }) => ({ ...FIRST_LOOK, ...each, lines: { a: { size: 'normal', heavy: false, tone } } }));
const house: fc.Arbitrary<HouseStyle> = fc
  .record({ palette, ground, locks: parts })
  // A house style is not saved with colours that do not read; see `saveHouse`.
  .filter((each) => groundsOf(each).every((behind) => ratio(each.palette.onBand, behind) >= 4.5))
  .map(({ locks, ...each }) => ({
    ...NO_HOUSE,
    look: { ...FIRST_LOOK, ...each, corners: 'round', scale: 'large' },
    locks: Object.fromEntries(locks.map((name) => [name, 'Livery'])),
  }));

/** Contrast as axe-core works it out, which shares no code with ours (WCAG 2.2, 1.4.3). */
function ratio(front: string, back: string): number {
  const { Color, getContrast } = (axe as unknown as { commons: { color: AxeColours } }).commons.color;
  const colour = (value: string) => new Color(...([1, 3, 5].map((at) => parseInt(value.slice(at, at + 2), 16)) as RGB));
  return getContrast(colour(back), colour(front));
}
type RGB = [number, number, number];
type AxeColours = { Color: new (...rgb: RGB) => object; getContrast: (back: object, front: object) => number };

test('whatever ground and accent a card chose, its name and lines read in the colours of any house style (axe-core’s contrast)', () => {
  fc.assert(
    fc.property(look, house, (own, style) => {
      const readsByItself = groundsOf(own).every((behind) => ratio(own.palette.onBand, behind) >= 4.5);
      // What reads in no dress of its own was let through by somebody who may.
      fc.pre(readsByItself);
      const worn = houseLook(own, style);
      for (const behind of groundsOf(worn)) expect(ratio(worn.palette.onBand, behind)).toBeGreaterThanOrEqual(4.49);
      const ownSheet = worn.palette === own.palette;
      if (worn.lines.a!.tone === 'accent' && !ownSheet)
        expect(ratio(worn.palette.act, worn.palette.sheet)).toBeGreaterThanOrEqual(4.49);
    }),
  );
});

test('a ground that reads on the house’s colours stays as it was chosen', () => {
  const style: HouseStyle = {
    ...NO_HOUSE,
    look: { ...FIRST_LOOK, palette: PALETTES.tarn },
    locks: { palette: 'Livery' },
  };
  const near: Ground = { kind: 'gradient', to: mix(PALETTES.tarn.band, '#000000', 0.3), angle: 90 };
  expect(houseLook({ ...FIRST_LOOK, ground: near }, style).ground).toEqual(near);
  const white: Ground = { ...near, to: '#FFFFFF' };
  expect(houseLook({ ...FIRST_LOOK, ground: white }, style).ground).toEqual({ kind: 'plain' });
});

test('a locked part is the house’s on every card, and no save of a holder’s changes it', () => {
  fc.assert(
    fc.property(look, house, look, parts, (own, style, wanted, overrides) => {
      const worn = houseLook(own, style);
      for (const name of LOOK_PARTS)
        if (style.locks[name] && name !== 'ground')
          for (const field of PART_FIELDS[name]) expect(worn[field]).toEqual(style.look[field]);
      const { refused, overridden } = judgeLook(own, { ...wanted, overrides }, style, false);
      // Whoever may not override may neither give nor take one away.
      expect(refused.filter(({ what }) => what === 'override').map(({ part: name }) => name)).toEqual(
        LOOK_PARTS.filter((name) => overrides.includes(name)),
      );
      const changed = LOOK_PARTS.filter((name) =>
        PART_FIELDS[name].some((field) => JSON.stringify(own[field]) !== JSON.stringify(wanted[field])),
      );
      expect(refused.filter(({ what }) => what === 'locked').map(({ part: name }) => name)).toEqual(
        changed.filter((name) => style.locks[name] && !overrides.includes(name)),
      );
      expect(overridden).toEqual(overrides);
      expect(judgeLook(own, own, style, false)).toEqual({ refused: [], overridden: [] });
    }),
  );
});

const ilse: PersonRecord = {
  name: { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' },
  details: [
    { kind: 'organisation', id: 'firm', label: '', preferred: false, name: 'Varrow & Daughters', units: [] },
    { kind: 'phone', id: 'own', label: '', preferred: false, number: '+447700900182', uses: ['home'] },
    { kind: 'logo', id: 'mark', label: '', preferred: false, picture: 'b'.repeat(64) },
  ],
  kept: [],
};
const firm: HouseStyle['lines'][number] = {
  id: 'house-firm',
  label: '',
  detail: {
    kind: 'organisation',
    id: 'house-firm',
    label: '',
    preferred: false,
    name: 'Tarnhope Cableways',
    units: [],
  },
  page: true,
  file: false,
};
const logo = { hash: 'c'.repeat(64), width: 90, height: 30 };

test('the house’s logo is the one for its ground, and the other where there is one alone', () => {
  const [day, night] = [logo, { ...logo, hash: 'd'.repeat(64) }];
  const on = (logos: HouseStyle['logos']) =>
    ['#FFFFFF', '#777777', '#6E6E6E', '#101820'].map((ground) => houseLogo({ ...NO_HOUSE, logos }, ground)?.hash[0]);
  expect(on({ onLight: day, onDark: night })).toEqual(['c', 'c', 'd', 'd']);
  expect(on({ onLight: day, onDark: null })).toEqual(['c', 'c', 'c', 'c']);
  expect(on({ onLight: null, onDark: night })).toEqual(['d', 'd', 'd', 'd']);
});

test('the firm and the logo of a locked house style stand for the card’s own; a line that is only its page’s is in no file', () => {
  const composed = compose(ilse, firstLines(ilse, { isPrivate: false }), 'GB', null);
  if (!composed.ok) throw new Error(composed.problem.code);
  const before = structuredClone(composed.value);
  const style: HouseStyle = {
    ...NO_HOUSE,
    lines: [firm],
    logos: { onLight: null, onDark: logo },
    locks: { logo: 'One mark' },
  };
  const worn = applyHouseStyle(composed.value, style);
  const of = (channel: 'page' | 'file', kind: string) =>
    linesOn(worn, channel)
      .filter(({ detail }) => detail.kind === kind)
      .map(({ id }) => id);
  expect(of('page', 'organisation')).toEqual(['house-firm']);
  expect(of('file', 'organisation')).toEqual([]);
  expect(of('page', 'logo')).toEqual(['house-logo']);
  // Not locked, the card keeps its own; and it may leave a line out.
  const free = { ...style, locks: {} };
  const own = { ...composed.value, look: { ...FIRST_LOOK, hides: ['house-firm'] } };
  expect(applyHouseStyle(own, free).lines.map(({ id }) => id)).toEqual(expect.arrayContaining(['mark', 'firm']));
  expect(applyHouseStyle(own, { ...style, locks: { lines: 'The law' } }).lines.map(({ id }) => id)).toContain(
    'house-firm',
  );
  expect(composed.value).toEqual(before);
});

test('what the house style gives out itself is not withheld there, and is everywhere else', () => {
  const phone: HouseStyle['lines'][number] = {
    id: 'house-desk',
    label: 'Desk',
    detail: {
      kind: 'phone',
      id: 'house-desk',
      label: 'Desk',
      preferred: false,
      number: '+447700900182',
      uses: ['work'],
    },
    page: true,
    file: false,
  };
  const lines = firstLines(ilse, { isPrivate: false });
  const style = { ...NO_HOUSE, lines: [phone] };
  const held = (channel: 'page' | 'file') => withheldFrom(ilse, lines, channel, 'GB');
  const left = (channel: 'page' | 'file', worn = FIRST_LOOK) => withoutHouse(held(channel), worn, style, channel);
  expect(held('page').length).toBeGreaterThan(0);
  expect(left('page').length).toBeLessThan(held('page').length);
  expect(left('file')).toEqual(held('file'));
  expect(left('page', { ...FIRST_LOOK, hides: ['house-desk'] })).toEqual(held('page'));
});
