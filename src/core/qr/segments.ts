/** How characters are packed (ISO/IEC 18004, 7.4): digits, letters in upper case with a few signs, bytes of UTF-8. */
export type Mode = 'numeric' | 'alphanumeric' | 'byte';
export type Segment = { mode: Mode; text: string };

const LETTERS = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ $%*+-./:';
const IS_LETTER = Uint8Array.from({ length: 128 }, (_, point) =>
  LETTERS.includes(String.fromCharCode(point)) ? 1 : 0,
);
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
  const [inBytes, inLetters, inDigits] = modes.map((mode) => (4 + COUNT_BITS[mode][group]) * 6) as [
    number,
    number,
    number,
  ];
  const characters = Array.from(text);
  // For each character and the mode after it, the mode that it stands in itself.
  const chosen = new Uint8Array(characters.length * 3);
  // Sixths of a bit, so that thirds and halves stay whole.
  let [bytes, letters, digits] = [inBytes, inLetters, inDigits];
  for (let at = 0; at < characters.length; at += 1) {
    const point = characters[at]!.codePointAt(0)!;
    bytes += (point < 0x80 ? 1 : point < 0x800 ? 2 : point < 0x10000 ? 3 : 4) * 48;
    letters = point < 128 && IS_LETTER[point] === 1 ? letters + 33 : Infinity;
    digits = point >= 48 && point <= 57 ? digits + 20 : Infinity;
    // What was begun ends at a whole bit, and another one begins.
    const [b, l, d] = [Math.ceil(bytes / 6) * 6, Math.ceil(letters / 6) * 6, Math.ceil(digits / 6) * 6];
    let [afterBytes, afterLetters, afterDigits] = [bytes, letters, digits];
    const place = at * 3;
    chosen[place + 1] = 1;
    chosen[place + 2] = 2;
    if (l + inBytes < afterBytes) [afterBytes, chosen[place]] = [l + inBytes, 1];
    if (d + inBytes < afterBytes) [afterBytes, chosen[place]] = [d + inBytes, 2];
    if (b + inLetters < afterLetters) [afterLetters, chosen[place + 1]] = [b + inLetters, 0];
    if (d + inLetters < afterLetters) [afterLetters, chosen[place + 1]] = [d + inLetters, 2];
    if (b + inDigits < afterDigits) [afterDigits, chosen[place + 2]] = [b + inDigits, 0];
    if (l + inDigits < afterDigits) [afterDigits, chosen[place + 2]] = [l + inDigits, 1];
    [bytes, letters, digits] = [afterBytes, afterLetters, afterDigits];
  }
  let mode = bytes <= letters && bytes <= digits ? 0 : letters <= digits ? 1 : 2;
  const segments: Segment[] = [];
  for (let end = characters.length; end > 0;) {
    // After this character one may have gone over to `mode`; the character itself stands in the one before.
    mode = chosen[(end - 1) * 3 + mode]!;
    let from = end - 1;
    while (from > 0 && chosen[(from - 1) * 3 + mode] === mode) from -= 1;
    segments.unshift({ mode: modes[mode]!, text: characters.slice(from, end).join('') });
    end = from;
  }
  return segments;
}

/** Bits as they are written, the most significant first, eight a byte. */
export class Bits {
  readonly bytes = new Uint8Array(MOST_BYTES);
  length = 0;
  put(value: number, count: number): void {
    for (let left = count; left > 0;) {
      const room = 8 - (this.length & 7);
      const taken = Math.min(room, left);
      this.bytes[this.length >> 3]! |= ((value >>> (left - taken)) & ((1 << taken) - 1)) << (room - taken);
      this.length += taken;
      left -= taken;
    }
  }
}
/** More than the largest symbol has for data (ISO/IEC 18004, table 7). */
const MOST_BYTES = 3_000;

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
