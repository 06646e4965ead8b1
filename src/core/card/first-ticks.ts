import { LIMITS } from '@/core/limits';
import { shownValue, writtenName, type Detail, type PersonRecord } from '@/core/record';
import { NAME_LINE } from './channels';
import type { Line, Ticks } from './schema';
import { lineOf } from './card';

export const NOWHERE: Ticks = { page: false, file: false, code: false, tag: false };
/** Page and contact file; what a frozen code or tag carries is chosen apart, since its room is small. */
const EVERYWHERE: Ticks = { ...NOWHERE, page: true, file: true };
const NAME_TICKS: Ticks = { page: true, file: true, code: true, tag: true };

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
    return { ...NOWHERE, file: true };
  return EVERYWHERE;
}

const ORDER: Detail['kind'][] = [
  'photo',
  'logo',
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
  'hours',
  'own',
  'birthday',
  'category',
  'note',
];

/** Kinds of which a frozen code or tag carries the first one: a way to reach the person, the firm, a link (common practice). */
const SMALL = new Set<Detail['kind']>(['phone', 'email', 'organisation', 'link']);

/** The rank of a detail in the order that people read a card. */
const rankOf = (detail: Detail): number => ORDER.indexOf(detail.kind);

/** Details by kind in the order that people read a card, a preferred one first. */
export const inReadingOrder = (details: Detail[]): Detail[] =>
  details
    .map((detail, at) => ({ detail, at, rank: rankOf(detail), preferred: detail.preferred ? 0 : 1 }))
    .sort((a, b) => a.rank - b.rank || a.preferred - b.preferred || a.at - b.at)
    .map(({ detail }) => detail);

/** The lines of a new card: the name, then every detail by kind in the order that people read a card, safely ticked as far as a card has room. */
export function firstLines(record: PersonRecord, audience: { isPrivate: boolean }): Line[] {
  const small = new Set<Detail['kind']>();
  // A card that shows all of a very long record could not go out.
  let [lines, letters] = [1, writtenName(record.name).length];
  const hasRoom = (detail: Detail): boolean => {
    letters += detail.label.length + shownValue(detail).length;
    lines += 1;
    return lines < LIMITS.shownLines && letters < LIMITS.shownLetters / 2;
  };
  return [
    lineOf(NAME_LINE, NAME_TICKS),
    ...inReadingOrder(record.details).map((detail) => {
      const safe = firstTicks(detail, record, audience);
      const ticks = (safe.page || safe.file) && !hasRoom(detail) ? NOWHERE : safe;
      const first = ticks.page && ticks.file && SMALL.has(detail.kind) && !small.has(detail.kind);
      if (first) small.add(detail.kind);
      return lineOf(detail.id, first ? { ...ticks, code: true, tag: true } : ticks);
    }),
  ];
}

/**
 * The lines of a card held against a record that has changed since: lines of details that are gone fall away, details
 * that came since are added at the end, ticked nowhere, so that nothing goes out that nobody ticked.
 */
export function reconcile(lines: Line[], record: PersonRecord): Line[] {
  const known = new Set([NAME_LINE, ...record.details.map((detail) => detail.id)]);
  // A line of the card's own whose detail was adopted into the record shows the record's.
  const kept = lines
    .filter((line) => line.own || known.has(line.detail))
    .map((line) => (line.own && known.has(line.detail) ? { ...line, own: null } : line));
  const present = new Set(kept.map((line) => line.detail));
  const name = present.has(NAME_LINE) ? [] : [lineOf(NAME_LINE, NAME_TICKS)];
  const added = record.details.filter((detail) => !present.has(detail.id));
  return [...name, ...kept, ...added.map((detail) => lineOf(detail.id, NOWHERE))];
}

/** A card's lines back in the layout's own order, labels and emphasis; ticks, wordings and parts stay. */
export function backToLayout(lines: Line[], record: PersonRecord): Line[] {
  const plain = lines.map((line): Line => ({ ...line, label: null, emphasis: 'plain', gap: false }));
  const byId = new Map(plain.map((line) => [line.detail, line]));
  const details = inReadingOrder([...record.details, ...lines.flatMap(({ own }) => own ?? [])]);
  return [NAME_LINE, ...details.map(({ id }) => id)].flatMap((id) => byId.get(id) ?? []);
}
