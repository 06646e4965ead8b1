import { readFileSync } from 'node:fs';
import path from 'node:path';
import { FAMILIES, FAMILY_NAMES, SUBSETS, fontFile, WEIGHTS, type FamilyName, type Weight } from '@/core/look';
import { createTypesetter, type Typesetter } from '@/core/face';

/** The packages that the families ship in: TrueType for pictures and print, WOFF2 subsets for the page. */
const FILES: Record<FamilyName, { folder: string; stem: string }> = {
  literata: { folder: 'literata', stem: 'Literata' },
  atkinson: { folder: 'atkinson-hyperlegible-next', stem: 'AtkinsonHyperlegibleNext' },
  bitter: { folder: 'bitter', stem: 'Bitter' },
  'work-sans': { folder: 'work-sans', stem: 'WorkSans' },
  fraunces: { folder: 'fraunces', stem: 'Fraunces' },
  lora: { folder: 'lora', stem: 'Lora' },
  jost: { folder: 'jost', stem: 'Jost' },
  'barlow-condensed': { folder: 'barlow-condensed', stem: 'BarlowCondensed' },
  vazirmatn: { folder: 'vazirmatn', stem: 'Vazirmatn' },
};

const WEIGHT_NAMES = { 400: '400Regular', 600: '600SemiBold', 700: '700Bold' } as const;
const weightOf = (family: FamilyName, weight: Weight): 400 | 600 | 700 =>
  weight === 'plain' ? 400 : FAMILIES[family].heavy;

const modules = (...parts: string[]) => path.join(process.cwd(), 'node_modules', ...parts);

/** The TrueType file of a family at a weight. */
export function trueTypeFile(family: FamilyName, weight: Weight): string {
  const { folder, stem } = FILES[family];
  const name = WEIGHT_NAMES[weightOf(family, weight)];
  return modules('@expo-google-fonts', folder, name, `${stem}_${name}.ttf`);
}

/** The WOFF2 subset that a page's font address means, or null; not every family has letters of every subset. */
export function webFontFile(name: string): string | null {
  for (const family of FAMILY_NAMES)
    for (const weight of WEIGHTS)
      for (const subset of SUBSETS)
        if (fontFile(family, weight, subset) === name) {
          const { folder } = FILES[family];
          return modules(
            '@fontsource',
            folder,
            'files',
            `${folder}-${subset}-${weightOf(family, weight)}-normal.woff2`,
          );
        }
  return null;
}

let typesetter: Promise<Typesetter> | null = null;

/** The process's measurer of text, over the shipped files. */
export function shippedTypesetter(): Promise<Typesetter> {
  typesetter ??= import('harfbuzzjs').then((hb) =>
    createTypesetter(hb, (family, weight) => readFileSync(trueTypeFile(family, weight))),
  );
  return typesetter;
}
