import { colourOf, contrast, luminance, mix, readable, seen } from './contrast';

/** WCAG 2.2: 1.4.3 asks 4.5 to 1 of text, 1.4.11 asks 3 to 1 of what shows where a button is and of what a picture says. */
export const TEXT_RATIO = 4.5;
export const SHAPE_RATIO = 3;

/**
 * The colours that a look is given, `#RRGGBB`. `sheet` is what lines stand on, in `ink`; `band` what the name stands on where
 * a layout sets it apart, in `onBand`; `act` the large button and the rules under links, with `onAct` on it.
 */
export const COLOURS = ['sheet', 'ink', 'band', 'onBand', 'act', 'onAct'] as const;
export type Colour = (typeof COLOURS)[number];
export type Palette = Record<Colour, string>;

/** The palette of a card that nobody has dressed. */
export const MOOR: Palette = {
  sheet: '#FFFDF7',
  ink: '#1E2B28',
  band: '#17312C',
  onBand: '#EFE9D6',
  act: '#A8431F',
  onAct: '#FFFFFF',
};

/** All colours of a face or page: the given ones, and those that follow from them. */
export type Colours = Palette & {
  /** Around the sheet of the page. */
  ground: string;
  /** Labels and other second words on the sheet. */
  soft: string;
  /** Hairlines; they only part what is apart already. */
  hair: string;
  /** Around the button and under links: the button's colour, or its nearest shade that shows on the sheet. The button keeps its own. */
  edge: string;
  /** Lines in the button's colour: it, or its nearest shade that reads on the sheet. */
  accent: string;
};

export const coloursOf = (palette: Palette): Colours => ({
  ...palette,
  ground: mix(palette.sheet, palette.ink, 0.045),
  soft: readable(mix(palette.ink, palette.sheet, 0.25), [palette.sheet], TEXT_RATIO),
  hair: mix(palette.sheet, palette.ink, 0.2),
  edge: readable(palette.act, [palette.sheet], SHAPE_RATIO),
  accent: readable(palette.act, [palette.sheet], TEXT_RATIO),
});

/** The same look by night: dark sheets of the ink's hue, light ink on them; the button keeps its colour. A dark palette stays as it is. */
export function nightOf(palette: Palette): Palette {
  if (luminance(palette.sheet) < 0.18) return palette;
  const { hue, chroma } = seen(palette.ink);
  const sheet = colourOf({ lightness: 0.23, chroma: Math.min(chroma, 0.02), hue });
  const ink = readable(colourOf({ lightness: 0.93, chroma: Math.min(chroma, 0.02), hue }), [sheet], 7);
  // A light band would glare; it gives way to a dark one of its hue.
  const light = luminance(palette.band) > 0.18;
  const band = light ? colourOf({ ...seen(palette.band), lightness: 0.32 }) : palette.band;
  return {
    sheet,
    ink,
    band,
    onBand: readable(light ? palette.sheet : palette.onBand, [band], TEXT_RATIO),
    act: palette.act,
    onAct: readable(palette.onAct, [palette.act], TEXT_RATIO),
  };
}

/** Two colours that meet, what they must reach and what they do. */
export type Pair = { front: string; back: string; of: PairName; ratio: number; needs: number };
export const PAIRS = ['lines', 'labels', 'name', 'button', 'button on sheet', 'accent lines'] as const;
export type PairName = (typeof PAIRS)[number];

const pair = (of: PairName, front: string, back: string, needs: number): Pair => ({
  of,
  front,
  back,
  needs,
  ratio: contrast(front, back),
});

/**
 * Every pair in use. `grounds` are the colours that the band really shows under the name (ends of a gradient, a pattern's
 * two, pixels of a picture); `accent` tells whether lines are set in the button's colour.
 */
export function pairsOf(palette: Palette, grounds: readonly string[] = [palette.band], accent = false): Pair[] {
  const { sheet, ink, soft, onBand, act, onAct, edge, accent: tone } = coloursOf(palette);
  const worst = grounds.reduce((low, each) => (contrast(onBand, each) < contrast(onBand, low) ? each : low));
  return [
    pair('lines', ink, sheet, TEXT_RATIO),
    pair('labels', soft, sheet, TEXT_RATIO),
    pair('name', onBand, worst, TEXT_RATIO),
    pair('button', onAct, act, TEXT_RATIO),
    pair('button on sheet', edge, sheet, SHAPE_RATIO),
    ...(accent ? [pair('accent lines', tone, sheet, TEXT_RATIO)] : []),
  ];
}
