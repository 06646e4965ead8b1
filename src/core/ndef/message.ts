/**
 * NDEF messages for tags (NFC Forum, NFC Data Exchange Format 1.0; from memory of its sections, tested against published
 * bytes). Bytes in, bytes out.
 */

/** Prefixes of the URI record type by their code (NFC Forum, URI Record Type Definition 1.0, 3.2.2), those of the web. */
const PREFIXES: [number, string][] = [
  [0x01, 'http://www.'],
  [0x02, 'https://www.'],
  [0x03, 'http://'],
  [0x04, 'https://'],
];

type NdefRecord = { tnf: 1 | 2; type: string; payload: Uint8Array };

const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text);

/** A link record: what every phone acts upon. */
export function uriRecord(uri: string): NdefRecord {
  const [code, prefix] = PREFIXES.find(([, start]) => uri.startsWith(start)) ?? [0, ''];
  return { tnf: 1, type: 'U', payload: Uint8Array.from([code, ...utf8(uri.slice(prefix.length))]) };
}

/** A record of a media type (TNF 2), such as a contact. */
export const mediaRecord = (type: string, content: string): NdefRecord => ({ tnf: 2, type, payload: utf8(content) });

/** The message of these records: first and last are marked, a payload under 256 bytes takes the short form (3.2). */
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

/** A message as it lies in a Type 2 tag: its TLV (tag 03) and the terminator (FE) (NFC Forum, Type 2 Tag, 2.3). */
export function inTagMemory(message: Uint8Array): Uint8Array {
  const { length } = message;
  const head = length < 255 ? [0x03, length] : [0x03, 0xff, length >> 8, length & 255];
  return Uint8Array.from([...head, ...message, 0xfe]);
}

/** What the usual tags offer to NDEF by their capability container, in bytes (from memory). */
export const TAG_ROOM = [144, 496, 872] as const;

/**
 * The memory of a tag: the link that every phone acts upon first, then, in a frozen one, the contact itself; null for a live
 * one.
 */
export const tagMemory = (link: string, contact: string | null): Uint8Array =>
  inTagMemory(encodeMessage([uriRecord(link), ...(contact === null ? [] : [mediaRecord('text/vcard', contact)])]));
