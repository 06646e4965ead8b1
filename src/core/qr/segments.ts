/** How characters are packed (ISO/IEC 18004, 7.4): digits, letters in upper case with a few signs, bytes of UTF-8. */
export type Mode = 'numeric' | 'alphanumeric' | 'byte';
export type Segment = { mode: Mode; text: string };

const LETTERS = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ $%*+-./:';
const BITS: Record<Mode, number> = { numeric: 0b0001, alphanumeric: 0b0010, byte: 0b0100 };
const ECI = 0b0111;
/** The assignment of UTF-8 among extended channel interpretations; without it readers guess what bytes beyond ASCII are. */
const UTF_8 = 26;

const utf8 = new TextEncoder();
/** Whether bytes need telling what they are. */
export const isBeyondAscii = (text: string): boolean => /[^\0-\x7f]/.test(text);

/** Bits that say how many characters a segment has, by groups of versions up to 9, 26 and 40 (ISO/IEC 18004, table 3). */
const COUNT_BITS: Record<Mode, readonly [number, number, number]> = {
  numeric: [10, 12, 14],
  alphanumeric: [9, 11, 13],
  byte: [8, 16, 16],
};
const groupOf = (version: number): 0 | 1 | 2 => (version < 10 ? 0 : version < 27 ? 1 : 2);

const lengthOf = ({ mode, text }: Segment): number => (mode === 'byte' ? utf8.encode(text).length : text.length);

function dataBits(mode: Mode, length: number): number {
  if (mode === 'numeric') return Math.ceil((length * 10) / 3);
  return mode === 'alphanumeric' ? Math.ceil((length * 11) / 2) : length * 8;
}

/** Bits of segments in a version; `Infinity` where one is longer than its count can say. */
export function bitsOf(segments: Segment[], version: number): number {
  const beyond = segments.some(({ mode, text }) => mode === 'byte' && isBeyondAscii(text));
  return segments.reduce(
    (sum, segment) => {
      const length = lengthOf(segment);
      const count = COUNT_BITS[segment.mode][groupOf(version)];
      return length >= 2 ** count ? Infinity : sum + 4 + count + dataBits(segment.mode, length);
    },
    beyond ? 12 : 0,
  );
}

/**
 * A text in the fewest bits that segments can have in a group of versions: the cheapest way to each character, in each mode, from that to the
 * one before (dynamic programming; ISO/IEC 18004, annex J, gives rules of thumb for the same). Lone halves of surrogate pairs become U+FFFD, as
 * in UTF-8 everywhere.
 */
export function segmentsOf(text: string, version: number): Segment[] {
  const modes: Mode[] = ['byte', 'alphanumeric', 'numeric'];
  const group = groupOf(version);
  const heads = modes.map((mode) => (4 + COUNT_BITS[mode][group]) * 6);
  const characters = Array.from(text);
  // Sixths of a bit, so that thirds and halves stay whole.
  let costs = [...heads];
  const chosen: number[][] = [];
  for (const character of characters) {
    const fits = [true, character.length === 1 && LETTERS.includes(character), character >= '0' && character <= '9'];
    const each = [utf8.encode(character).length * 48, 33, 20];
    const staying = costs.map((cost, mode) => (fits[mode] ? cost + each[mode]! : Infinity));
    const from = [0, 1, 2];
    const next = [...staying];
    for (const to of from)
      for (const before of from) {
        // What was begun ends at a whole bit, and another one begins.
        const cost = Math.ceil(staying[before]! / 6) * 6 + heads[to]!;
        if (before !== to && cost < next[to]!) [next[to], from[to]] = [cost, before];
      }
    chosen.push(from);
    costs = next;
  }
  let mode = costs.indexOf(Math.min(...costs));
  const segments: Segment[] = [];
  for (let at = characters.length - 1; at >= 0; at -= 1) {
    // After this character one may have gone over to `mode`; the character itself stands in the one before.
    mode = chosen[at]![mode]!;
    const [first] = segments;
    if (first && first.mode === modes[mode]) first.text = characters[at]! + first.text;
    else segments.unshift({ mode: modes[mode]!, text: characters[at]! });
  }
  return segments;
}

/** Bits as they are written, the most significant first. */
export class Bits {
  readonly bits: number[] = [];
  put(value: number, count: number): void {
    for (let at = count - 1; at >= 0; at -= 1) this.bits.push((value >>> at) & 1);
  }
}

/** Segments as bits, with the marker of UTF-8 before the first one that needs it (ISO/IEC 18004, 7.4.2). */
export function writeSegments(segments: Segment[], version: number): Bits {
  const out = new Bits();
  if (segments.some(({ mode, text }) => mode === 'byte' && isBeyondAscii(text))) {
    out.put(ECI, 4);
    out.put(UTF_8, 8);
  }
  for (const segment of segments) {
    const { mode, text } = segment;
    out.put(BITS[mode], 4);
    out.put(lengthOf(segment), COUNT_BITS[mode][groupOf(version)]);
    if (mode === 'byte') for (const byte of utf8.encode(text)) out.put(byte, 8);
    else if (mode === 'numeric')
      for (let at = 0; at < text.length; at += 3) {
        const digits = text.slice(at, at + 3);
        out.put(Number(digits), digits.length * 3 + 1);
      }
    else
      for (let at = 0; at < text.length; at += 2) {
        const [one, two] = [LETTERS.indexOf(text[at]!), LETTERS.indexOf(text[at + 1] ?? '')];
        if (at + 1 < text.length) out.put(one * 45 + two, 11);
        else out.put(one, 6);
      }
  }
  return out;
}
