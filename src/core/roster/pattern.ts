import { detailOf, lineOf, NAME_LINE, NOWHERE, type Draft, type Line } from '@/core/card';
import type { Detail, PersonRecord } from '@/core/record';
import { SLOT_RULES, slotOf, type Slot } from './slots';
import type { Field } from './fields';

/** The card that a run makes others like, and the record that it is composed from. */
export type Pattern = Pick<Draft, 'lines' | 'blocks' | 'opens' | 'words' | 'look' | 'language' | 'audience'> & {
  record: PersonRecord;
};

const ticked = ({ ticks }: Line): boolean => Object.values(ticks).some(Boolean);

/** The slots of a pattern's lines, each with the id of the detail that it shows; the first line of a slot counts. */
export function slotIds({ lines, record }: Pick<Pattern, 'lines' | 'record'>): Partial<Record<Slot, string>> {
  const ids: Partial<Record<Slot, string>> = {};
  for (const line of lines) {
    const detail = line.own ? null : detailOf(line, record);
    const slot = detail && slotOf(detail);
    if (slot) ids[slot] ??= line.detail;
  }
  return ids;
}

/** What a sheet needs for cards like a pattern: what such a card shows somewhere, and what else there is a column for. */
export function fieldsOf(pattern: Pick<Pattern, 'lines' | 'record'>): { needed: Field[]; picture: boolean } {
  const shown = pattern.lines
    .filter(ticked)
    .flatMap((line) => (line.own ? [] : (detailOf(line, pattern.record) ?? [])));
  const slots = new Set(shown.map(slotOf));
  const needed = [...slots].flatMap((slot) => (slot ? SLOT_RULES[slot].fields[0]! : []));
  return { needed: [...new Set(needed)], picture: shown.some(({ kind }) => kind === 'photo') };
}

/**
 * The lines of a card like the pattern for another person, whose details of the same slots have the same ids: labels, parts, order and
 * ticks are the pattern's, wordings are not. What `isPrivate` says of a detail goes nowhere unless `privateToo`. Details that the pattern
 * has no line for go nowhere.
 */
export function linesLike(
  { lines }: Pick<Pattern, 'lines'>,
  record: PersonRecord,
  isPrivate: (detail: Detail) => boolean,
  privateToo: boolean,
): Line[] {
  const details = new Map(record.details.map((detail) => [detail.id, detail]));
  const photo = record.details.find(({ kind }) => kind === 'photo');
  const taken = new Set<string>();
  const made = lines.flatMap((line): Line[] => {
    if (line.detail === NAME_LINE) return [{ ...line, wording: null }];
    // A line of the card's own says the same on each: what is private of whoever the pattern is of goes nowhere.
    if (line.own) return [!privateToo && isPrivate(line.own) ? { ...line, ticks: NOWHERE } : line];
    const detail = details.get(line.detail);
    if (!detail) return [];
    taken.add(detail.id);
    const ticks = !privateToo && isPrivate(detail) ? NOWHERE : line.ticks;
    return [{ ...line, wording: null, ticks }];
  });
  const rest = record.details.filter(({ id }) => !taken.has(id) && id !== photo?.id);
  return [...made, ...rest.map(({ id }) => lineOf(id, NOWHERE))];
}

/** A pattern's words in further languages without those that say something of its own person. */
export function wordsLike({ lines, words }: Pick<Pattern, 'lines' | 'words'>): Draft['words'] {
  const theirs = new Set(lines.filter(({ own }) => !own).map(({ detail }) => detail));
  return Object.fromEntries(
    Object.entries(words).map(([language, said]) => [
      language,
      Object.fromEntries(
        Object.entries(said).filter(([key]) => !theirs.has(key.split('/')[0]!) || !key.endsWith('/wording')),
      ),
    ]),
  );
}
