import { composeDraft, NO_PARTS, PAGE_AND_FILE, type Composition, type Line } from '@/core/card';
import { orRefuse } from '@/core/errors';
import type { PersonRecord } from '@/core/record';
import { contactFileName, writeContactFile } from '@/core/vcard';

/** The contact file of somebody who is not staff. Its UID stays the same, so that saving it again updates the contact. */
export const contextOf = ({ id, updated_at: at }: { id: string; updated_at: Date }) => ({
  ...{ version: '3.0' as const, uid: `urn:uuid:${id}`, revised: at.toISOString() },
  ...{ source: null, photo: null, logo: null },
});

/** All that is known of somebody, as their owner takes it along: every line goes into the file. `country` is ISO 3166-1 alpha-2. */
export function wholeComposition(row: { body: PersonRecord; lines: Line[] }, country: string): Composition {
  const lines = row.lines.map((line) => ({ ...line, ticks: PAGE_AND_FILE }));
  return orRefuse(composeDraft(row.body, { ...NO_PARTS, lines, language: null }, country));
}

export function wholeContactFile(
  row: { id: string; body: PersonRecord; lines: Line[]; updated_at: Date },
  country: string,
): { name: string; text: string } {
  const composition = wholeComposition(row, country);
  return { name: contactFileName(composition), text: writeContactFile(composition, contextOf(row)) };
}
