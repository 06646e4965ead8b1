import { LIMITS } from '@/core/limits';
import { bad, good, type Result } from '@/core/errors';
import { cleanText, splitName, writtenName, type KeptProperty, type Name, type PersonRecord } from '@/core/record';
import {
  decodeQuotedPrintable,
  isQuotedPrintable,
  parseContentLine,
  splitValue,
  unescapeText,
  unfold,
  type ContentLine,
} from './content-lines';
import { detailsFrom } from './read-properties';

/** One contact of a file: a record, and the photo's bytes as base64 before anybody has looked whether it is a picture. */
export type ImportedContact = { record: PersonRecord; photo: { base64: string; property: string } | null };

/** Said by every contact; they describe the file and not the person. */
const ABOUT_THE_FILE = new Set(['BEGIN', 'END', 'VERSION', 'PRODID', 'REV', 'X-ABLABEL']);

/**
 * Reads the contacts of a vCard file of version 2.1, 3.0 or 4.0 (RFC 2426, RFC 6350), given as text.
 * `country` (ISO 3166-1 alpha-2) reads phone numbers in national form. What no detail stands for is kept as it was written.
 * Errors: NOT_A_CONTACT_FILE, CONTACT_FILE_CUT_OFF with the last line's number, CONTACT_FILE_EMPTY.
 */
export function readContactFile(text: string, country: string): Result<ImportedContact[]> {
  const lines = unfold(text);
  if (!/^BEGIN:VCARD\s*$/i.test(lines[0]?.text ?? '')) return bad({ code: 'NOT_A_CONTACT_FILE' });
  const contacts: ImportedContact[] = [];
  let open: ContentLine[] | null = null;
  for (const { text: raw, line } of lines) {
    if (/^BEGIN:VCARD\s*$/i.test(raw)) {
      if (open) return bad({ code: 'CONTACT_FILE_CUT_OFF', line: line - 1 });
      open = [];
    } else if (/^END:VCARD\s*$/i.test(raw)) {
      const contact = open && contactFrom(open, country);
      if (contact) contacts.push(contact);
      open = null;
    } else if (open) {
      open.push(parseContentLine(raw, line) ?? { group: '', name: '', params: new Map(), value: raw, raw, line });
    }
  }
  if (open) return bad({ code: 'CONTACT_FILE_CUT_OFF', line: lines.at(-1)!.line });
  return contacts.length > 0 ? good(contacts) : bad({ code: 'CONTACT_FILE_EMPTY' });
}

function contactFrom(lines: ContentLine[], country: string): ImportedContact | null {
  const labels = new Map(
    lines.filter((line) => line.name === 'X-ABLABEL').map((line) => [line.group, unescapeText(line.value)]),
  );
  const record: PersonRecord = { name: nameFrom(lines), details: [], kept: [] };
  let photo: ImportedContact['photo'] = null;
  for (const line of lines) {
    if (ABOUT_THE_FILE.has(line.name) || line.name === 'N' || line.name === 'FN') continue;
    const picture: string | null = line.name === 'PHOTO' && !photo ? embedded(line) : null;
    if (picture) {
      photo = { base64: picture, property: line.raw.slice(0, 200) };
      continue;
    }
    const read = detailsFrom(line, {
      country,
      label: line.group ? (labels.get(line.group) ?? '') : '',
      nextId: record.details.length + 1,
    });
    if (record.details.length + read.details.length > LIMITS.details) read.keep = 'not-understood';
    else record.details.push(...read.details);
    if (read.keep) record.kept.push(kept(line, read.keep));
  }
  if (!writtenName(record.name)) {
    const firm = record.details.find((detail) => detail.kind === 'organisation');
    if (firm?.kind === 'organisation') record.name = { ...record.name, written: firm.name };
  }
  return writtenName(record.name) || record.details.length > 0 ? { record, photo } : null;
}

/** A property that came with the file and is not understood, cut to what can be kept. */
export const kept = (line: ContentLine, why: KeptProperty['why']): KeptProperty => ({
  property: cleanText(line.raw).text.slice(0, 20_000),
  why,
});

function nameFrom(lines: ContentLine[]): Name {
  const textOf = (name: string) => {
    const line = lines.find((candidate) => candidate.name === name && candidate.value.replace(/[;\s]/g, ''));
    return line && (isQuotedPrintable(line) ? decodeQuotedPrintable(line.value) : line.value);
  };
  const clean = (text: string | undefined) =>
    cleanText(text ?? '')
      .text.replace(/\s+/g, ' ')
      .slice(0, LIMITS.text);
  const written = clean(unescapeText(textOf('FN') ?? ''));
  const structured = textOf('N');
  if (!structured) return splitName(written);
  const [family, given, additional, prefix, suffix] = splitValue(structured, ';').map((part) =>
    clean(part.replace(/,/g, ' ')),
  );
  const name: Name = {
    prefix: prefix ?? '',
    given: given ?? '',
    additional: additional ?? '',
    family: family ?? '',
    suffix: suffix ?? '',
    written: '',
  };
  return { ...name, written: written === writtenName(name) ? '' : written };
}

/** The base64 text of an embedded photo: `ENCODING=b` of 3.0, `BASE64` of 2.1, or a data URI of 4.0. */
function embedded(line: ContentLine): string | null {
  const uri = /^data:[^,]*;base64,(.*)$/is.exec(line.value.trim());
  if (uri) return uri[1]!.replace(/\s/g, '');
  const encoded = (line.params.get('ENCODING') ?? []).some((value) => /^(b|base64)$/i.test(value));
  return encoded ? line.value.replace(/\s/g, '') : null;
}
