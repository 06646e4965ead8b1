import type { NdefRecord, SeenRecord } from './records';
import { seenRecord } from './records';

/** A record as browsers take it to write it (W3C Web NFC, NDEFRecordInit). */
export type WebRecord =
  | { recordType: 'url'; data: string }
  | { recordType: 'text'; data: string; lang: string; encoding: 'utf-8' }
  | { recordType: 'mime'; mediaType: string; data: Uint8Array };

/** The records of ours as browsers take them; none of another kind, which we do not write. */
export const webRecords = (records: NdefRecord[]): WebRecord[] =>
  records.flatMap((record): WebRecord[] => {
    const seen = seenRecord(record);
    if (seen.kind === 'link') return [{ recordType: 'url', data: seen.uri }];
    if (seen.kind === 'text') return [{ recordType: 'text', data: seen.text, lang: seen.language, encoding: 'utf-8' }];
    return record.tnf === 2 ? [{ recordType: 'mime', mediaType: record.type, data: record.payload }] : [];
  });

/** A record as a browser reads it from a tag (W3C Web NFC, NDEFRecord): links and words without what codes their beginning. */
export type ReadByWeb = {
  recordType: string;
  mediaType?: string | null;
  lang?: string | null;
  encoding?: string | null;
  data?: DataView | null;
};

const text = (data: DataView | null | undefined, encoding = 'utf-8'): string =>
  data ? new TextDecoder(encoding).decode(data) : '';

/** The same as people are told of it. */
export function seenByWeb({ recordType, mediaType, lang, encoding, data }: ReadByWeb): SeenRecord {
  if (recordType === 'url' || recordType === 'absolute-url') return { kind: 'link', uri: text(data) };
  if (recordType === 'text') return { kind: 'text', text: text(data, encoding || 'utf-8'), language: lang ?? '' };
  if (recordType === 'empty') return { kind: 'empty' };
  if (recordType === 'mime' && /^text\/(x-)?vcard$/i.test(mediaType ?? ''))
    return { kind: 'contact', text: text(data) };
  return { kind: 'other', type: mediaType || recordType, bytes: data?.byteLength ?? 0 };
}

/** A record as one text, whatever the order of its fields. */
const told = (seen: SeenRecord): string => JSON.stringify(Object.entries(seen).sort());

/** Whether a tag says just what was written, record by record. */
export const saysTheSame = (read: SeenRecord[], written: SeenRecord[]): boolean =>
  read.length === written.length && read.every((each, at) => told(each) === told(written[at]!));
