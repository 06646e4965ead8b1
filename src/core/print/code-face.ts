import {
  drawnLogo,
  logoWithin,
  type Face,
  type FaceContent,
  type FaceItem,
  type SetText,
  type Typesetter,
} from '@/core/face';
import { coloursOf, contrast, type Look } from '@/core/look';
import type { Drawing } from '@/core/qr';

/** What stands beside a code. */
export type CodeFaceContent = {
  title: string;
  texts: string[];
  logo: FaceContent['logo'];
  code: Drawing;
  /** Printed width of the code, margin in. */
  codeMm: number;
  /** Words above and below the code, not beside it. */
  below: boolean;
  /** The code alone, on its own ground. */
  bare?: boolean;
  toRight: boolean;
};

type Trim = { width: number; height: number; margin: number; leastType: number };

/** Sizes in shares of the shorter side: the title, what stands below it, the logo's height, room between them. */
const TITLE = 0.12;
const TEXT = 0.062;
const LOGO = 0.17;
const GAP = 0.07;
const STEP = 0.93;

type Words = {
  logo: { width: number; height: number } | null;
  title: SetText | null;
  texts: SetText[];
  size: { title: number; text: number };
  height: number;
  fits: boolean;
};

/** A side of paper that is a code and what it is for: on the band of the card's look, the code on a ground of its own. Millimetres. */
export function layCodeFace(look: Look, content: CodeFaceContent, trim: Trim, typesetter: Typesetter): Face {
  const { width, height, margin } = trim;
  const { code, codeMm, below, bare } = content;
  const colours = coloursOf(look.palette);
  const shorter = Math.min(width, height);
  const gap = shorter * GAP;
  const codeHeight = (codeMm * code.height) / code.width;
  const items: FaceItem[] = [
    { kind: 'sheet', x: 0, y: 0, width, height, colour: bare ? (code.ground ?? colours.sheet) : colours.band },
  ];
  if (!bare) items.push({ kind: 'band', x: 0, y: 0, width, height, colour: colours.band, ground: look.ground });
  const room = {
    width: below ? width - 2 * margin : width - 2 * margin - codeMm - gap,
    height: height - 2 * margin - (below ? codeHeight + gap : 0),
  };
  const { logo, ...words } = wordsIn(look, content, room, trim, typesetter);
  const stack = words.height + (logo ? logo.height + (words.height > 0 ? gap : 0) : 0);
  const whole = below ? codeHeight + (stack > 0 ? gap + stack : 0) : stack;
  const top = Math.max(margin, (height - whole) / 2);
  const codePlace = {
    x: below ? (width - codeMm) / 2 : content.toRight ? margin : width - margin - codeMm,
    y: below ? top : (height - codeHeight) / 2,
  };
  const box = { ...codePlace, width: codeMm, height: codeHeight };
  if (!code.ground && !bare) items.push({ kind: 'sheet', ...box, colour: '#FFFFFF' });
  items.push({ kind: 'code', ...box, drawing: code });
  const left = below || !content.toRight ? margin : margin + codeMm + gap;
  let y = below ? top + codeHeight + gap : top;
  const onBand = contrast(colours.onBand, colours.band) >= 3 ? colours.onBand : colours.ink;
  const place = (text: SetText, says: string) => {
    const align = (each: number) => (below ? (room.width - each) / 2 : content.toRight ? room.width - each : 0);
    items.push({ kind: 'text', x: left, y, text, shifts: text.widths.map(align), colour: onBand, says });
    y += text.height;
  };
  if (logo && content.logo) {
    const x = below ? (width - logo.width) / 2 : content.toRight ? left + room.width - logo.width : left;
    items.push(...drawnLogo({ x, y, ...logo }, content.logo.plate));
    y += logo.height + gap;
  }
  if (words.title) place(words.title, content.title);
  words.texts.forEach((text, at) => {
    y += at === 0 && words.title ? words.size.text * 0.4 : 0;
    place(text, content.texts[at]!);
  });
  const all = [...(words.title ? [words.title] : []), ...words.texts];
  return {
    ...{ width, height, items, leftOut: [] },
    smallestType: Math.min(...all.map(({ size }) => size), Number.POSITIVE_INFINITY),
    cut: words.fits ? [] : ['name'],
    missing: [...new Set(all.flatMap(({ missing }) => missing))],
  };
}

/** The words as large as they fit, down to the least type, and the logo with them. */
function wordsIn(
  look: Look,
  { title, texts, logo }: CodeFaceContent,
  room: { width: number; height: number },
  { width, height, leastType }: Trim,
  typesetter: Typesetter,
): Words {
  const shorter = Math.min(width, height);
  for (let factor = 1; ; factor *= STEP) {
    const size = {
      title: Math.max(leastType, shorter * TITLE * factor),
      text: Math.max(leastType, shorter * TEXT * factor),
    };
    const shown = logo && logoWithin(logo, shorter * LOGO * factor, room.width);
    const setTitle = title
      ? typesetter.set(title, { family: look.title, weight: 'heavy', size: size.title, width: room.width, most: 4 })
      : null;
    const setTexts = texts.map((text) =>
      typesetter.set(text, { family: look.text, weight: 'plain', size: size.text, width: room.width, most: 3 }),
    );
    const all = [...(setTitle ? [setTitle] : []), ...setTexts];
    const gap = setTitle && setTexts.length > 0 ? size.text * 0.4 : 0;
    const whole = all.reduce((sum, each) => sum + each.height, gap);
    const least = size.title <= leastType;
    const needs = whole + (shown ? shown.height + shorter * GAP : 0);
    const fits =
      (all.length === 0 || needs <= room.height + 0.01) && all.every((each) => !each.cut && (!each.broken || least));
    if (fits || least) return { title: setTitle, texts: setTexts, size, height: whole, fits, logo: shown };
  }
}
