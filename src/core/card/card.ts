import type { Detail, PersonRecord } from '@/core/record';
import { CHANNELS, FIRST_CHANNELS, type Channel } from './channels';
import type { Draft, Line, Ticks } from './schema';

/** The detail that a line shows: its own, else the record's; null for the name and for what is gone. */
export const detailOf = (line: Line, record: PersonRecord): Detail | null =>
  line.own ?? record.details.find((detail) => detail.id === line.detail) ?? null;

/** Whether a line goes out anywhere. */
export const goesOut = ({ ticks }: Line): boolean => CHANNELS.some((channel) => ticks[channel]);

/** Channels of which a live hand-out has lines of its own, and so a column. */
const OWN_COLUMN = new Set<Channel>(['signature', 'print', 'backdrop', 'pass']);

/**
 * The channels whose columns a card shows: page and contact file, and a small one with a frozen hand-out, with a signature or a printed piece, or with a line that is
 * held back from page or file, which would otherwise leave there unseen.
 */
export const channelsOf = (
  lines: readonly Line[],
  handOuts: readonly { channel: string; frozen: boolean }[],
): Channel[] =>
  CHANNELS.filter(
    (each) =>
      FIRST_CHANNELS.includes(each) ||
      handOuts.some(({ channel, frozen }) => (frozen || OWN_COLUMN.has(each)) && channel === each) ||
      lines.some(({ ticks }) => ticks[each] && FIRST_CHANNELS.some((first) => !ticks[first])),
  );

/** A new line of a detail, ticked as said. */
export const lineOf = (detail: string, ticks: Ticks, own: Detail | null = null): Line => ({
  detail,
  label: null,
  wording: null,
  part: null,
  emphasis: 'plain',
  gap: false,
  own,
  ticks,
});

/** What of a card is the draft that its table edits. */
export const draftOf = ({ lines, audience, language, blocks, opens, words, look }: Draft): Draft => ({
  lines,
  audience,
  language,
  blocks,
  opens,
  words,
  look,
});
