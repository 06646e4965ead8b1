import type { Language } from '@/core/language';
import type { Detail, PersonRecord } from '@/core/record';
import type { Block, Words } from './blocks/blocks';
import { NAME_LINE } from './channels';
import type { Composition, Line, Said } from './schema';

/** The cells of a line that can be said in another language. */
export const wordKey = (line: string, cell: 'label' | 'wording'): string => `${line}/${cell}`;
export const blockKey = (block: string, field: string, item?: string): string =>
  item ? `${block}/${item}/${field}` : `${block}/${field}`;

/**
 * Lines in a further language: the card's own words in it, and where the card has reworded a
 * value, that wording; else the record's value in the language, else its first one. What was reworded away comes back in no language.
 */
export function linesIn(lines: Line[], record: PersonRecord, words: Words, language: Language): Line[] {
  const own = words[language] ?? {};
  return lines.map((line) => {
    const known = line.detail === NAME_LINE ? record.name : furtherOf(line, record);
    const label = own[wordKey(line.detail, 'label')] || line.label;
    const wording = own[wordKey(line.detail, 'wording')] || (line.wording ?? known?.further?.[language] ?? null);
    return label === line.label && wording === line.wording ? line : { ...line, label, wording };
  });
}

const furtherOf = (line: Line, record: PersonRecord): Detail | undefined =>
  line.own ?? record.details.find(({ id }) => id === line.detail);

/** What of a block is words, each with its place; what is drawn and asked for in the studio as well. */
export function wordsOf(block: Block): { key: string; text: string; long: boolean }[] {
  const short = (key: string, text: string) => ({ key, text, long: false });
  const long = (key: string, text: string) => ({ key, text, long: true });
  const all = [short(blockKey(block.id, 'title'), block.title)];
  if (block.kind === 'about') all.push(long(blockKey(block.id, 'text'), block.text));
  if (block.kind === 'action bar')
    for (const { id, subject, text } of block.buttons)
      all.push(short(blockKey(block.id, 'subject', id), subject), long(blockKey(block.id, 'text', id), text));
  if (block.kind === 'video')
    for (const { id, title } of block.videos) all.push(short(blockKey(block.id, 'title', id), title));
  if ('items' in block)
    for (const { id, title, text, alt, picture } of block.items)
      all.push(
        short(blockKey(block.id, 'title', id), title),
        long(blockKey(block.id, 'text', id), text),
        // Without a picture nobody is told what it shows.
        short(blockKey(block.id, 'alt', id), picture ? alt : ''),
      );
  return all.filter(({ text }) => text !== '');
}

/** A block in a further language. */
export function blockIn(block: Block, words: Words, language: Language): Block {
  const own = words[language];
  if (!own) return block;
  const say = (field: string, text: string, item?: string) => own[blockKey(block.id, field, item)] || text;
  const titled = { ...block, title: say('title', block.title) };
  if (titled.kind === 'about') return { ...titled, text: say('text', titled.text) };
  if (titled.kind === 'action bar')
    return {
      ...titled,
      buttons: titled.buttons.map((button) => ({
        ...button,
        subject: say('subject', button.subject, button.id),
        text: say('text', button.text, button.id),
      })),
    };
  if (titled.kind === 'video')
    return { ...titled, videos: titled.videos.map((each) => ({ ...each, title: say('title', each.title, each.id) })) };
  if (!('items' in titled)) return titled;
  return {
    ...titled,
    items: titled.items.map((item) => ({
      ...item,
      title: say('title', item.title, item.id),
      text: say('text', item.text, item.id),
      alt: say('alt', item.alt, item.id),
    })),
  };
}

/** The languages that something is said in before or after. */
export const languagesAmong = (...said: Partial<Record<Language, unknown>>[]): Language[] =>
  [...new Set(said.flatMap((each) => Object.keys(each)))].sort();

/** The languages that a card can be had in, its first one in front; none where our own words follow the recipient's browser. */
export const languagesOf = ({ language, further }: Composition): Language[] => {
  const others = Object.keys(further);
  return others.length === 0 ? (language ? [language] : []) : [language ?? 'en', ...others];
};

/** A composition as it is said in one of its languages. */
export const saidIn = (composition: Composition, language: Language): Composition => {
  const said: Said | undefined = composition.further[language];
  return said ? { ...composition, ...said } : composition;
};
