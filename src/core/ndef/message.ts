import { err, ok, type Result } from '@/core/errors';
import { mediaRecord, textRecord, uriRecord, type NdefRecord } from './records';

const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text);

/** The message of these records: first and last are marked, a payload under 256 bytes takes the short form (NDEF 1.0, 3.2). */
export function encodeMessage(records: NdefRecord[]): Uint8Array {
  return Uint8Array.from(
    records.flatMap(({ tnf, type, payload }, at) => {
      const short = payload.length < 256;
      const begin = at === 0 ? 0x80 : 0;
      const end = at === records.length - 1 ? 0x40 : 0;
      const size = payload.length;
      const length = short ? [size] : [size >>> 24, (size >>> 16) & 255, (size >>> 8) & 255, size & 255];
      return [begin | end | (short ? 0x10 : 0) | tnf, type.length, ...length, ...utf8(type), ...payload];
    }),
  );
}

/** A tag holds no more than some kilobytes, and a message no more records than this. */
const MOST_RECORDS = 64;

/** The records of a message, with ids and in pieces (NDEF 1.0, 2.3.3) as others may write them. Error: TAG_UNREADABLE. */
export function decodeMessage(bytes: Uint8Array): Result<NdefRecord[]> {
  const broken = err({ code: 'TAG_UNREADABLE' as const });
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const records: NdefRecord[] = [];
  let open: { tnf: number; type: string; pieces: Uint8Array[] } | null = null;
  for (let at = 0, last = false; !last;) {
    const head = bytes[at];
    if (head === undefined || records.length >= MOST_RECORDS) return broken;
    if (((head & 0x80) !== 0) !== (at === 0)) return broken;
    last = (head & 0x40) !== 0;
    const [chunk, short, hasId] = [(head & 0x20) !== 0, (head & 0x10) !== 0, (head & 0x08) !== 0];
    const fixed = 2 + (short ? 1 : 4) + (hasId ? 1 : 0);
    if (at + fixed > bytes.length) return broken;
    const typeLength = bytes[at + 1]!;
    const size = short ? bytes[at + 2]! : view.getUint32(at + 2);
    const idLength = hasId ? bytes[at + fixed - 1]! : 0;
    const from = at + fixed + typeLength + idLength;
    if (from + size > bytes.length) return broken;
    const type = new TextDecoder('latin1').decode(bytes.subarray(at + fixed, at + fixed + typeLength));
    const payload = bytes.subarray(from, from + size);
    const tnf = head & 0x07;
    // A piece that goes on is of the unchanged type (TNF 6) and has none of its own.
    if ((open !== null) !== (tnf === 6) || tnf === 7 || (last && chunk)) return broken;
    if (open) open.pieces.push(payload);
    else open = { tnf, type, pieces: [payload] };
    if (!chunk) {
      const whole: number[] = open.pieces.flatMap((piece) => [...piece]);
      records.push({ tnf: open.tnf, type: open.type, payload: Uint8Array.from(whole) });
      open = null;
    }
    at = from + size;
    if (last && at !== bytes.length) return broken;
  }
  return ok(records);
}

/** A message as it lies in a Type 2 tag: its TLV (tag 03) and the terminator (FE) (NFC Forum, Type 2 Tag, 2.3). */
export function inTagMemory(message: Uint8Array): Uint8Array {
  const { length } = message;
  const head = length < 255 ? [0x03, length] : [0x03, 0xff, length >> 8, length & 255];
  return Uint8Array.from([...head, ...message, 0xfe]);
}

/** The message in a tag's memory, past what controls locks and memory (TLVs 01 and 02) and what is empty (00). Error: TAG_UNREADABLE, where there is none. */
export function messageInMemory(memory: Uint8Array): Result<Uint8Array> {
  for (let at = 0; at < memory.length;) {
    const tag = memory[at]!;
    if (tag === 0x00) {
      at += 1;
      continue;
    }
    if (tag === 0xfe) break;
    const long = memory[at + 1] === 0xff;
    const length = long ? (memory[at + 2] ?? 0) * 256 + (memory[at + 3] ?? 0) : (memory[at + 1] ?? -1);
    const from = at + (long ? 4 : 2);
    if (length < 0 || from + length > memory.length) break;
    if (tag === 0x03) return ok(memory.subarray(from, from + length));
    at = from + length;
  }
  return err({ code: 'TAG_UNREADABLE' });
}

/** What the usual tags offer to NDEF by their capability container, in bytes (from memory). */
export const TAG_ROOM = [144, 496, 872] as const;
export type TagRoom = (typeof TAG_ROOM)[number];

/** What stands in a tag: a link first, which every phone acts upon, then a contact or words. */
export type InTag = { link: string; contact?: string | null; words?: { text: string; language: string } | null };

/** Its records. */
export const tagRecords = ({ link, contact = null, words = null }: InTag): NdefRecord[] => [
  uriRecord(link),
  ...(contact === null ? [] : [mediaRecord('text/vcard', contact)]),
  ...(words === null ? [] : [textRecord(words.text, words.language)]),
];

/** The memory of a tag that holds it. */
export const tagMemory = (of: InTag): Uint8Array => inTagMemory(encodeMessage(tagRecords(of)));
