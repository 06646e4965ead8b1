import type { Detail, DetailKind, PersonRecord, Purpose, Use } from '@/core/record';
import { purposeOf } from '@/core/record';
import type { Audience } from './audiences';
import type { StartBlock } from './blocks/block-kinds';
import type { Block } from './blocks/blocks';
import { freshBlock } from './blocks/fresh-block';
import { NAME_LINE, type Emphasis } from './channels';
import type { Line } from './schema';
import { lineOf } from './card';
import { firstLines, NOWHERE } from './first-ticks';
import type { TypeOf } from './privacy';

/** One line that a trade's card usually has: which detail, what it is called, how it stands. */
type StartLine = {
  kind: DetailKind;
  use?: Use;
  purpose?: Purpose;
  label?: string;
  emphasis?: Emphasis;
  gap?: boolean;
};

export type Start = { key: string; lines: StartLine[]; blocks: StartBlock[] };

const FACE: StartLine[] = [{ kind: 'photo' }, { kind: 'title' }, { kind: 'organisation' }];
const REACH: StartLine[] = [
  { kind: 'phone', use: 'work', gap: true },
  { kind: 'email', use: 'work' },
];

/**
 * Starting cards by trade: what practitioners of it usually put on a card, in which order (common practice, no published
 * source). Lines that the record has nothing for are offered, not shown.
 */
export const STARTS: readonly Start[] = [
  {
    key: 'cableways',
    lines: [
      ...FACE,
      { kind: 'licence', label: 'Inspector’s licence' },
      { kind: 'phone', use: 'emergency', label: 'Duty line, day and night', emphasis: 'strong', gap: true },
      { kind: 'phone', use: 'work', label: 'Office' },
      { kind: 'email', use: 'work' },
      { kind: 'address', use: 'work', label: 'Depot', gap: true },
    ],
    blocks: ['action bar', 'hours'],
  },
  {
    key: 'property',
    lines: [
      ...FACE,
      { kind: 'licence', label: 'Licence number' },
      { kind: 'phone', use: 'mobile', emphasis: 'strong', gap: true },
      { kind: 'email', use: 'work' },
      { kind: 'link', purpose: 'catalogue', label: 'Homes on offer' },
      { kind: 'link', purpose: 'booking', label: 'Book a viewing' },
      { kind: 'address', use: 'work', gap: true },
      { kind: 'hours' },
    ],
    blocks: ['action bar', 'gallery', 'hours', 'reply form'],
  },
  {
    key: 'law',
    lines: [
      ...FACE,
      { kind: 'credential', label: 'Admitted' },
      { kind: 'language' },
      ...REACH,
      { kind: 'phone', use: 'fax' },
      { kind: 'address', use: 'work', label: 'Chambers', gap: true },
    ],
    blocks: ['action bar', 'about', 'shelf'],
  },
  {
    key: 'health',
    lines: [
      ...FACE,
      { kind: 'credential' },
      { kind: 'licence', label: 'Registration' },
      { kind: 'link', purpose: 'booking', label: 'Appointments', emphasis: 'strong', gap: true },
      { kind: 'phone', use: 'work', label: 'Reception' },
      { kind: 'phone', use: 'emergency', label: 'Emergencies' },
      { kind: 'hours', label: 'Surgery hours', gap: true },
      { kind: 'address', use: 'work' },
    ],
    blocks: ['action bar', 'hours', 'about'],
  },
  {
    key: 'craft',
    lines: [
      { kind: 'logo' },
      ...FACE,
      { kind: 'phone', use: 'mobile', label: 'On site', emphasis: 'strong', gap: true },
      { kind: 'phone', use: 'work', label: 'Workshop' },
      { kind: 'email' },
      { kind: 'link', purpose: 'catalogue', label: 'Work we have done' },
      { kind: 'licence', label: 'Trade register', emphasis: 'quiet', gap: true },
      { kind: 'address', use: 'work', label: 'Workshop' },
    ],
    blocks: ['action bar', 'gallery', 'reply form'],
  },
  {
    key: 'consulting',
    lines: [
      ...FACE,
      { kind: 'language' },
      ...REACH,
      { kind: 'link', purpose: 'booking', label: 'Book a call', emphasis: 'strong' },
      { kind: 'link', purpose: 'profile' },
    ],
    blocks: ['action bar', 'about', 'onward links', 'shelf'],
  },
  {
    key: 'arts',
    lines: [
      { kind: 'photo' },
      { kind: 'title' },
      { kind: 'link', purpose: 'catalogue', label: 'Portfolio', emphasis: 'strong', gap: true },
      { kind: 'link', purpose: 'profile' },
      { kind: 'email' },
      { kind: 'phone' },
    ],
    blocks: ['gallery', 'video', 'onward links'],
  },
  {
    key: 'music',
    lines: [
      { kind: 'photo' },
      { kind: 'role', label: 'Plays' },
      { kind: 'link', purpose: 'web', label: 'Listen', emphasis: 'strong', gap: true },
      { kind: 'link', purpose: 'booking', label: 'Bookings' },
      { kind: 'email' },
      { kind: 'link', purpose: 'payment', label: 'Support us', emphasis: 'quiet' },
    ],
    blocks: ['video', 'gallery', 'onward links'],
  },
  {
    key: 'hospitality',
    lines: [
      { kind: 'logo' },
      { kind: 'organisation' },
      { kind: 'title' },
      { kind: 'link', purpose: 'booking', label: 'Reserve a table', emphasis: 'strong', gap: true },
      { kind: 'phone', use: 'work' },
      { kind: 'hours', label: 'Open' },
      { kind: 'address', use: 'work', gap: true },
      { kind: 'link', purpose: 'catalogue', label: 'Menu' },
    ],
    blocks: ['action bar', 'gallery', 'hours'],
  },
  {
    key: 'sales',
    lines: [
      ...FACE,
      { kind: 'phone', use: 'mobile', gap: true },
      { kind: 'email', use: 'work' },
      { kind: 'link', purpose: 'booking', label: 'Meet me' },
      { kind: 'link', purpose: 'catalogue' },
      { kind: 'link', purpose: 'profile' },
    ],
    blocks: ['action bar', 'shelf', 'reply form'],
  },
  {
    key: 'teaching',
    lines: [
      ...FACE,
      { kind: 'pronouns' },
      { kind: 'email', use: 'work', gap: true },
      { kind: 'phone', use: 'work', label: 'School office' },
      { kind: 'hours', label: 'Office hours' },
      { kind: 'address', use: 'work' },
    ],
    blocks: ['hours', 'about', 'shelf'],
  },
  {
    key: 'charity',
    lines: [
      { kind: 'logo' },
      ...FACE,
      { kind: 'link', purpose: 'payment', label: 'Give', emphasis: 'strong', gap: true },
      ...REACH,
      { kind: 'link', purpose: 'web' },
      { kind: 'licence', label: 'Registered charity', emphasis: 'quiet', gap: true },
    ],
    blocks: ['video', 'about', 'reply form'],
  },
];

export const startOf = (key: string | null): Start | null => STARTS.find((start) => start.key === key) ?? null;

/** Whether a detail is what a start's line asks for. */
function answers(detail: Detail, line: StartLine): boolean {
  if (detail.kind !== line.kind) return false;
  if (line.purpose) return detail.kind === 'link' && purposeOf(detail) === line.purpose;
  return !line.use || ('uses' in detail && detail.uses.includes(line.use));
}

/** The lines of a new card: safely ticked for its audience, in the order and with the labels of its trade if one was chosen. */
export function startingLines(
  record: PersonRecord,
  audience: Pick<Audience, 'isPrivate' | 'without'>,
  start: Start | null,
  typeOf?: TypeOf,
): Line[] {
  const left = new Set<DetailKind>(audience.without);
  const kinds = new Map(record.details.map((detail) => [detail.id, detail.kind]));
  const safe = firstLines(record, audience, typeOf).map((line) =>
    left.has(kinds.get(line.detail)!) ? { ...line, ticks: NOWHERE } : line,
  );
  if (!start) return safe;
  const byId = new Map(safe.map((line) => [line.detail, line]));
  const taken = new Set<string>([NAME_LINE]);
  const chosen = start.lines.flatMap((wanted): Line[] => {
    const detail =
      record.details.find((each) => !taken.has(each.id) && answers(each, wanted)) ??
      record.details.find((each) => !taken.has(each.id) && !wanted.purpose && each.kind === wanted.kind);
    if (!detail) return [];
    taken.add(detail.id);
    const { label = null, emphasis = 'plain', gap = false } = wanted;
    return [{ ...byId.get(detail.id)!, label, emphasis, gap }];
  });
  // What the trade does not usually show is on the card, ticked nowhere.
  const others = safe.filter((line) => !taken.has(line.detail)).map((line) => ({ ...line, ticks: NOWHERE }));
  return [byId.get(NAME_LINE) ?? lineOf(NAME_LINE, NOWHERE), ...chosen, ...others];
}

/** Lines that the trade's card usually has and this card shows nothing for: offered to be filled. */
export function missingFrom(start: Start, details: Detail[]): StartLine[] {
  const taken = new Set<string>();
  return start.lines.filter((wanted) => {
    const found = details.find(
      (detail) =>
        !taken.has(detail.id) && (answers(detail, wanted) || (!wanted.purpose && detail.kind === wanted.kind)),
    );
    if (found) taken.add(found.id);
    return !found;
  });
}

/** The blocks that a start names, new and empty: each shows once something is put into it. What is offered apart is left out. */
export const startingBlocks = (start: Start, freshId: () => string): Block[] =>
  start.blocks.flatMap((kind) => (kind === 'shelf' ? [] : [freshBlock(kind, freshId)]));
