import type { Picture } from '@/core/record';
import { contrast, mix } from './contrast';
import type { FamilyName } from './families';
import type { LayoutName } from './layouts';
import { MOOR, TEXT_RATIO, type Palette } from './palette';

export const SCALES = ['small', 'normal', 'large'] as const;
export const CORNERS = ['square', 'eased', 'round'] as const;
export const RULES = ['none', 'hair', 'bold'] as const;
export const GROUNDS = ['plain', 'gradient', 'pattern', 'picture'] as const;
export const MOTIFS = ['furrows', 'dots', 'weave'] as const;
export const PHOTO_SHAPES = ['round', 'eased', 'square'] as const;
export const SIDES = ['start', 'end'] as const;
export const LINE_SIZES = ['small', 'normal', 'large'] as const;
export const LINE_TONES = ['ink', 'soft', 'accent'] as const;

/** The parts of a look that a house style can give and lock. */
export const LOOK_PARTS = ['layout', 'palette', 'type', 'shape', 'ground', 'photo'] as const;
export type LookPart = (typeof LOOK_PARTS)[number];

type OneOf<List extends readonly unknown[]> = List[number];

/** What the band shows. A gradient and a pattern go from the band's colour to `to`; over a picture the band's colour lies as a veil. */
export type Ground =
  | { kind: 'plain' }
  | { kind: 'gradient'; to: string; angle: number }
  | { kind: 'pattern'; motif: OneOf<typeof MOTIFS>; to: string }
  /** `veil` is how much of the band's colour lies over it, 0 to 1; its darkest and lightest pixel are those without. */
  | { kind: 'picture'; picture: Picture; veil: number; darkest: string; lightest: string };

export type LineLook = { size: OneOf<typeof LINE_SIZES>; heavy: boolean; tone: OneOf<typeof LINE_TONES> };

/** How a card is dressed. */
export type Look = {
  layout: LayoutName;
  palette: Palette;
  title: FamilyName;
  text: FamilyName;
  scale: OneOf<typeof SCALES>;
  corners: OneOf<typeof CORNERS>;
  rules: OneOf<typeof RULES>;
  ground: Ground;
  photo: { shape: OneOf<typeof PHOTO_SHAPES>; side: OneOf<typeof SIDES>; share: OneOf<typeof SCALES> };
  /** Whether the page follows the night setting of the recipient's phone. */
  night: boolean;
  /** The looks of single lines, by their id. */
  lines: Record<string, LineLook>;
  /** The parts taken from the house style, and the locked parts that somebody who may has given the card all the same. */
  follows: LookPart[];
  overrides: LookPart[];
  /** Lines and blocks of the house style that the card leaves out, as far as they are not locked. */
  hides: string[];
};

/** How a card looks that nobody has dressed. */
export const FIRST_LOOK: Look = {
  layout: 'trod',
  palette: MOOR,
  title: 'literata',
  text: 'atkinson',
  scale: 'normal',
  corners: 'eased',
  rules: 'hair',
  ground: { kind: 'plain' },
  photo: { shape: 'round', side: 'start', share: 'normal' },
  night: true,
  lines: {},
  follows: [],
  overrides: [],
  hides: [],
};

/** The colours that a name on the band really stands on: see {@link pairsOf}. */
export function groundsOf({ palette: { band }, ground }: Pick<Look, 'palette' | 'ground'>): string[] {
  if (ground.kind === 'plain') return [band];
  // A gradient is no straight line in luminance: it is measured on its way.
  if (ground.kind === 'gradient') return Array.from({ length: 9 }, (_, at) => mix(band, ground.to, at / 8));
  if (ground.kind === 'pattern') return [band, ground.to];
  return [mix(ground.darkest, band, ground.veil), mix(ground.lightest, band, ground.veil)];
}

export const usesAccent = ({ lines }: Look): boolean => Object.values(lines).some(({ tone }) => tone === 'accent');

/** The least veil, in steps of a twentieth, with which a name reads everywhere on a picture; 1 where none does. */
export function leastVeil(
  { band, onBand }: Palette,
  { darkest, lightest }: { darkest: string; lightest: string },
): number {
  const reads = (veil: number) =>
    [darkest, lightest].every((pixel) => contrast(onBand, mix(pixel, band, veil)) >= TEXT_RATIO);
  return Array.from({ length: 20 }, (_, step) => step / 20).find(reads) ?? 1;
}
