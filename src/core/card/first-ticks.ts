import type { Detail, PersonRecord } from '@/core/record';
import { NAME_LINE, type Line } from './card';

type Ticks = Line['ticks'];
const NOWHERE: Ticks = { page: false, file: false };
const EVERYWHERE: Ticks = { page: true, file: true };

/**
 * Whether a detail is private: birthday, whatever is marked "home", and a mobile phone that is not marked "work" while
 * the record has another phone to ring (common practice, no published source).
 */
export function isPrivate(detail: Detail, record: PersonRecord): boolean {
  if (detail.kind === 'birthday') return true;
  if (!('uses' in detail)) return false;
  if (detail.uses.includes('home')) return !detail.uses.includes('work');
  if (detail.kind !== 'phone' || !detail.uses.includes('mobile') || detail.uses.includes('work')) return false;
  return record.details.some(
    (other) =>
      other.kind === 'phone' &&
      other.id !== detail.id &&
      !other.uses.some((use) => use === 'home' || use === 'mobile' || use === 'fax'),
  );
}

/**
 * The safe first ticks of a line. Private details go nowhere unless the audience is a private one. A note or category goes nowhere:
 * what was noted about a person is rarely meant for them. Fax and pager stay off the page.
 */
export function firstTicks(detail: Detail, record: PersonRecord, audience: { isPrivate: boolean }): Ticks {
  if (detail.kind === 'note' || detail.kind === 'category') return NOWHERE;
  if (isPrivate(detail, record)) return audience.isPrivate ? EVERYWHERE : NOWHERE;
  if (detail.kind === 'phone' && detail.uses.some((use) => use === 'fax' || use === 'pager'))
    return { page: false, file: true };
  return EVERYWHERE;
}

const ORDER: Detail['kind'][] = [
  'photo',
  'pronouns',
  'title',
  'role',
  'organisation',
  'licence',
  'credential',
  'nickname',
  'language',
  'phone',
  'email',
  'link',
  'address',
  'own',
  'birthday',
  'category',
  'note',
];

/** The lines of a new card: the name, then every detail by kind in the order that people read a card, safely ticked. */
export function firstLines(record: PersonRecord, audience: { isPrivate: boolean }): Line[] {
  const details = record.details
    .map((detail, at) => ({ detail, at, rank: ORDER.indexOf(detail.kind), preferred: detail.preferred ? 0 : 1 }))
    .sort((a, b) => a.rank - b.rank || a.preferred - b.preferred || a.at - b.at);
  return [
    { detail: NAME_LINE, label: null, wording: null, ticks: EVERYWHERE },
    ...details.map(({ detail }) => ({
      detail: detail.id,
      label: null,
      wording: null,
      ticks: firstTicks(detail, record, audience),
    })),
  ];
}

/**
 * The lines of a card held against a record that has changed since: lines of details that are gone fall away, details
 * that came since are added at the end, ticked nowhere, so that nothing goes out that nobody ticked.
 */
export function reconcile(lines: Line[], record: PersonRecord): Line[] {
  const known = new Set([NAME_LINE, ...record.details.map((detail) => detail.id)]);
  const kept = lines.filter((line) => known.has(line.detail));
  const present = new Set(kept.map((line) => line.detail));
  const name: Line[] = present.has(NAME_LINE)
    ? []
    : [{ detail: NAME_LINE, label: null, wording: null, ticks: EVERYWHERE }];
  const added = record.details.filter((detail) => !present.has(detail.id));
  return [
    ...name,
    ...kept,
    ...added.map((detail) => ({ detail: detail.id, label: null, wording: null, ticks: NOWHERE })),
  ];
}
