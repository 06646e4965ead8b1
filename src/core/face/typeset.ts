import bidiFactory from 'bidi-js';
import type * as HarfBuzz from 'harfbuzzjs';
import { STAND_INS, type FamilyName, type Weight } from '@/core/look';

/** Bytes of a family's TrueType file at a weight. */
export type FontFiles = (family: FamilyName, weight: Weight) => Uint8Array;

/** How a text is to be set: sizes and widths in the unit of the face. */
export type Setting = {
  family: FamilyName;
  weight: Weight;
  size: number;
  width: number;
  /** Lines at most; what is too long for them ends with an ellipsis. */
  most?: number;
};

/** An outline at its place: `x` and `y` of its origin within the text, from its left and its first line's top. */
export type SetGlyph = { family: FamilyName; weight: Weight; glyph: number; x: number; y: number };

/** A text in its lines. Left and right are those of the paper; `toRight` says that its first strong letter is read from the right. */
export type SetText = {
  glyphs: SetGlyph[];
  /** Width of each line. */
  widths: number[];
  lineOf: number[];
  height: number;
  size: number;
  toRight: boolean;
  /** Whether words were left away. */
  cut: boolean;
  /** Whether a word was wider than a line and broken in two. */
  broken: boolean;
  /** Letters that no family has. */
  missing: string[];
};

export type Typesetter = {
  set: (text: string, setting: Setting) => SetText;
  /** Outline of a glyph as an SVG path in units of its font, y upwards, and those units to the size. */
  outline: (glyph: Pick<SetGlyph, 'family' | 'weight' | 'glyph'>) => { path: string; unitsPerEm: number };
};

/** Distance of two lines in sizes (common practice for short texts). */
const LEADING = 1.24;

type Loaded = { font: HarfBuzz.Font; letters: ReadonlySet<number>; unitsPerEm: number; ascent: number };
type Piece = { glyph: number; x: number; y: number; advance: number; family: FamilyName };

const bidi = bidiFactory();
const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' });

/**
 * The one measurer of text outside browsers. Letters are shaped by HarfBuzz (Arabic joins, marks sit where they belong), their
 * order is that of the Unicode Bidirectional Algorithm (UAX #9, bidi-js), a family without a letter gives way to a stand-in. `hb` is
 * the loaded library, which has to be waited for.
 */
export function createTypesetter(hb: typeof HarfBuzz, files: FontFiles): Typesetter {
  const loaded = new Map<string, Loaded>();
  const outlines = new Map<string, string>();
  const shaped = new Map<string, Piece[]>();

  function load(family: FamilyName, weight: Weight): Loaded {
    const key = `${family} ${weight}`;
    const known = loaded.get(key);
    if (known) return known;
    const bytes = files(family, weight);
    const face = new hb.Face(new hb.Blob(bytes));
    const font = new hb.Font(face);
    const { ascender, descender } = font.hExtents();
    // Descenders are negative; what is between them and a line's height lies half above, half below.
    const ascent = (LEADING + (ascender + descender) / face.upem) / 2;
    const made = { font, letters: new Set(face.collectUnicodes()), unitsPerEm: face.upem, ascent };
    loaded.set(key, made);
    return made;
  }

  const familyFor = (letter: number, family: FamilyName, weight: Weight): FamilyName | null =>
    [family, ...STAND_INS].find((each) => load(each, weight).letters.has(letter)) ?? null;

  /** Glyphs of letters of one family and one direction, from left to right; sizes in parts of the type size. */
  function shape(text: string, family: FamilyName, weight: Weight, toRight: boolean): Piece[] {
    const key = `${family} ${weight} ${toRight ? 'r' : 'l'} ${text}`;
    const known = shaped.get(key);
    if (known) return known;
    const { font, unitsPerEm } = load(family, weight);
    const buffer = new hb.Buffer();
    buffer.addText(text);
    buffer.guessSegmentProperties();
    buffer.setDirection(toRight ? hb.Direction.RTL : hb.Direction.LTR);
    hb.shape(font, buffer);
    const positions = buffer.getGlyphPositions();
    const pieces = buffer.getGlyphInfos().map(({ codepoint }, at): Piece => {
      const { xAdvance, xOffset, yOffset } = positions[at]!;
      return {
        glyph: codepoint,
        x: xOffset / unitsPerEm,
        y: yOffset / unitsPerEm,
        advance: xAdvance / unitsPerEm,
        family,
      };
    });
    // Names and numbers repeat from face to face; texts of one's own seldom do.
    if (shaped.size >= 5_000) shaped.clear();
    shaped.set(key, pieces);
    return pieces;
  }

  /** Glyphs of a line from left to right, as they are seen; letters that nobody has are left out. */
  function seen(text: string, levels: Uint8Array, family: FamilyName, weight: Weight, missing: Set<string>): Piece[] {
    const runs: { text: string; level: number; family: FamilyName }[] = [];
    let at = 0;
    for (const letter of text) {
      const level = levels[at]!;
      at += letter.length;
      const last = runs.at(-1);
      const mark = /[\p{M}\u200c\u200d\s]/u.test(letter);
      const own = mark && last ? last.family : familyFor(letter.codePointAt(0)!, family, weight);
      if (!own) {
        missing.add(letter);
        continue;
      }
      if (last && last.level === level && last.family === own) last.text += letter;
      else runs.push({ text: letter, level, family: own });
    }
    // Rule L2: from the highest level down, every stretch at least that high is turned about.
    for (let level = Math.max(0, ...runs.map((run) => run.level)); level > 0; level -= 1)
      for (let from = 0; from < runs.length; from += 1) {
        let to = from;
        while (to < runs.length && runs[to]!.level >= level) to += 1;
        if (to > from) runs.splice(from, to - from, ...runs.slice(from, to).reverse());
        from = to;
      }
    return runs.flatMap((run) => shape(run.text, run.family, weight, run.level % 2 === 1));
  }

  function set(text: string, { family, weight, size, width, most = 99 }: Setting): SetText {
    const missing = new Set<string>();
    const widthOf = (part: string) => {
      const { levels } = bidi.getEmbeddingLevels(part, undefined);
      return seen(part, levels, family, weight, missing).reduce((sum, { advance }) => sum + advance, 0) * size;
    };
    const { lines, cut, within } = broken(text, width, most, widthOf);
    const toRight = (bidi.getEmbeddingLevels(text || ' ', undefined).paragraphs[0]?.level ?? 0) % 2 === 1;
    const placed: SetText = {
      glyphs: [],
      widths: [],
      lineOf: [],
      height: lines.length * size * LEADING,
      size,
      toRight,
      cut,
      broken: within,
      missing: [],
    };
    lines.forEach((line, number) => {
      const { levels } = bidi.getEmbeddingLevels(line, toRight ? 'rtl' : 'ltr');
      const top = (number * LEADING + load(family, weight).ascent) * size;
      let x = 0;
      for (const piece of seen(line, levels, family, weight, missing)) {
        placed.glyphs.push({
          family: piece.family,
          weight,
          glyph: piece.glyph,
          x: x + piece.x * size,
          y: top - piece.y * size,
        });
        placed.lineOf.push(number);
        x += piece.advance * size;
      }
      placed.widths.push(x);
    });
    return { ...placed, missing: [...missing] };
  }

  function outline({ family, weight, glyph }: Pick<SetGlyph, 'family' | 'weight' | 'glyph'>) {
    const { font, unitsPerEm } = load(family, weight);
    const key = `${family} ${weight} ${glyph}`;
    const path = outlines.get(key) ?? font.glyphToPath(glyph);
    outlines.set(key, path);
    return { path, unitsPerEm };
  }

  return { set, outline };
}

/** Breaks a text at its blanks into lines that fit; a word wider than a line is broken between letters. */
function broken(
  text: string,
  width: number,
  most: number,
  widthOf: (part: string) => number,
): { lines: string[]; cut: boolean; within: boolean } {
  const lines: string[] = [];
  let within = false;
  for (const paragraph of text.split('\n')) {
    let line = '';
    for (const word of paragraph.split(/[ \t]+/).filter(Boolean)) {
      const tried = line ? `${line} ${word}` : word;
      if (widthOf(tried) <= width) {
        line = tried;
        continue;
      }
      if (line) lines.push(line);
      line = word;
      while (widthOf(line) > width) {
        const head = fitting(line, width, widthOf);
        if (head.length >= line.length) break;
        lines.push(head);
        within = true;
        line = line.slice(head.length);
      }
      if (lines.length > most) break;
    }
    lines.push(line);
  }
  if (lines.length <= most) return { lines, cut: false, within };
  const kept = lines.slice(0, most);
  kept[most - 1] = `${fitting(kept[most - 1]!, width - widthOf('…'), widthOf).trimEnd()}…`;
  return { lines: kept, cut: true, within };
}

/** The longest beginning that fits, one letter at least. */
function fitting(text: string, width: number, widthOf: (part: string) => number): string {
  const letters = [...graphemes.segment(text)].map(({ segment }) => segment);
  let [low, high] = [1, letters.length];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if (widthOf(letters.slice(0, middle).join('')) <= width) low = middle;
    else high = middle - 1;
  }
  return letters.slice(0, low).join('');
}
