import { LIMITS } from '@/core/limits';
import { shownValue, writtenName, type Detail, type PersonRecord } from '@/core/record';
import { NAME_LINE } from './channels';
import type { Audience } from './audiences';
import { detailOf, lineOf } from './card';
import { isPrivate, privacyOf, type TypeOf } from './privacy';
import type { Line, Ticks } from './schema';

export const NOWHERE: Ticks = {
  ...{ page: false, file: false, code: false, tag: false },
  ...{ signature: false, print: false, backdrop: false, pass: false },
};
/** Page and contact file; what a frozen code or tag carries is chosen apart, since its room is small. */
export const PAGE_AND_FILE: Ticks = { ...NOWHERE, page: true, file: true };
const NAME_TICKS: Ticks = {
  ...{ page: true, file: true, code: true, tag: true },
  ...{ signature: true, print: true, backdrop: true, pass: true },
};

/**
 * The safe first ticks of a line: what is positively for work or public goes out, the rest only to a private audience; a note or
 * category not even there, since what was noted about a person is rarely meant for them. Fax and pager stay off the page.
 */
export function firstTicks(
  detail: Detail,
  record: PersonRecord,
  audience: { isPrivate: boolean },
  typeOf?: TypeOf,
): Ticks {
  const privacy = privacyOf(detail, record, typeOf);
  if (privacy === 'note') return NOWHERE;
  if (privacy) return audience.isPrivate ? PAGE_AND_FILE : NOWHERE;
  if (detail.kind === 'phone' && detail.uses.some((use) => use === 'fax' || use === 'pager'))
    return { ...NOWHERE, file: true };
  return PAGE_AND_FILE;
}

/** The ticks of what somebody adds to a card or to the record of a draft: as at first, and one's own words are meant to be read. */
export const addedTicks: typeof firstTicks = (detail, record, audience, typeOf) =>
  detail.kind === 'own' ? PAGE_AND_FILE : firstTicks(detail, record, audience, typeOf);

/** The ticks of what somebody types into a card itself: there how the name is said is meant to be read, too. */
export const typedTicks: typeof firstTicks = (detail, record, audience, typeOf) =>
  detail.kind === 'said' ? PAGE_AND_FILE : addedTicks(detail, record, audience, typeOf);

const ORDER: Detail['kind'][] = [
  'photo',
  'logo',
  'pronouns',
  'said',
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

/** Kinds of which a mail signature carries the first one, where it goes out on the page: who it is and how they are reached at work (common practice). */
const IN_SIGNATURE = new Set<Detail['kind']>(['title', 'organisation', 'phone', 'email']);

/** Kinds of which a paper card and a pass carry the first one as well: where more is to be found (common practice). */
const IN_PRINT = new Set<Detail['kind']>([...IN_SIGNATURE, 'link']);

/** Kinds of which a backdrop carries the first one: who is speaking; how to reach them, its code says (common practice). */
const IN_BACKDROP = new Set<Detail['kind']>(['title', 'organisation']);

/** Kinds of which a frozen code or tag carries the first one: a way to reach the person, the firm, a link (common practice). */
const SMALL = new Set<Detail['kind']>(['phone', 'email', 'organisation', 'link']);

type Kinds = Set<Detail['kind']>;

/** The rank of a detail in the order that people read a card. */
const rankOf = (detail: Detail): number => ORDER.indexOf(detail.kind);

/** Details by kind in the order that people read a card; within a kind those that are `late` last, else a preferred one first. */
export const inReadingOrder = (details: Detail[], late: (detail: Detail) => boolean = () => false): Detail[] =>
  details
    .map((detail) => ({ detail, place: [rankOf(detail), Number(late(detail)), Number(!detail.preferred)] as const }))
    .sort((a, b) => a.place[0] - b.place[0] || a.place[1] - b.place[1] || a.place[2] - b.place[2])
    .map(({ detail }) => detail);

/**
 * The lines of a new card: the name, then every detail by kind in the order that people read a card, safely ticked as far as a card has
 * room. For a public audience what is private comes after what is not: large buttons take the first of a kind.
 */
export function firstLines(record: PersonRecord, audience: { isPrivate: boolean }, typeOf?: TypeOf): Line[] {
  const [small, signed, printed] = Array.from({ length: 3 }, () => new Set<Detail['kind']>()) as [Kinds, Kinds, Kinds];
  // A card that shows all of a very long record could not go out.
  let [lines, letters] = [1, writtenName(record.name).length];
  const hasRoom = (detail: Detail): boolean => {
    letters += detail.label.length + shownValue(detail).length;
    lines += 1;
    return lines < LIMITS.shownLines && letters < LIMITS.shownLetters / 2;
  };
  const isHeld = (detail: Detail) => privacyOf(detail, record, typeOf) !== null;
  const isLate = (detail: Detail) => !audience.isPrivate && isHeld(detail);
  return [
    lineOf(NAME_LINE, NAME_TICKS),
    ...inReadingOrder(record.details, isLate).map((detail) => {
      const safe = firstTicks(detail, record, audience, typeOf);
      const ticks = (safe.page || safe.file) && !hasRoom(detail) ? NOWHERE : safe;
      const first = ticks.page && ticks.file && SMALL.has(detail.kind) && !small.has(detail.kind);
      if (first) small.add(detail.kind);
      // A signature goes to everybody, and paper to whoever finds it: what is private is on none, not even of a private card.
      const open = ticks.page && !isHeld(detail);
      const signature = open && IN_SIGNATURE.has(detail.kind) && !signed.has(detail.kind);
      if (signature) signed.add(detail.kind);
      const print = open && IN_PRINT.has(detail.kind) && !printed.has(detail.kind);
      if (print) printed.add(detail.kind);
      const backdrop = print && IN_BACKDROP.has(detail.kind);
      const more = first ? { code: true, tag: true } : {};
      return lineOf(detail.id, { ...ticks, signature, print, backdrop, pass: print, ...more });
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

/** The lines of another card for an audience; what is private, or left out for this audience, loses its ticks. */
export function copiedLines(
  lines: Line[],
  record: PersonRecord,
  audience: Pick<Audience, 'isPrivate' | 'without'>,
  typeOf?: TypeOf,
): Line[] {
  const left = new Set<string>(audience.without);
  return reconcile(lines, record).map((line) => {
    const detail = detailOf(line, record);
    const hidden = detail && (left.has(detail.kind) || (!audience.isPrivate && isPrivate(detail, record, typeOf)));
    return hidden ? { ...line, ticks: NOWHERE } : line;
  });
}

/** A card's lines back in the layout's own order, labels and emphasis; ticks, wordings and parts stay. */
export function backToLayout(lines: Line[], record: PersonRecord): Line[] {
  const plain = lines.map((line): Line => ({ ...line, label: null, emphasis: 'plain', gap: false }));
  const byId = new Map(plain.map((line) => [line.detail, line]));
  const details = inReadingOrder([...record.details, ...lines.flatMap(({ own }) => own ?? [])]);
  return [NAME_LINE, ...details.map(({ id }) => id)].flatMap((id) => byId.get(id) ?? []);
}
