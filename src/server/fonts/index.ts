import { readFileSync } from 'node:fs';
import path from 'node:path';
import { FAMILY_NAMES, SUBSETS, fontFile, WEIGHTS, type FamilyName, type Weight } from '@/core/look';
import { createTypesetter, type Typesetter } from '@/core/face';

/** The shipped typefaces, made by `commands/fonts.ts`: TrueType for pictures and print, and of the same files WOFF2 subsets for the page. */
const shipped = (...parts: string[]) => path.join(process.cwd(), 'assets/fonts', ...parts);

/** The TrueType file of a family at a weight. */
export const trueTypeFile = (family: FamilyName, weight: Weight): string => shipped(family, `${weight}.ttf`);

/** The subsets of the page by the name in their address. Arabic letters are Vazirmatn's for every family. */
const OF_PAGES = new Map(
  FAMILY_NAMES.flatMap((family) =>
    WEIGHTS.flatMap((weight) =>
      SUBSETS.filter((subset) => subset !== 'arabic' || family === 'vazirmatn').map((subset) => [
        fontFile(family, weight, subset),
        shipped(family, `${weight}-${subset}.woff2`),
      ]),
    ),
  ) as [string, string][],
);

/** Typefaces of the studio’s own screens, whose weight varies. */
const OF_STUDIO = ['literata', 'literata-ext', 'atkinson-next', 'atkinson-next-ext', 'atkinson-mono'];

/** The WOFF2 file that an address under `/fonts/` means, or null. */
export const webFontFile = (name: string): string | null =>
  OF_PAGES.get(name) ?? (OF_STUDIO.some((stem) => `${stem}.woff2` === name) ? shipped('studio', name) : null);

let typesetter: Promise<Typesetter> | null = null;

/** The process's measurer of text, over the shipped files. */
export function shippedTypesetter(): Promise<Typesetter> {
  typesetter ??= import('harfbuzzjs').then((hb) =>
    createTypesetter(hb, (family, weight) => readFileSync(trueTypeFile(family, weight))),
  );
  return typesetter;
}
