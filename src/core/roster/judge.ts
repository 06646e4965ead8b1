import type { DetailKind } from '@/core/record';
import { writtenName } from '@/core/record';
import { changesBy, type Change, type Known } from './apply-row';
import { isDoubt, isError, keyOf, type Remark, type RowRead } from './read-row';

/** What a run would do with a row; `leaving` also stands for people whom a complete sheet no longer has. */
export const VERDICTS = ['new', 'changed', 'same', 'leaving', 'check', 'error'] as const;
export type Verdict = (typeof VERDICTS)[number];

/** What somebody decided of a row that was to be checked: somebody new, or the person of this record after all. */
export type Decision = 'new' | 'known' | null;

/** Keys that several rows have, each with those rows as the sheet counts them. */
export function keysTwice(
  rows: readonly { at: number; read: Pick<RowRead, 'staffNumber' | 'mail'> }[],
): Map<number, number[]> {
  const byKey = new Map<string, number[]>();
  for (const { at, read } of rows) {
    const key = keyOf(read);
    if (key) byKey.set(key, [...(byKey.get(key) ?? []), at]);
  }
  return new Map([...byKey.values()].flatMap((ats) => (ats.length > 1 ? ats.map((at) => [at, ats] as const) : [])));
}

const surname = (known: Known): string => known.record.name.family.toLowerCase();

/**
 * Judges a row against whom its key names (`known`), and against `namesakes`, people of the same name whom it does not name. `twice` are
 * rows of the same key; `today` is ISO 8601. Errors stop a row, doubts wait for a decision.
 */
export function judgeRow(
  row: RowRead,
  {
    known,
    namesakes,
    twice,
    offices,
    decision,
    owned,
  }: {
    known: Known | null;
    namesakes: number;
    twice: number[] | null;
    /** Offices by their names in lower case. */
    offices: ReadonlyMap<string, unknown>;
    decision: Decision;
    owned: Partial<Record<'name' | DetailKind, unknown>>;
  },
): { verdict: Verdict; changes: Change[]; remarks: Remark[] } {
  // Of somebody who is known a row need not say who it is: a photo day's sheet has keys alone.
  const remarks = row.remarks.filter(({ code }) => !(known && code === 'no name'));
  if (twice) remarks.push({ field: row.staffNumber ? 'staff number' : 'email', code: 'key twice', with: twice });
  if (row.office !== null && !offices.has(row.office.toLowerCase()))
    remarks.push({ field: 'office', code: 'no office' });
  const isAnother =
    known !== null &&
    row.name !== null &&
    row.mail !== null &&
    row.name.family.toLowerCase() !== surname(known) &&
    known.record.details.some(({ kind }) => kind === 'email') &&
    !known.record.details.some((each) => each.kind === 'email' && each.address.toLowerCase() === row.mail);
  if (isAnother && decision === null) remarks.push({ field: 'family', code: 'another person' });
  if (!known && namesakes > 0 && decision === null) remarks.push({ field: null, code: 'namesake' });
  const { changes, kept } = known ? changesBy(row, known, owned) : { changes: [], kept: [] };
  for (const _ of kept) remarks.push({ field: null, code: 'kept' });
  if (remarks.some(isError)) return { verdict: 'error', changes, remarks };
  if (remarks.some(isDoubt)) return { verdict: 'check', changes, remarks };
  if (!known) return { verdict: 'new', changes: [], remarks };
  if (changes.some(({ of }) => of === 'leaves')) return { verdict: 'leaving', changes, remarks };
  return { verdict: changes.length > 0 ? 'changed' : 'same', changes, remarks };
}

/** A row's name as lists show it. */
export const nameOfRow = (row: RowRead): string =>
  row.name ? writtenName(row.name) : (row.staffNumber ?? row.mail ?? '');
