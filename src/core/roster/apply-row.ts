import { same } from '@/core/card';
import { shownValue, writtenName, type Detail, type DetailKind, type PersonRecord } from '@/core/record';
import type { RowRead } from './read-row';
import { idOf } from './read-row';
import { SLOT_RULES, SLOTS, type Slot } from './slots';

/** What of a person a change is of. */
export const CHANGED = ['name', ...SLOTS, 'staff number', 'team', 'office', 'joins', 'leaves', 'picture'] as const;
export type Changed = (typeof CHANGED)[number];
/** One cell by which a row differs from what is known; texts as they are shown, empty where nothing is said. */
export type Change = { of: Changed; was: string; is: string };

/** What a roster wrote last of each slot, with the id of its detail: so that what its holder changed since is seen. */
export type Written = Partial<Record<Slot | 'name' | 'photo', { id: string; said: string }>>;

/** A person as they are known. */
export type Known = {
  record: PersonRecord;
  written: Written;
  staffNumber: string | null;
  joins: string | null;
  leaves: string | null;
  teams: string[];
  office: string | null;
};

/** The detail of a record that a slot writes over; undefined where it has none yet. */
function detailIn(record: PersonRecord, slot: Slot, written: Written): Detail | undefined {
  const by = (id: string | undefined) => record.details.find((detail) => detail.id === id);
  return by(written[slot]?.id) ?? by(idOf(slot)) ?? record.details.find(SLOT_RULES[slot].isOf);
}

/** A detail in the place of another one: its id and what was set besides the value stay; words in further languages were of the old value. */
function inPlaceOf(before: Detail, next: Detail): Detail {
  const { id, label, preferred } = before;
  if (before.kind === 'organisation' && next.kind === 'organisation')
    return {
      ...next,
      id,
      label,
      preferred,
      name: next.name || before.name,
      units: next.units.length ? next.units : before.units,
    };
  const uses = 'uses' in before && 'uses' in next ? { uses: [...new Set([...before.uses, ...next.uses])] } : {};
  const geo = before.kind === 'address' && before.map ? { map: before.map } : {};
  return { ...next, id, label, preferred, ...uses, ...geo } as Detail;
}
const said = (detail: Detail | undefined): string => (detail ? shownValue(detail) : '');

/**
 * What a row changes of a person who is known, cell by cell, and what it leaves: a value of a kind that is not the organisation's
 * (`owned`) and that somebody changed since a roster wrote it stays theirs. What a row does not say is left as it is.
 */
export function changesBy(
  row: RowRead,
  known: Known,
  owned: Partial<Record<'name' | DetailKind, unknown>>,
): { changes: Change[]; kept: Changed[] } {
  const changes: Change[] = [];
  const kept: Changed[] = [];
  const { record, written } = known;
  const compare = (of: Slot | 'name', kind: 'name' | DetailKind, was: string, is: string) => {
    if (was === is) return;
    const last = written[of];
    if (owned[kind] === undefined && last && last.said !== was) kept.push(of);
    else changes.push({ of, was, is });
  };
  if (row.name) compare('name', 'name', writtenName(record.name), writtenName(row.name));
  for (const slot of SLOTS) {
    const given = row.details[slot];
    if (!given) continue;
    const before = detailIn(record, slot, written);
    compare(slot, given.kind, said(before), said(before ? inPlaceOf(before, given) : given));
  }
  const put = (of: Changed, was: string | null, is: string | null) => {
    if (is !== null && was !== is) changes.push({ of, was: was ?? '', is });
  };
  put('staff number', known.staffNumber, row.staffNumber);
  put('joins', known.joins, row.joins);
  put('leaves', known.leaves, row.leaves);
  if (row.office?.toLowerCase() !== known.office?.toLowerCase()) put('office', known.office, row.office);
  const sorted = (teams: readonly string[]) => [...teams].sort((a, b) => a.localeCompare(b)).join(', ');
  if (row.teams && sorted(row.teams) !== sorted(known.teams)) put('team', sorted(known.teams), sorted(row.teams));
  return { changes, kept };
}

/**
 * A record as a row leaves it: a new one where `before` is null, its details under the ids that a pattern gives (`ids`), so that a card
 * made like the pattern's shows them. `without` are slots that stay as they are.
 */
export function applyRow(
  row: RowRead,
  before: PersonRecord | null,
  {
    written = {},
    ids = {},
    without = [],
  }: { written?: Written; ids?: Partial<Record<Slot, string>>; without?: readonly Changed[] },
): { record: PersonRecord; written: Written } {
  const next: Written = { ...written };
  const start: PersonRecord = before ?? {
    name: row.name ?? { prefix: '', given: '', additional: '', family: '', suffix: '', written: '' },
    details: [],
    kept: [],
  };
  let { name, details } = start;
  if (row.name && !without.includes('name')) {
    if (writtenName(row.name) !== writtenName(name)) name = row.name;
    next.name = { id: 'name', said: writtenName(row.name) };
  }
  for (const slot of SLOTS) {
    const given = row.details[slot];
    if (!given || without.includes(slot)) continue;
    const here = detailIn(start, slot, written);
    const wanted = ids[slot] ?? idOf(slot);
    const id = details.some((each) => each.id === wanted) ? idOf(slot) : wanted;
    const put = here ? inPlaceOf(here, given) : { ...given, id };
    const unchanged = here && said(here) === said(put) && same('uses' in here && here.uses, 'uses' in put && put.uses);
    if (!unchanged) details = here ? details.map((each) => (each === here ? put : each)) : [...details, put];
    next[slot] = { id: put.id, said: said(put) };
  }
  return { record: { ...start, name, details }, written: next };
}
