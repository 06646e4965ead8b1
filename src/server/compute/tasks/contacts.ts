import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { createContactReader, recordFrom, type ImportedContact, type Warning } from '@/core/vcard';

const CHUNK = 65_536;
/** So many contacts are handed over at a time. */
const AT_ONCE = 50;
/** Warnings that leave nothing to review: the record itself says what became of a damaged photo. */
const HARMLESS = new Set<Warning['code']>(['VERSION_UNKNOWN', 'BASE64_INVALID', 'CONTROL_CHARACTERS']);

/** A contact file as bytes, and the country (ISO 3166-1) by which its numbers are read. */
export type ContactFile = { bytes: Buffer; country: string };

/** A contact of a file with its line, what was not understood of it, and the share of the file that was read by then. */
export type FoundContact = { contact: ImportedContact; line: number; warnings: Warning[]; share: number };

/** The only contact of a file, if there is one that was understood whole. Errors: NOT_A_CONTACT_FILE, CONTACT_FILE_EMPTY. */
export function singleContact({ bytes, country }: ContactFile): ImportedContact | null {
  const reader = createContactReader();
  const warnings: Warning[] = [];
  let only: ImportedContact | null = null;
  for (let at = 0; at <= bytes.length; at += CHUNK) {
    const read = reader.push(bytes.subarray(at, at + CHUNK));
    for (const each of at + CHUNK > bytes.length ? [...read, ...reader.end()] : read) {
      warnings.push(...each.warnings);
      const contact = each.card && recordFrom(each.card, country);
      // A second one is enough to know that there is something to review.
      if (contact && only) return null;
      only = contact ?? only;
    }
  }
  if (!only) {
    const empty = warnings.some(({ code }) => code === 'CARD_EMPTY');
    throw new Refusal({ code: empty ? 'CONTACT_FILE_EMPTY' : 'NOT_A_CONTACT_FILE' });
  }
  const understood = warnings.every(({ code }) => HARMLESS.has(code));
  return understood && only.tooLarge.length === 0 ? only : null;
}

/**
 * The contacts of a file in handfuls, one after the other, so that a large address book is never held as records whole; warnings
 * that belong to no contact come with them. Ends with one contact more than may come in at once.
 */
export function* contactsOf({
  bytes,
  country,
}: ContactFile): Generator<{ found: FoundContact[]; outside: Warning[] }, void> {
  const reader = createContactReader();
  let handful: { found: FoundContact[]; outside: Warning[] } = { found: [], outside: [] };
  let count = 0;
  for (let at = 0; at <= bytes.length; at += CHUNK) {
    const last = at + CHUNK > bytes.length;
    const read = reader.push(bytes.subarray(at, at + CHUNK));
    for (const { card, warnings } of last ? [...read, ...reader.end()] : read) {
      const contact = card && recordFrom(card, country);
      if (!contact) {
        if (handful.outside.length < LIMITS.contactsAtOnce) handful.outside.push(...warnings);
        continue;
      }
      const share = Math.min(1, (at + CHUNK) / bytes.length);
      handful.found.push({ contact, line: card.line, warnings, share });
      count += 1;
      if (count > LIMITS.contactsAtOnce) return yield handful;
      if (handful.found.length < AT_ONCE) continue;
      yield handful;
      handful = { found: [], outside: [] };
    }
  }
  yield handful;
}
