/**
 * The type families that ship with the application, all under the SIL Open Font License. A page loads two files: the title
 * family at its heavy weight (name, headings, buttons), the text family at its plain one. Pictures and print set the same two weights
 * from the TrueType files.
 */
export const FAMILIES = {
  literata: { name: 'Literata', kind: 'serif', heavy: 600 },
  atkinson: { name: 'Atkinson Hyperlegible Next', kind: 'sans-serif', heavy: 700 },
  bitter: { name: 'Bitter', kind: 'serif', heavy: 600 },
  'work-sans': { name: 'Work Sans', kind: 'sans-serif', heavy: 600 },
  fraunces: { name: 'Fraunces', kind: 'serif', heavy: 600 },
  lora: { name: 'Lora', kind: 'serif', heavy: 600 },
  jost: { name: 'Jost', kind: 'sans-serif', heavy: 600 },
  'barlow-condensed': { name: 'Barlow Condensed', kind: 'sans-serif', heavy: 600 },
  vazirmatn: { name: 'Vazirmatn', kind: 'sans-serif', heavy: 600 },
} as const satisfies Record<string, { name: string; kind: 'serif' | 'sans-serif'; heavy: 600 | 700 }>;

export type FamilyName = keyof typeof FAMILIES;
export const FAMILY_NAMES = Object.keys(FAMILIES) as [FamilyName, ...FamilyName[]];

export const WEIGHTS = ['plain', 'heavy'] as const;
export type Weight = (typeof WEIGHTS)[number];

/** Families tried in turn for letters that the chosen one has none for: Cyrillic and Greek, then Arabic. */
export const STAND_INS: readonly FamilyName[] = ['literata', 'vazirmatn'];

/** The file of the page's typeface, as `/fonts/NAME` gives it out. Subsets hold the letters of `RANGES`. */
export const SUBSETS = ['latin', 'latin-ext', 'arabic'] as const;
export type Subset = (typeof SUBSETS)[number];
export const fontFile = (family: FamilyName, weight: Weight, subset: Subset): string =>
  `${family}-${weight}-${subset}.woff2`;

/** The code points of a subset, rarities left out; a browser asks for a file only where a page has a letter of it. */
export const RANGES: Record<Subset, string> = {
  latin: 'U+0-FF,U+131,U+152-153,U+2C6,U+2DA,U+2DC,U+2000-206F,U+20AC,U+2122,U+2212',
  'latin-ext': 'U+100-2BA,U+1E00-1EFF,U+20A0-20AB,U+20AD-20C0,U+2C60-2C7F',
  arabic: 'U+600-6FF,U+750-77F,U+870-8FF,U+FB50-FDFF,U+FE70-FEFF',
};
