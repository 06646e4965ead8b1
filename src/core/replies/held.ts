import type { PersonRecord } from '@/core/record';
import { shownValue, writtenName, type Detail } from '@/core/record';
import { recordOfReply, type Told } from './reply';

const letters = (text: string): string =>
  text
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]/gu, '');

/** Whether somebody knows the name that was told: whoever reads a mail by mistake does not. Spelling of blanks, dots and capitals does not matter. */
export const isConfirmingName = (told: Told, typed: string): boolean =>
  letters(told.name) !== '' && letters(typed.slice(0, 500)) === letters(told.name);

const same = (a: Detail, b: Detail): boolean => a.kind === b.kind && shownValue(a) === shownValue(b);

/**
 * A record with what its person told anew in place of what they had told before: values that are as they were told change or go, what the record's owner
 * has put there stays.
 */
export function withToldInstead(record: PersonRecord, before: Told, now: Told, country: string): PersonRecord {
  const [was, is] = [recordOfReply(before, country), recordOfReply(now, country)];
  const kept = record.details.filter((detail) => !was.details.some((each) => same(each, detail)));
  const ids = new Set(kept.map(({ id }) => id));
  const told = is.details
    .filter((detail) => !kept.some((each) => same(each, detail)))
    .map((detail) => {
      let id = detail.id;
      for (let at = 2; ids.has(id); at += 1) id = `${detail.id}-${at}`;
      ids.add(id);
      return { ...detail, id };
    });
  const name = writtenName(record.name) === writtenName(was.name) ? is.name : record.name;
  return { ...record, name, details: [...told, ...kept] };
}
