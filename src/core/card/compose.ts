import { z } from 'zod';
import { bad, good, type Result } from '@/core/errors';
import {
  cleanLine,
  defaultLabel,
  DetailSchema,
  NameSchema,
  readDetail,
  shownValue,
  splitName,
  writtenName,
  type Detail,
  type PersonRecord,
} from '@/core/record';
import { LANGUAGES, type Language } from '@/core/messages';
import { CHANNELS, NAME_LINE, type Channel, type Line } from './card';

/** A line as it goes out: its label, its detail with the card's own wording put in, and the channels that carry it. */
export const ComposedLineSchema = z.object({
  id: z.string(),
  label: z.string(),
  detail: DetailSchema,
  on: z.array(z.enum(CHANNELS)),
});
export type ComposedLine = z.infer<typeof ComposedLineSchema>;

/**
 * What a card gives out, and nothing else: lines that are ticked nowhere are not in it. A revision keeps exactly this,
 * and page, contact file and code are functions of it.
 */
export const CompositionSchema = z.object({
  name: NameSchema,
  lines: z.array(ComposedLineSchema),
  /** The language of our own words; null where the recipient's browser chooses. */
  language: z.enum(LANGUAGES).nullable().default(null),
});
export type Composition = z.infer<typeof CompositionSchema>;

/**
 * A detail with a card's own wording in place of the record's. The wording is read as if it had been typed into the
 * record, so that what is shown is what is dialled, written to and saved. Errors as {@link readDetail}.
 */
export function withWording(detail: Detail, wording: string | null, country: string): Result<Detail> {
  if (wording === null) return good(detail);
  if (detail.kind === 'photo') return bad({ code: 'INPUT', field: 'wording' });
  const uses = 'uses' in detail ? detail.uses : [];
  const read = readDetail(detail.kind, wording, { id: detail.id, country, uses, label: detail.label });
  return read.ok ? good({ ...read.value, preferred: detail.preferred }) : read;
}

/** The label that a line carries: the card's own words, else the record's. An empty own label means none is shown. */
export function labelOf(line: Line, detail: Detail): string {
  return line.label === null ? defaultLabel(detail) : cleanLine(line.label).text;
}

/** Composes a card from its record and lines. Errors: the first wording that cannot be read, NAME_MISSING. */
export function compose(
  record: PersonRecord,
  lines: Line[],
  country: string,
  language: Language | null = null,
): Result<Composition> {
  const nameWording = lines.find((line) => line.detail === NAME_LINE)?.wording;
  // How a name is spoken and sorted stands on no line, so nobody could untick it: it stays with the record.
  const { prefix, given, additional, family, suffix, written } = record.name;
  const name = nameWording
    ? splitName(cleanLine(nameWording).text)
    : { prefix, given, additional, family, suffix, written };
  if (!writtenName(name)) return bad({ code: 'NAME_MISSING' });
  const details = new Map(record.details.map((detail) => [detail.id, detail]));
  const composed: ComposedLine[] = [];
  for (const line of lines) {
    const detail = details.get(line.detail);
    const on = CHANNELS.filter((channel) => line.ticks[channel]);
    if (!detail || on.length === 0) continue;
    const worded = withWording(detail, line.wording, country);
    if (!worded.ok) return worded;
    composed.push({ id: line.detail, label: labelOf(line, detail), detail: worded.value, on });
  }
  return good({ name, lines: composed, language });
}

/** The lines that one channel carries, in their order. */
export const linesOn = (composition: Composition, channel: Channel): ComposedLine[] =>
  composition.lines.filter((line) => line.on.includes(channel));

/**
 * The values that must not appear on a channel: those of the record and of wordings that stand only in lines without
 * its tick. A value that a ticked line also carries is not withheld. Short values (under 4 characters) prove nothing.
 */
export function withheldFrom(record: PersonRecord, lines: Line[], channel: Channel, country: string): string[] {
  const carried: string[] = [writtenName(record.name)];
  const withheld: string[] = [];
  for (const line of lines) {
    const detail = record.details.find((candidate) => candidate.id === line.detail);
    if (!detail || detail.kind === 'photo') continue;
    const worded = withWording(detail, line.wording, country);
    const values = [shownValue(detail), ...(worded.ok ? [shownValue(worded.value)] : [])];
    if (line.ticks[channel]) carried.push(values.at(-1)!, labelOf(line, detail));
    else withheld.push(...values);
  }
  const allowed = carried.map(squeeze).join('\n');
  return [...new Set(withheld)].filter((value) => squeeze(value).length >= 4 && !allowed.includes(squeeze(value)));
}

/** Case, spaces and the punctuation of phone numbers taken away, so that no other spelling of a value slips through. */
export const squeeze = (text: string): string =>
  text
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[\s()./\-–‑,;·\\]/g, '');
