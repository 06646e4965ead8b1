/**
 * Records of NDEF messages for tags (NFC Forum, NFC Data Exchange Format 1.0, and the record types URI and Text 1.0; from memory of their sections,
 * tested against published bytes).
 */

/** Beginnings of addresses by their code, 0x00 to 0x23 (URI Record Type Definition 1.0, 3.2.2). */
const URI_PREFIXES: readonly string[] = [
  ...['', 'http://www.', 'https://www.', 'http://', 'https://', 'tel:', 'mailto:', 'ftp://anonymous:anonymous@'],
  ...['ftp://ftp.', 'ftps://', 'sftp://', 'smb://', 'nfs://', 'ftp://', 'dav://', 'news:', 'telnet://', 'imap:'],
  ...['rtsp://', 'urn:', 'pop:', 'sip:', 'sips:', 'tftp:', 'btspp://', 'btl2cap://', 'btgoep://', 'tcpobex://'],
  ...['irdaobex://', 'file://', 'urn:epc:id:', 'urn:epc:tag:', 'urn:epc:pat:', 'urn:epc:raw:', 'urn:epc:', 'urn:nfc:'],
];

/** A record as it lies in a message: its name format (TNF, NDEF 1.0 3.2.6), type and payload. */
export type NdefRecord = { tnf: number; type: string; payload: Uint8Array };

const utf8 = (text: string): Uint8Array => new TextEncoder().encode(text);

/** A link record: what every phone acts upon. The longest beginning that has a code takes one byte. */
export function uriRecord(uri: string): NdefRecord {
  let code = 0;
  URI_PREFIXES.forEach((prefix, at) => {
    if (uri.startsWith(prefix) && prefix.length > URI_PREFIXES[code]!.length) code = at;
  });
  return { tnf: 1, type: 'U', payload: Uint8Array.from([code, ...utf8(uri.slice(URI_PREFIXES[code]!.length))]) };
}

/** A record of words in a language, as a tag of BCP 47 (Text Record Type Definition 1.0, 3.2: UTF-8, at most 63 letters of language). */
export function textRecord(text: string, language: string): NdefRecord {
  const tag = utf8(language.slice(0, 63));
  return { tnf: 1, type: 'T', payload: Uint8Array.from([tag.length, ...tag, ...utf8(text)]) };
}

/** A record of a media type (TNF 2), such as a contact. */
export const mediaRecord = (type: string, content: string): NdefRecord => ({ tnf: 2, type, payload: utf8(content) });

/** A record as people are told of it. */
export type SeenRecord =
  | { kind: 'link'; uri: string }
  | { kind: 'text'; text: string; language: string }
  | { kind: 'contact'; text: string }
  | { kind: 'empty' }
  | { kind: 'other'; type: string; bytes: number };

const read = (bytes: Uint8Array, encoding = 'utf-8'): string => new TextDecoder(encoding).decode(bytes);

/** Media types of contacts; the second is what was written before there was the first (RFC 6350, 10.1). */
const CONTACTS = new Set(['text/vcard', 'text/x-vcard']);

/** What a record says, whoever wrote it; what is not understood is told by its type and size. */
export function seenRecord({ tnf, type, payload }: NdefRecord): SeenRecord {
  const prefix = URI_PREFIXES[payload[0] ?? -1];
  if (tnf === 0) return { kind: 'empty' };
  if (tnf === 1 && type === 'U' && prefix !== undefined)
    return { kind: 'link', uri: prefix + read(payload.subarray(1)) };
  if (tnf === 1 && type === 'T' && payload.length > 0) {
    const length = payload[0]! & 0x3f;
    // Bit 7 says UTF-16, big endian unless a mark says otherwise.
    const encoding = payload[0]! & 0x80 ? 'utf-16be' : 'utf-8';
    if (1 + length <= payload.length)
      return {
        kind: 'text',
        language: read(payload.subarray(1, 1 + length)),
        text: read(payload.subarray(1 + length), encoding),
      };
  }
  if (tnf === 2 && CONTACTS.has(type.toLowerCase())) return { kind: 'contact', text: read(payload) };
  return { kind: 'other', type, bytes: payload.length };
}
