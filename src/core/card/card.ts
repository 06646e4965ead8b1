import type { Detail, PersonRecord } from '@/core/record';
import { CHANNELS } from './channels';
import type { Draft, Line, Ticks } from './schema';

/** The detail that a line shows: its own, else the record's; null for the name and for what is gone. */
export const detailOf = (line: Line, record: PersonRecord): Detail | null =>
  line.own ?? record.details.find((detail) => detail.id === line.detail) ?? null;

/** Whether a line goes out anywhere. */
export const goesOut = ({ ticks }: Line): boolean => CHANNELS.some((channel) => ticks[channel]);

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
