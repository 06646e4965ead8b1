import { leakedIn } from './leaked';
import { proofOf, type Proof } from './proof';

type ReadRecord = { tnf: number; type: string; payload: Uint8Array };

/** Text of UTF-8, or null where it is none. */
function textOf(bytes: Uint8Array): string | null {
  try {
    return new TextDecoder('utf-8', { fatal: true, ignoreBOM: true }).decode(bytes);
  } catch {
    return null;
  }
}

/**
 * Records of a tag's memory, read apart from the writer, as strictly as a phone may: one message (NFC Forum, Type 2 Tag 2.3) whose
 * first record alone begins it and whose last alone ends it (NDEF 1.0, 3.2), no byte beside it. Null when it is no such message.
 */
function recordsIn(memory: Uint8Array): ReadRecord[] | null {
  if (memory[0] !== 0x03) return null;
  const long = memory[1] === 0xff;
  const length = long ? memory[2]! * 256 + memory[3]! : memory[1]!;
  const start = long ? 4 : 2;
  const end = start + length;
  if ((long && length < 255) || memory.length !== end + 1 || memory[end] !== 0xfe) return null;
  const found: ReadRecord[] = [];
  for (let at = start; at < end;) {
    const head = memory[at]!;
    const begins = (head & 0x80) !== 0;
    const ends = (head & 0x40) !== 0;
    const short = (head & 0x10) !== 0;
    // Neither in pieces nor with an id: we write neither.
    if (at + (short ? 3 : 6) > end || begins !== (at === start) || (head & 0x28) !== 0) return null;
    const typeLength = memory[at + 1]!;
    const size = short ? memory[at + 2]! : new DataView(memory.buffer, memory.byteOffset).getUint32(at + 2);
    const from = at + (short ? 3 : 6) + typeLength;
    at = from + size;
    if (at > end || ends !== (at === end)) return null;
    const type = textOf(memory.subarray(from - typeLength, from));
    if (type === null) return null;
    found.push({ tnf: head & 0x07, type, payload: memory.subarray(from, at) });
  }
  return found;
}

/** Beginnings of addresses by their code (NFC Forum, URI Record Type Definition 1.0, 3.2.2; from memory): those of the web, of calls and of mails. */
const BEGINNINGS = ['', 'http://www.', 'https://www.', 'http://', 'https://', 'tel:', 'mailto:'];

const linkOf = ({ tnf, type, payload }: ReadRecord): string | null => {
  const beginning = BEGINNINGS[payload[0] ?? -1];
  const rest = textOf(payload.subarray(1));
  return tnf === 1 && type === 'U' && beginning !== undefined && rest !== null ? beginning + rest : null;
};
const contactOf = ({ tnf, type, payload }: ReadRecord): string | null =>
  tnf === 2 && type === 'text/vcard' ? textOf(payload) : null;

/** Words with their language, as a text record has them in UTF-8 (Text Record Type Definition 1.0, 3.2). */
function wordsOf({ tnf, type, payload }: ReadRecord): { language: string | null; text: string | null } | null {
  const status = payload[0];
  if (tnf !== 1 || type !== 'T' || status === undefined || status > 0x3f || payload.length < 1 + status) return null;
  return { language: textOf(payload.subarray(1, 1 + status)), text: textOf(payload.subarray(1 + status)) };
}

const squeezed = (words: { language: string | null; text: string | null } | null): string =>
  `${words?.language} ${words?.text}`;

/** What a tag is held against: its link, and a contact or words after it. */
export type TagHeld = {
  link: string;
  contact: string | null;
  words?: { language: string; text: string } | null;
};

/**
 * The proof of a tag's bytes: the link comes first and is `link`, then the contact or the words or nothing, and nothing of `withheld` is
 * in it. `room` is what the tag holds, in bytes.
 */
export function proveTag(
  memory: Uint8Array,
  { link, contact, words = null }: TagHeld,
  withheld: string[],
  room: number,
): Proof {
  const records = recordsIn(memory) ?? [];
  const [first, second] = records;
  const leaked = new Set(records.flatMap(({ payload }) => leakedIn(textOf(payload) ?? '', withheld)));
  const linkFirst = first?.type === 'U';
  const whole =
    first !== undefined &&
    linkOf(first) === link &&
    records.length === (contact === null && words === null ? 1 : 2) &&
    (contact === null || contactOf(second!) === contact) &&
    (words === null || squeezed(wordsOf(second!)) === squeezed(words));
  return proofOf([
    { name: 'read back', passed: whole, finding: { code: 'TAG_READ', records: whole ? records.length : 0 } },
    { name: 'link first', passed: linkFirst, finding: { code: 'LINK_FIRST', first: linkFirst } },
    {
      name: 'unticked lines',
      passed: leaked.size === 0,
      finding: { code: 'UNTICKED', still: leaked.size, of: withheld.length },
    },
    { name: 'room', passed: memory.length <= room, finding: { code: 'FITS', bytes: memory.length, room } },
  ]);
}
