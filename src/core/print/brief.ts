import type { Composition } from '@/core/card';
import type { Language } from '@/core/language';
import { inkOf, type Ink, type Look } from '@/core/look';
import { FINEST_MM, QUIET_ZONE } from '@/core/qr';
import { linesToPlace } from './artwork';
import { BLEED_MM, LEAST_DPI, roomsOf, SMALL_TYPE } from './sizes';
import { trimOf, type Piece } from './spec';

/** What a designer is told: a text file by its name. */
export type BriefFile = { name: string; text: string };

export type Brief = {
  composition: Composition;
  language: Language;
  piece: Piece;
  /** Beside the code. */
  sentence: string;
  /** What the code holds. */
  link: string;
  /** Printed width of the code and of a module, in millimetres, and modules across, margin in. */
  code: { widthMm: number; moduleMm: number; modules: number };
  inks: readonly Ink[];
};

const mm = (value: number): string => `${Math.round(value * 100) / 100} mm`;

/** Texts, colours and measures of a piece for whoever designs it: what is ticked for paper and nothing else. */
export const briefFiles = (brief: Brief): BriefFile[] => [
  { name: 'texts.txt', text: textsOf(brief) },
  { name: 'colours.txt', text: coloursOf(brief.composition.look, brief.inks) },
  { name: 'measures.txt', text: measuresOf(brief) },
];

const file = (lines: string[]): string => `${lines.join('\n')}\n`;

function textsOf({ composition, language, sentence, link }: Brief): string {
  const lines = linesToPlace(composition, language).map(({ title, value }) => (title ? `${title}: ${value}` : value));
  return file([...lines, '', `Beside the code: ${sentence}`, `The code holds: ${link}`]);
}

function coloursOf({ palette }: Look, inks: readonly Ink[]): string {
  return file(
    Object.entries(palette).map(([name, colour]) => {
      const ink = inkOf(inks, colour);
      const printed = ink ? `; C M Y K ${ink.cmyk.join(' ')} %${ink.spot ? `; spot colour ${ink.spot}` : ''}` : '';
      return `${name}: ${colour} (sRGB)${printed}`;
    }),
  );
}

function measuresOf({ piece, code }: Brief): string {
  const { width, height } = trimOf(piece);
  const { margin } = roomsOf(piece.size);
  return file([
    `Trimmed size: ${mm(width)} wide, ${mm(height)} high`,
    `Bleed: ${mm(BLEED_MM)} on each side, so ${mm(width + 2 * BLEED_MM)} by ${mm(height + 2 * BLEED_MM)} in all`,
    `Words and the code keep ${mm(margin)} from the cut`,
    `Type: ${SMALL_TYPE.warn} points or more; below ${SMALL_TYPE.refuse} points it cannot be read`,
    `Pictures: ${LEAST_DPI} pixels an inch or more`,
    '',
    `Code: ${mm(code.widthMm)} wide with its margin, ${code.modules} modules of ${mm(code.moduleMm)}`,
    `The least it may be: ${mm(FINEST_MM * code.modules)} wide, its modules ${mm(FINEST_MM)}`,
    `Its margin of ${QUIET_ZONE} modules is part of the file and stays free`,
    'Dark on light, with a contrast of 4 to 1 or more; neither stretched nor cropped, and no effect on it',
  ]);
}
