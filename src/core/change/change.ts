import { PAGE_AND_FILE, privacyOf, reconcile, same, type Channel, type Line } from '@/core/card';
import { err, ok, type Result } from '@/core/errors';
import type { LayoutName, Look } from '@/core/look';
import { readDetail, type Detail, type DetailKind, type PersonRecord, type Use } from '@/core/record';
import { lineTypeOf } from '@/core/record/line-type';

/** Kinds whose ticks are changed for many at once; a photo and a logo have their own place in the look. */
export const TICKED_KINDS = ['phone', 'email', 'link', 'address', 'title', 'organisation', 'hours', 'note'] as const;
export type TickedKind = (typeof TICKED_KINDS)[number];
export const TICKED_CHANNELS = ['page', 'file', 'signature', 'print'] as const satisfies readonly Channel[];

/**
 * One thing that is changed for many people: a link is put in the place of another, or added to everybody (`from` null); a job title is
 * put in the place of another, or of every one; cards get a layout; lines of a kind are ticked or unticked, phones of one use alone
 * where one is said, private ones only with `privateToo`; living codes are drawn as the house draws its codes.
 */
export type Change =
  | { of: 'link'; from: string | null; to: string; label: string }
  | { of: 'title'; from: string | null; to: string }
  | { of: 'layout'; layout: LayoutName }
  | {
      of: 'ticks';
      kind: TickedKind;
      use: Use | null;
      channel: (typeof TICKED_CHANNELS)[number];
      on: boolean;
      privateToo: boolean;
    }
  | { of: 'codes' };

/** The id of a link that was added to everybody, so that a second try adds none. */
const ADDED = 'added-link';

const typed = (kind: 'link' | 'title', text: string, of: Partial<Detail> & { id: string }): Result<Detail> => {
  const read = readDetail(kind, text, { id: of.id, country: 'GB', label: of.label });
  return read.ok ? ok({ ...of, ...read.value } as Detail) : read;
};

/** Reads a change as it was typed: links in the form that records keep, titles on one line. Errors: those of {@link readDetail}. */
export function readChange(change: Change): Result<Change> {
  if (change.of !== 'link' && change.of !== 'title') return ok(change);
  const read = (text: string) => typed(change.of, text, { id: 'typed' });
  const to = read(change.to);
  const from = change.from === null ? null : read(change.from);
  if (!to.ok) return to;
  if (from && !from.ok) return from;
  const said = (detail: Detail): string =>
    detail.kind === 'link' ? detail.url : detail.kind === 'title' ? detail.text : '';
  const next = { ...change, to: said(to.value), from: from && said(from.value) };
  return next.from === next.to ? err({ code: 'INPUT', field: 'to' }) : ok(next);
}

/** Details of a record as a change leaves them, by id, each with what it was (null of one that is added); empty where nothing changes. */
export function changedDetails(
  change: Change,
  { details }: PersonRecord,
): { id: string; was: Detail | null; is: Detail }[] {
  if (change.of === 'title')
    return details.flatMap((was) => {
      const meant =
        was.kind === 'title' && (change.from === null || was.text === change.from) && was.text !== change.to;
      return meant ? [{ id: was.id, was, is: { ...was, text: change.to } }] : [];
    });
  if (change.of !== 'link') return [];
  const { from, to, label } = change;
  if (from !== null)
    return details.flatMap((was) =>
      was.kind === 'link' && was.url === from ? [{ id: was.id, was, is: { ...was, url: to } }] : [],
    );
  if (details.some((each) => each.kind === 'link' && each.url === to)) return [];
  const taken = details.some(({ id }) => id === ADDED);
  const id = taken ? `${ADDED}-${details.length}` : ADDED;
  return [{ id, was: null, is: { kind: 'link', id, label, preferred: false, url: to, uses: ['work'] } }];
}

/** A record with such details in it. */
export const withDetails = (record: PersonRecord, changed: { id: string; is: Detail | null }[]): PersonRecord => {
  const by = new Map(changed.map(({ id, is }) => [id, is]));
  const kept = record.details.flatMap((each) => {
    const next = by.get(each.id);
    return next === undefined ? [each] : (next ?? []);
  });
  const known = new Set(record.details.map(({ id }) => id));
  return { ...record, details: [...kept, ...changed.flatMap(({ id, is }) => (is && !known.has(id) ? [is] : []))] };
};

/** What of a card a change touches. */
export type Touched = { lines: Line[]; look: Look };

const meant = (change: Extract<Change, { of: 'ticks' }>, detail: Detail, record: PersonRecord): boolean =>
  detail.kind === (change.kind satisfies DetailKind) &&
  (change.use === null || ('uses' in detail && (detail.uses as Use[]).includes(change.use))) &&
  // What is private goes out only where somebody has said so; taken off it is in any case.
  (!change.on || change.privateToo || privacyOf(detail, record, lineTypeOf) === null);

/** A card as a change leaves it, its record being changed already; null where it stays as it is. A link that was added is shown on page and file. */
export function changedCard(
  change: Change,
  { lines, look }: Touched,
  record: PersonRecord,
  added: string[],
): Touched | null {
  if (change.of === 'layout')
    return look.layout === change.layout
      ? null
      : { lines, look: { ...look, layout: change.layout, follows: look.follows.filter((part) => part !== 'layout') } };
  if (change.of === 'codes' || change.of === 'title') return null;
  const details = new Map(record.details.map((detail) => [detail.id, detail]));
  const fresh = new Set(added);
  const next = reconcile(lines, record).map((line) => {
    const detail = details.get(line.detail);
    if (!detail) return line;
    if (fresh.has(line.detail)) return { ...line, ticks: PAGE_AND_FILE };
    if (change.of !== 'ticks' || !meant(change, detail, record) || line.ticks[change.channel] === change.on)
      return line;
    return { ...line, ticks: { ...line.ticks, [change.channel]: change.on } };
  });
  return same(next, reconcile(lines, record)) ? null : { lines: next, look };
}
