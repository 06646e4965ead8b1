import { err, ok, type Result } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { FIRST_LOOK } from '@/core/look';
import {
  cleanLine,
  defaultLabel,
  readDetail,
  shownValue,
  readName,
  writtenName,
  type Detail,
  type Name,
  type PersonRecord,
} from '@/core/record';
import type { Language } from '@/core/language';
import { shownBlocks } from './blocks/block-content';
import type { Block, PageParts, Words } from './blocks/blocks';
import { blockIn, linesIn } from './languages';
import { CHANNELS, NAME_LINE, type Channel } from './channels';
import type { ComposedLine, Composition, Draft, Line, Said } from './schema';
import { detailOf, goesOut } from './card';
import { reconcile } from './first-ticks';
import { cutDetail, cutName } from './parts';

/**
 * A detail with a card's own wording in place of the record's. The wording is read as if it had been typed into the
 * record, so that what is shown is what is dialled, written to and saved. Errors as {@link readDetail}.
 */
export function withWording(detail: Detail, wording: string | null, country: string): Result<Detail> {
  if (wording === null) return ok(detail);
  if (detail.kind === 'photo' || detail.kind === 'logo') return err({ code: 'WORDING_NOT_POSSIBLE' });
  const uses = 'uses' in detail ? detail.uses : [];
  const zone = detail.kind === 'hours' ? detail.zone : undefined;
  const read = readDetail(detail.kind, wording, { id: detail.id, country, uses, label: detail.label, zone });
  return read.ok ? ok({ ...read.value, preferred: detail.preferred }) : read;
}

/** The label that a line carries: the card's own words, else the record's. An empty own label means none is shown. */
export function labelOf(line: Line, detail: Detail): string {
  return line.label === null ? defaultLabel(detail) : cleanLine(line.label).text;
}

/** The name as a line gives it out. How a name is spoken and sorted stands on no line, so nobody could untick it: it stays with the record. */
export function nameOn(record: PersonRecord, line: Line | undefined): Name {
  const { prefix, given, additional, family, suffix, written, kind } = record.name;
  const name = line?.wording
    ? readName(cleanLine(line.wording).text, kind)
    : { prefix, given, additional, family, suffix, written, ...(kind ? { kind } : {}) };
  return cutName(name, line?.part ?? null);
}

/** The detail as a line gives it out: with the card's own wording, cut to its part. Errors as {@link readDetail}. */
export function detailOn(line: Line, detail: Detail, country: string): Result<Detail> {
  const worded = withWording(detail, line.wording, country);
  return worded.ok ? ok(cutDetail(worded.value, line.part)) : worded;
}

/** A card that is lines and nothing else. */
export const NO_PARTS: PageParts = { blocks: [], opens: { first: 'page' }, words: {}, look: FIRST_LOOK };

/**
 * Composes a card from its record and lines, with its blocks, in its first language and in every further one. Errors: the first
 * wording that cannot be read, NAME_MISSING, TOO_MUCH_SHOWN.
 */
export function compose(
  record: PersonRecord,
  lines: Line[],
  country: string,
  language: Language | null = null,
  { blocks, opens, words, look }: PageParts = NO_PARTS,
): Result<Composition> {
  const said = sayLines(record, lines, blocks, country);
  if (!said.ok) return said;
  const further: Composition['further'] = {};
  for (const other of Object.keys(words).sort()) {
    if (other === (language ?? 'en')) continue;
    const translated = blocks.map((block) => blockIn(block, words, other));
    const saidSo = sayLines(record, linesIn(lines, record, words, other), translated, country);
    if (!saidSo.ok) return saidSo;
    further[other] = saidSo.value;
  }
  const shown = opens.first !== 'block' || said.value.blocks.some(({ id }) => id === opens.block);
  return ok({ ...said.value, language, opens: shown ? opens : { first: 'page' }, look, further });
}

/** What a composition is made of besides the record: a draft, or the card that holds it. */
type Composable = PageParts & Pick<Draft, 'lines' | 'language'>;

/** A draft as it would go out, its lines as they stand. Errors as {@link compose}. */
export const composeDraft = (record: PersonRecord, draft: Composable, country: string): Result<Composition> =>
  compose(record, draft.lines, country, draft.language, draft);

/** A card as it would go out now: its lines held against today's record. Errors as {@link compose}. */
export const composeToday = (record: PersonRecord, card: Composable, country: string): Result<Composition> =>
  composeDraft(record, { ...card, lines: reconcile(card.lines, record) }, country);

function sayLines(record: PersonRecord, lines: Line[], blocks: Block[], country: string): Result<Said> {
  const name = nameOn(
    record,
    lines.find((line) => line.detail === NAME_LINE),
  );
  if (!writtenName(name)) return err({ code: 'NAME_MISSING' });
  const composed: ComposedLine[] = [];
  for (const line of lines) {
    const detail = detailOf(line, record);
    if (!detail || !goesOut(line)) continue;
    const out = detailOn(line, detail, country);
    if (!out.ok) return out;
    // An empty value leaves no gap and no empty label.
    if (!hasValue(out.value)) continue;
    // The value in other languages goes out where the card is said in them.
    const { further: _further, ...plain } = out.value;
    composed.push({
      id: line.detail,
      label: labelOf(line, detail),
      detail: plain as Detail,
      on: CHANNELS.filter((channel) => line.ticks[channel]),
      emphasis: line.emphasis,
      gap: line.gap,
    });
  }
  const said = { name, lines: composed, blocks: shownBlocks(blocks, composed) };
  return tooMuch(said) ?? ok(said);
}

/** The letters of all texts within a value; names of files, which are 64 hexadecimal digits, are none. */
function lettersIn(value: unknown): number {
  if (typeof value === 'string') return /^[0-9a-f]{64}$/.test(value) ? 0 : value.length;
  if (typeof value !== 'object' || value === null) return 0;
  return Object.values(value).reduce<number>((sum, each) => sum + lettersIn(each), 0);
}

/** TOO_MUCH_SHOWN where a card says more than it may in one language: whatever is made of it costs by its lines and letters. */
function tooMuch({ name, lines, blocks }: Said): Result<never> | null {
  const { shownLines: mostLines, shownLetters: mostLetters } = LIMITS;
  const shown = lines.map(({ label, detail }) => [label, shownValue(detail)]);
  const letters = lettersIn([name, shown, blocks]);
  if (lines.length <= mostLines && letters <= mostLetters) return null;
  return err({ code: 'TOO_MUCH_SHOWN', lines: lines.length, letters, mostLines, mostLetters });
}

const hasValue = (detail: Detail): boolean =>
  detail.kind === 'photo' || detail.kind === 'logo' || shownValue(detail) !== '';

/** The lines that one channel carries, in their order. */
export const linesOn = (composition: Composition, channel: Channel): ComposedLine[] =>
  composition.lines.filter((line) => line.on.includes(channel));

/** The picture of a kind that a channel carries, by its hash: the first one ticked for it. */
export function pictureOn(composition: Composition, kind: 'photo' | 'logo', channel: Channel): string | undefined {
  const detail = linesOn(composition, channel).find((line) => line.detail.kind === kind)?.detail;
  return detail && 'picture' in detail ? detail.picture : undefined;
}

/**
 * The values that must not appear on a channel: those of the record and of wordings that stand only in lines without
 * its tick, and what was cut away from those with one. A value that a ticked line also carries is not withheld. Short values
 * (under 4 characters) prove nothing.
 */
export const withheldFrom = (record: PersonRecord, lines: Line[], channel: Channel, country: string): string[] =>
  withheldAmong(record, [lines], channel, country);

/**
 * The same of an output that says a card in several languages at once: what no line of any of them carries. `languages` as
 * {@link languagesOf} tells them; with none, the lines as they are.
 */
export const withheldFromAll = (
  record: PersonRecord,
  { lines, words }: { lines: Line[]; words: Words },
  languages: Language[],
  channel: Channel,
  country: string,
): string[] => {
  const further = languages.map((language) => linesIn(lines, record, words, language));
  return withheldAmong(record, [lines, ...further], channel, country);
};

function withheldAmong(record: PersonRecord, wordings: Line[][], channel: Channel, country: string): string[] {
  const carried: string[] = [];
  const withheld: string[] = [];
  for (const lines of wordings) {
    const nameLine = lines.find((line) => line.detail === NAME_LINE);
    carried.push(writtenName(nameOn(record, nameLine)));
    if (nameLine?.part) withheld.push(record.name.given, record.name.additional, record.name.family);
    for (const line of lines) {
      const detail = detailOf(line, record);
      if (!detail || detail.kind === 'photo' || detail.kind === 'logo') continue;
      const out = detailOn(line, detail, country);
      const values = [shownValue(detail), ...(out.ok ? [shownValue(out.value)] : [])];
      if (line.ticks[channel]) {
        carried.push(values.at(-1)!, labelOf(line, detail));
        if (line.part) withheld.push(...piecesOf(detail));
      } else withheld.push(...values, ...(detail.kind === 'address' ? [detail.street] : []));
    }
  }
  const allowed = carried.map(squeeze).join('\n');
  return [...new Set(withheld)].filter((value) => squeeze(value).length >= 4 && !allowed.includes(squeeze(value)));
}

/** What a cut detail could give away piece by piece. */
function piecesOf(detail: Detail): string[] {
  if (detail.kind === 'address') return [detail.street, detail.extended, detail.poBox, detail.postcode, detail.region];
  if (detail.kind === 'organisation') return detail.units;
  return detail.kind === 'birthday' ? [detail.date] : [];
}

/** Case, spaces and the punctuation of phone numbers taken away, so that no other spelling of a value slips through. */
export const squeeze = (text: string): string =>
  text
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[\s()./\-–‑,;·\\]/g, '');
