import { PLAIN_STYLE, greyOf, type CodeStyle } from '@/core/qr';

/** What would make a code read better, by code, the least change first. */
export const REMEDIES = [
  'white ground',
  'darken finders',
  'darken gradient',
  'darken ink',
  'larger dots',
  'smaller mark',
  'square finders',
  'whole squares',
  'no gradient',
  'no mark',
] as const;
export type Remedy = (typeof REMEDIES)[number];

/** A colour as it is on paper, brought down to a grey level with its hue kept. */
export function darkened(hex: string, grey: number): string {
  const now = greyOf(hex);
  if (now <= grey) return hex;
  const share = grey / now;
  const value = Number.parseInt(hex.slice(1), 16);
  const channels = [value >> 16, (value >> 8) & 255, value & 255].map((each) => Math.round(each * share));
  return `#${channels
    .map((each) => each.toString(16).padStart(2, '0'))
    .join('')
    .toUpperCase()}`;
}

/** Grey levels that leave a code room in poor light: ink, and finder patterns, on which all depends. */
const DARK_INK = 90;
const DARK_FINDERS = 70;
/** The ground that inks are held against. */
const LIGHT = 225;

const CHANGES: Record<Remedy, (style: CodeStyle) => Partial<CodeStyle> | null> = {
  'white ground': ({ ground }) => (ground === null || greyOf(ground) < LIGHT ? { ground: '#FFFFFF' } : null),
  'darken finders': ({ finders }) =>
    finders && greyOf(finders) > DARK_FINDERS ? { finders: darkened(finders, DARK_FINDERS) } : null,
  'darken gradient': ({ gradient }) =>
    gradient && greyOf(gradient.to) > DARK_INK
      ? { gradient: { ...gradient, to: darkened(gradient.to, DARK_INK) } }
      : null,
  'darken ink': ({ ink }) => (greyOf(ink) > DARK_INK ? { ink: darkened(ink, DARK_INK) } : null),
  'larger dots': ({ modules, fill }) =>
    (modules === 'dots' || modules === 'tiles') && fill < 90 ? { fill: 90 } : null,
  'smaller mark': ({ mark }) => (mark && mark.percent > 6 ? { mark: { ...mark, percent: 6 } } : null),
  'square finders': ({ finderShape }) => (finderShape === 'square' ? null : { finderShape: 'square' }),
  'whole squares': ({ modules }) => (modules === 'squares' ? null : { modules: 'squares', fill: 100 }),
  'no gradient': ({ gradient }) => (gradient ? { gradient: null } : null),
  'no mark': ({ mark }) => (mark ? { mark: null } : null),
};

/** The changes that a style can take, each alone, the least first, and last all that make it plain but its words. */
export function changesOf(style: CodeStyle): { remedy: Remedy | 'plain'; style: CodeStyle }[] {
  const single = REMEDIES.flatMap((remedy) => {
    const change = CHANGES[remedy](style);
    return change ? [{ remedy, style: { ...style, ...change } }] : [];
  });
  return [...single, { remedy: 'plain' as const, style: { ...PLAIN_STYLE, words: style.words } }];
}
