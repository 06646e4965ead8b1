/** How modules are drawn: whole squares, squares with gaps, round dots, or squares whose free corners are round. */
export const MODULE_SHAPES = ['squares', 'tiles', 'dots', 'soft'] as const;
export type ModuleShape = (typeof MODULE_SHAPES)[number];

/** How finder patterns are drawn; always as closed rings, since separate dots are not read at all. */
export const FINDER_SHAPES = ['square', 'soft', 'round'] as const;
export type FinderShape = (typeof FINDER_SHAPES)[number];

export const GRADIENT_WAYS = ['down', 'across', 'outwards'] as const;
export type Gradient = { to: string; way: (typeof GRADIENT_WAYS)[number] };

/** A picture in the middle: the very file, so that what was printed can be drawn again for ever. */
export type Mark = {
  /** `data:image/png;base64,…` */
  href: string;
  /** Width by height. */
  ratio: number;
  /** Share of the symbol's area that mark and clear zone take, in per cent. */
  percent: number;
};

/** What a code looks like. Colours are `#RRGGBB`. */
export type CodeStyle = {
  ink: string;
  /** What the code is printed on; null where nothing is printed there, and a photo or a coloured sheet shows. */
  ground: string | null;
  /** Colour of the finder patterns; null for the ink's. */
  finders: string | null;
  gradient: Gradient | null;
  modules: ModuleShape;
  /** Width of a dot or tile, in per cent of its module. */
  fill: number;
  finderShape: FinderShape;
  mark: Mark | null;
  /** Words below the code; empty for none. */
  words: string;
  /** Whether the words stand along all four edges instead. */
  around?: boolean;
};

export const PLAIN_STYLE: CodeStyle = {
  ink: '#000000',
  ground: '#FFFFFF',
  finders: null,
  gradient: null,
  modules: 'squares',
  fill: 100,
  finderShape: 'square',
  mark: null,
  words: '',
};

/** Bounds of what a style may say, in per cent. Dots below 80 % lose readers (measured on 5,665 pictures of codes, `checks.md`). */
export const STYLE_BOUNDS = { fill: { least: 50, most: 100, wanted: 80 }, mark: { least: 2, most: 25 }, words: 60 };

/** What a part of a style costs those who scan. */
export const COSTS = ['nothing', 'harder', 'risky'] as const;
export type Cost = (typeof COSTS)[number];

/** Luminance of a colour as a camera's grey has it, 0 to 255 (ITU-R BT.601, 2.5.1). */
export function greyOf(hex: string): number {
  const value = Number.parseInt(hex.slice(1), 16);
  return Math.round(0.299 * (value >> 16) + 0.587 * ((value >> 8) & 255) + 0.114 * (value & 255));
}

/** Grey levels between ink and ground that readers want (measured, see the proof). */
export const GREY_STEP = 100;

/** Where a style costs something, each part by itself; what is left as it is costs nothing and is not named. */
export function costsOf(style: CodeStyle): Partial<Record<keyof CodeStyle, Cost>> {
  const ground = greyOf(style.ground ?? '#FFFFFF');
  const apart = (colour: string) => ground - greyOf(colour);
  return {
    ...(style.ink !== PLAIN_STYLE.ink ? { ink: apart(style.ink) < GREY_STEP ? ('risky' as const) : 'nothing' } : {}),
    ...(style.ground === null ? { ground: 'risky' as const } : style.ground === '#FFFFFF' ? {} : { ground: 'nothing' }),
    ...(style.finders
      ? { finders: apart(style.finders) < GREY_STEP + 40 ? ('risky' as const) : ('nothing' as const) }
      : {}),
    ...(style.gradient ? { gradient: apart(style.gradient.to) < GREY_STEP ? ('risky' as const) : 'harder' } : {}),
    ...(style.modules !== 'squares' ? { modules: 'harder' as const } : {}),
    ...(style.fill < STYLE_BOUNDS.fill.wanted && (style.modules === 'dots' || style.modules === 'tiles')
      ? { fill: 'risky' as const }
      : {}),
    ...(style.finderShape !== 'square' ? { finderShape: 'harder' as const } : {}),
    ...(style.mark ? { mark: 'harder' as const } : {}),
    ...(style.words ? { words: 'nothing' as const } : {}),
  };
}
