import { FAMILIES, type Look } from '@/core/look';
import { BLOCKS_WORDS, LOOK, PUBLISH } from '@/core/words';
import { languageName } from '@/core/language';
import { shownValue, writtenName } from '@/core/record';
import {
  languagesAmong,
  wordsOf,
  same,
  type Block,
  type Channel,
  type ComposedLine,
  type Composition,
  type Said,
} from '@/core/card';

/** What one of two compositions says in a row: the value as people read it, and the channels that carry it. */
type Said1 = { text: string; on: readonly Channel[] };
/** A row of a comparison: what stood there before and now, null where there was or is nothing. */
export type ComparedRow = { key: string; title: string; was: Said1 | null; is: Said1 | null; same: boolean };

/** Two compositions side by side, line by line and channel by channel, then block by block, in the order of the later one. */
export function compareCompositions(before: Composition, now: Composition): ComparedRow[] {
  const rows = compareSaid(before, now, '');
  const languages = languagesAmong(before.further, now.further);
  for (const language of languages) {
    const [was, is] = [before.further[language], now.further[language]];
    const title = languageName(language);
    if (was && is) rows.push(...compareSaid(was, is, `${title}: `).filter(({ same }) => !same));
    else
      rows.push(
        row(`in ${language}`, title, was ? { text: title, on: [] } : null, is ? { text: title, on: [] } : null),
      );
  }
  const whole = (key: string, title: string, text: (composition: Composition) => string, equal: boolean) => {
    const said = (composition: Composition): Said1 => ({ text: text(composition), on: [] });
    rows.push({ ...row(key, title, said(before), said(now)), same: equal });
  };
  const { changed } = PUBLISH;
  whole('opens', BLOCKS_WORDS.opens, ({ opens }) => BLOCKS_WORDS.opensWith[opens.first], same(before.opens, now.opens));
  whole('language', changed.language, languageOf, (before.language ?? null) === now.language);
  const [was, is] = [orderOf(before, before, now), orderOf(now, before, now)];
  // Lines of one label are told apart by what they say.
  const labels = was.map(({ label }) => label);
  const isAlone = (label: string) => label !== '' && labels.indexOf(label) === labels.lastIndexOf(label);
  const named = (lines: ComposedLine[]) =>
    lines.map((line) => (isAlone(line.label) ? line.label : textOf(line))).join(' · ');
  if (was.map(({ id }) => id).join() !== is.map(({ id }) => id).join())
    rows.push({
      ...row('order', changed.order, { text: named(was), on: [] }, { text: named(is), on: [] }),
      same: false,
    });
  whole('look', changed.look, ({ look }) => lookText(look), same(before.look, now.look));
  return rows;
}

const languageOf = ({ language }: Composition): string =>
  language ? languageName(language) : PUBLISH.changed.followsDevice;

/** The lines that stand in all of these compositions, in the order of one. */
const orderOf = ({ lines }: Composition, ...among: Composition[]): ComposedLine[] =>
  lines.filter(({ id }) => among.every((each) => each.lines.some((line) => line.id === id)));

/** A look in a few words: its layout, type and colours. */
const lookText = ({ layout, title, text, palette }: Look): string =>
  [LOOK.layouts[layout][0], FAMILIES[title].name, FAMILIES[text].name, palette.band, palette.act].join(' · ');

function compareSaid(before: Said, now: Said, prefix: string): ComparedRow[] {
  const name = ({ name: written }: Said): Said1 => ({ text: writtenName(written), on: [] });
  const rows = [row(`${prefix}name`, prefix + PUBLISH.changed.name, name(before), name(now))];
  for (const [id, was, is] of paired(before.lines, now.lines)) {
    // Where only the label is another, it is what differs.
    const relabelled = was && is && was.label !== is.label;
    const text = (line: ComposedLine) =>
      relabelled ? `${line.label || PUBLISH.noLabel}: ${textOf(line)}` : textOf(line);
    const said = (line: ComposedLine | undefined) => (line ? { text: text(line), on: line.on } : null);
    const label = (is ?? was)!.label;
    rows.push(row(`${prefix}line ${id}`, prefix + (label || PUBLISH.noLabel), said(was), said(is)));
  }
  for (const [id, was, is] of paired(before.blocks, now.blocks)) {
    const { kind, title } = (is ?? was)!;
    const said = (block: Block | undefined) => (block ? { text: blockText(block), on: [] } : null);
    const compared = row(`${prefix}block ${id}`, prefix + (title || BLOCKS_WORDS.kinds[kind]), said(was), said(is));
    rows.push({ ...compared, same: compared.same && same(was, is) });
  }
  return rows;
}

/** The same things of two lists by their ids: those of the later one in its order, then those that are gone. */
function paired<T extends { id: string }>(before: T[], now: T[]): [string, T | undefined, T | undefined][] {
  const [was, is] = [new Map(before.map((each) => [each.id, each])), new Map(now.map((each) => [each.id, each]))];
  return [...now, ...before.filter(({ id }) => !is.has(id))].map(({ id }) => [id, was.get(id), is.get(id)]);
}

const textOf = (line: ComposedLine): string =>
  'picture' in line.detail ? PUBLISH.pictureNamed(line.detail.picture.slice(0, 8)) : shownValue(line.detail);

/** What a block says in a few words: its texts, and how many pictures and films. */
function blockText(block: Block): string {
  const pictures =
    'items' in block
      ? block.items.filter(({ picture }) => picture).length
      : block.kind === 'video'
        ? block.videos.length
        : 0;
  const texts = wordsOf(block).map(({ text }) => text);
  return (
    [...texts, ...(pictures > 0 ? [BLOCKS_WORDS.pictures(pictures)] : [])].join(' · ') || BLOCKS_WORDS.kinds[block.kind]
  );
}

function row(key: string, title: string, was: Said1 | null, is: Said1 | null): ComparedRow {
  const same = was?.text === is?.text && was?.on.join() === is?.on.join() && (was === null) === (is === null);
  return { key, title, was, is, same };
}
