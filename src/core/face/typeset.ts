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
export type SetGlyph = {
  family: FamilyName;
  weight: Weight;
  glyph: number;
  /** What it says: of several glyphs for the same letters the first says them, the others nothing. */
  letters: string;
  x: number;
  y: number;
};

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
  /** Its lines are broken at once; where each letter stands is worked out when it is first asked for. */
  set: (text: string, setting: Setting) => SetText;
  /** Width of a text on one line, in sizes. */
  measure: (text: string, setting: Pick<Setting, 'family' | 'weight'>) => number;
  /** Outline of a glyph as an SVG path in units of its font, y upwards, and those units to the size. */
  outline: (glyph: Pick<SetGlyph, 'family' | 'weight' | 'glyph'>) => { path: string; unitsPerEm: number };
  /** How far a glyph moves what follows it, in sizes. */
  advance: (glyph: Pick<SetGlyph, 'family' | 'weight' | 'glyph'>) => number;
};

/** Distance of two lines in sizes (common practice for short texts). */
const LEADING = 1.24;

type Loaded = { font: HarfBuzz.Font; letters: ReadonlySet<number>; unitsPerEm: number; ascent: number };
/** A glyph with its place in sizes; `letter` is the index of its first letter within what was shaped. */
type Piece = {
  glyph: number;
  letters: string;
  x: number;
  y: number;
  advance: number;
  family: FamilyName;
  letter: number;
};
type Fonts = Pick<Setting, 'family' | 'weight'>;
/** A word by its width in sizes, and the width of each of its beginnings. */
type Measured = { width: number; upTo: Float64Array };

/** Words and shapes are remembered up to so many letters in all: those of names and numbers repeat from face to face. */
const MOST_REMEMBERED = 400_000;

const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' });

/**
 * The one measurer of text outside browsers. Letters are shaped by HarfBuzz (Arabic joins, marks sit where they belong), their
 * order is that of the Unicode Bidirectional Algorithm (UAX #9, bidi-js), a family without a letter gives way to a stand-in. `hb` is
 * the loaded library, which has to be waited for.
 */
export function createTypesetter(hb: typeof HarfBuzz, files: FontFiles): Typesetter {
  // Its tables take long, and who only knows sizes of faces needs none.
  const bidi = bidiFactory();
  const loaded = new Map<string, Loaded>();
  const outlines = new Map<string, string>();
  const shaped = remembering<Piece[]>();
  const measured = remembering<Measured>();

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
    const infos = buffer.getGlyphInfos();
    const saidBy = lettersOf(
      text,
      infos.map(({ cluster }) => cluster),
    );
    const pieces = infos.map(({ codepoint, cluster }, at): Piece => {
      const { xAdvance, xOffset, yOffset } = positions[at]!;
      return {
        glyph: codepoint,
        letters: saidBy[at]!,
        x: xOffset / unitsPerEm,
        y: yOffset / unitsPerEm,
        advance: xAdvance / unitsPerEm,
        family,
        letter: cluster,
      };
    });
    shaped.set(key, pieces);
    return pieces;
  }

  /** Stretches of one level and one family, in the order of the text; letters that nobody has are left out. */
  function runsOf(text: string, levels: Uint8Array, { family, weight }: Fonts, missing: Set<string>) {
    const runs: { text: string; from: number; level: number; family: FamilyName }[] = [];
    let at = 0;
    for (const letter of text) {
      const from = at;
      const level = levels[at]!;
      at += letter.length;
      const last = runs.at(-1);
      const mark = /[\p{M}\u200c\u200d\s]/u.test(letter);
      const own = mark && last ? last.family : familyFor(letter.codePointAt(0)!, family, weight);
      if (!own) {
        missing.add(letter);
        continue;
      }
      if (last && last.level === level && last.family === own && last.from + last.text.length === from)
        last.text += letter;
      else runs.push({ text: letter, from, level, family: own });
    }
    return runs;
  }

  /** Glyphs of a line from left to right, as they are seen. */
  function seen(text: string, levels: Uint8Array, fonts: Fonts, missing: Set<string>): Piece[] {
    const runs = runsOf(text, levels, fonts, missing);
    // Rule L2: from the highest level down, every stretch at least that high is turned about.
    for (let level = Math.max(0, ...runs.map((run) => run.level)); level > 0; level -= 1)
      for (let from = 0; from < runs.length; from += 1) {
        let to = from;
        while (to < runs.length && runs[to]!.level >= level) to += 1;
        if (to > from) runs.splice(from, to - from, ...runs.slice(from, to).reverse());
        from = to;
      }
    return runs.flatMap((run) => shape(run.text, run.family, fonts.weight, run.level % 2 === 1));
  }

  const none = new Set<string>();
  /** A word by its width, worked out once whatever size it is set in. */
  function wordOf(word: string, fonts: Fonts): Measured {
    const key = `${fonts.family} ${fonts.weight} ${word}`;
    const known = measured.get(key);
    if (known) return known;
    const { levels } = bidi.getEmbeddingLevels(word, undefined);
    const upTo = new Float64Array(word.length + 1);
    for (const run of runsOf(word, levels, fonts, none))
      for (const { letter, advance } of shape(run.text, run.family, fonts.weight, run.level % 2 === 1))
        upTo[run.from + letter + 1]! += advance;
    none.clear();
    for (let at = 1; at < upTo.length; at += 1) upTo[at]! += upTo[at - 1]!;
    const made = { width: upTo[word.length]!, upTo };
    measured.set(key, made);
    return made;
  }

  const blankOf = (fonts: Fonts) => wordOf('\u00a0', fonts).width;
  function measure(text: string, fonts: Fonts): number {
    const words = text.split(/[ \t\n]+/).filter(Boolean);
    return words.reduce((sum, word) => sum + wordOf(word, fonts).width, Math.max(0, words.length - 1) * blankOf(fonts));
  }

  function set(text: string, setting: Setting): SetText {
    const { family, weight, size, width, most = 99 } = setting;
    const fonts = { family, weight };
    const { lines, cut, within } = broken(text, width / size, most, {
      word: (word) => wordOf(word, fonts),
      blank: blankOf(fonts),
    });
    let placed: ReturnType<typeof place> | undefined;
    const placedOnce = () => (placed ??= place(text, lines, setting));
    return {
      height: lines.length * size * LEADING,
      size,
      cut,
      broken: within,
      get glyphs() {
        return placedOnce().glyphs;
      },
      get widths() {
        return placedOnce().widths;
      },
      get lineOf() {
        return placedOnce().lineOf;
      },
      get toRight() {
        return placedOnce().toRight;
      },
      get missing() {
        return placedOnce().missing;
      },
    };
  }

  /** Where each letter of a broken text stands. */
  function place(text: string, lines: string[], { family, weight, size }: Setting) {
    const missing = new Set<string>();
    const toRight = (bidi.getEmbeddingLevels(text || ' ', undefined).paragraphs[0]?.level ?? 0) % 2 === 1;
    const placed = { glyphs: [] as SetGlyph[], widths: [] as number[], lineOf: [] as number[], toRight };
    lines.forEach((line, number) => {
      const { levels } = bidi.getEmbeddingLevels(line, toRight ? 'rtl' : 'ltr');
      const top = (number * LEADING + load(family, weight).ascent) * size;
      let x = 0;
      for (const piece of seen(line, levels, { family, weight }, missing)) {
        placed.glyphs.push({
          family: piece.family,
          weight,
          glyph: piece.glyph,
          letters: piece.letters,
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

  function advance({ family, weight, glyph }: Pick<SetGlyph, 'family' | 'weight' | 'glyph'>): number {
    const { font, unitsPerEm } = load(family, weight);
    return font.glyphHAdvance(glyph) / unitsPerEm;
  }

  return { set, measure, outline, advance };
}

/** What each glyph says, from the letter that its cluster begins with, in the order of the glyphs. */
function lettersOf(text: string, clusters: number[]): string[] {
  const begins = [...new Set(clusters)].sort((a, b) => a - b);
  const endOf = new Map(begins.map((begin, at) => [begin, begins[at + 1] ?? text.length]));
  const said = new Set<number>();
  return clusters.map((begin) => {
    if (said.has(begin)) return '';
    said.add(begin);
    return text.slice(begin, endOf.get(begin));
  });
}

/** A map from keys to what was worked out for them, which forgets all when its keys have grown too long together. */
function remembering<T>(): Pick<Map<string, T>, 'get' | 'set'> {
  const known = new Map<string, T>();
  let letters = 0;
  return {
    get: (key) => known.get(key),
    set(key, value) {
      letters += key.length;
      if (letters > MOST_REMEMBERED) {
        known.clear();
        letters = key.length;
      }
      return known.set(key, value);
    },
  };
}

type Measure = { word: (word: string) => Measured; blank: number };

/**
 * Breaks a text at its blanks into lines that fit; a word wider than a line is broken between letters. Widths in sizes. Each letter is
 * measured once, and nothing beyond the last line that has room is looked at.
 */
function broken(
  text: string,
  width: number,
  most: number,
  { word: measured, blank }: Measure,
): { lines: string[]; cut: boolean; within: boolean } {
  const lines: string[] = [];
  let within = false;
  const tooMany = () => lines.length > most;
  for (const paragraph of text.split('\n')) {
    let [line, length] = ['', 0];
    for (const word of paragraph.split(/[ \t]+/)) {
      if (!word) continue;
      if (tooMany()) break;
      const own = measured(word);
      if (line ? length + blank + own.width <= width : own.width <= width) {
        length += (line ? blank : 0) + own.width;
        line = line ? `${line} ${word}` : word;
        continue;
      }
      if (line) lines.push(line);
      [line, length] = [word, own.width];
      if (own.width <= width) continue;
      const heads = pieces(word, own.upTo, width, most + 1 - lines.length);
      within ||= heads.length > 1;
      lines.push(...heads.slice(0, -1));
      line = heads.at(-1)!;
      length = own.width - own.upTo[word.length - line.length]!;
    }
    if (tooMany()) break;
    lines.push(line);
  }
  if (!tooMany()) return { lines, cut: false, within };
  const kept = lines.slice(0, most);
  kept[most - 1] = `${shortened(kept[most - 1]!, width - measured('…').width, { word: measured, blank })}…`;
  return { lines: kept, cut: true, within };
}

/** A word in pieces that fit, one letter each at least; at most `most` are cut off from what is left. */
function pieces(word: string, upTo: Float64Array, width: number, most: number): string[] {
  const out: string[] = [];
  let from = 0;
  let end = 0;
  for (const { index, segment } of graphemes.segment(word)) {
    const next = index + segment.length;
    if (end > from && upTo[next]! - upTo[from]! > width) {
      out.push(word.slice(from, end));
      from = end;
      if (out.length >= most) break;
    }
    end = next;
  }
  return [...out, word.slice(from)];
}

/** The beginning of a line that fits. */
function shortened(line: string, width: number, { word: measured, blank }: Measure): string {
  let kept = '';
  let length = 0;
  for (const word of line.split(' ')) {
    const own = measured(word);
    const before = kept ? length + blank : 0;
    if (before + own.width <= width) {
      kept = kept ? `${kept} ${word}` : word;
      length = before + own.width;
      continue;
    }
    const head = pieces(word, own.upTo, Math.max(0, width - before), 1)[0]!;
    const fits = own.upTo[head.length]! <= width - before;
    return fits || !kept ? (kept ? `${kept} ${head}` : head) : kept;
  }
  return kept;
}
