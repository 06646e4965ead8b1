import {
  linesOn,
  NAME_LINE,
  wordsOf,
  type Block,
  type Channel,
  type ComposedLine,
  type Composition,
} from '@/core/card';
import type { Content } from '@/core/code';
import { HOUSE_ID, type HouseStyle } from '@/core/house';
import { nameValue, normalised, recognised, valueShown, type Value, type ValueKind } from './value';

/**
 * Whose value it is: the card's, the house style's, one that was typed for a single piece, or one that is recognised inside another. Only the first
 * two can be out of date.
 */
export type Source = 'card' | 'house' | 'typed' | 'inside';

/** One value that a copy carries: the line that it came from, by its id, and itself, as it is compared and as it was. */
export type Carried = { line: string; kind: ValueKind; value: string; source: Source; label: string; detail: Value };

const isRead = ({ detail }: ComposedLine): boolean => detail.kind !== 'photo' && detail.kind !== 'logo';

const carry = (line: string, label: string, detail: Value, source: Source): Carried => ({
  ...{ line, kind: detail.kind, value: normalised(detail), source, label, detail },
});

const sourceOf = (id: string): Source => (id.startsWith(HOUSE_ID) ? 'house' : 'card');
const ofLine = ({ id, label, detail }: ComposedLine): Carried => carry(id, label, detail as Value, sourceOf(id));

const PHONE = { id: 'inside', label: '', preferred: false, uses: [] };

/** What has nothing inside: addresses of their own, and days and times, whose figures would read as numbers. */
const WHOLE = new Set<ValueKind>(['email', 'link', 'birthday', 'hours']);
/** So many values of a card are looked into. */
const MOST_LOOKED_INTO = 60;

/** Numbers and addresses that stand inside these values, and numbers without their extension, so that they are found. */
function inside(values: Carried[], country: string): Carried[] {
  const known = new Set(values.map(({ kind, value }) => `${kind} ${value}`));
  let looked = 0;
  return values.flatMap(({ line, label, detail }) => {
    const found =
      detail.kind === 'phone'
        ? detail.extension
          ? [{ kind: 'phone' as const, value: detail.number }]
          : []
        : WHOLE.has(detail.kind)
          ? []
          : (looked += 1) > MOST_LOOKED_INTO
            ? []
            : recognised(valueShown(detail), country);
    return found.flatMap(({ kind, value }) => {
      if (known.has(`${kind} ${value}`)) return [];
      known.add(`${kind} ${value}`);
      const own: Value = kind === 'phone' ? { ...PHONE, kind, number: value } : { ...PHONE, kind, address: value };
      return [{ line, kind, value, source: 'inside' as const, label, detail: own }];
    });
  });
}

const whole = (values: Carried[], country: string): Carried[] => {
  const read = values.filter(({ value }) => value !== '');
  return [...read, ...inside(read, country)];
};

/** What a copy on a channel carries of a composition, the house style in it: the name, and every line that is ticked for it, in the card's first language. */
export const carriedOn = (composition: Composition, channel: Channel, country: string): Carried[] =>
  whole(
    [carry(NAME_LINE, '', nameValue(composition), 'card'), ...linesOn(composition, channel).filter(isRead).map(ofLine)],
    country,
  );

/** What of a card a frozen code carries; nothing of one that is live, and of words, places and networks what is recognised inside. */
export function carriedInCode(content: Content, composition: Composition, country: string): Carried[] {
  if (content.what === 'contact') return carriedOn(composition, 'code', country);
  if ('line' in content) {
    const line = composition.lines.find(({ id }) => id === content.line);
    return line && isRead(line) ? whole([ofLine(line)], country) : [];
  }
  const typed = { id: 'typed', label: '', preferred: false };
  if (content.what === 'address')
    return whole([carry('', '', { ...typed, kind: 'link', url: content.url, uses: [] }, 'typed')], country);
  if (content.what === 'words')
    return whole([carry('', '', { ...typed, kind: 'note', text: content.text }, 'typed')], country);
  return [];
}

/** A value that is public now, with the channels that give it out. */
export type Published = Carried & { channels: Channel[] };

/** The texts of a block, as values in which something may stand. */
const wordsIn = (block: Block): Carried[] =>
  wordsOf(block).map(({ text }) => {
    const words: Value = { kind: 'note', id: block.id, label: block.title, preferred: false, text };
    return carry(block.id, block.title, words, 'card');
  });

/** What a card gives out of its own, in each of its languages, each value of a line once, and numbers and addresses within its words, those of blocks too. */
export function publishedBy(composition: Composition, country: string): Published[] {
  const found = new Map<string, Published>();
  const keep = (each: Carried, channels: Channel[]) =>
    found.set(`${each.line} ${each.kind} ${each.value}`, { ...each, channels });
  for (const said of [composition, ...Object.values(composition.further)]) {
    const on = new Map(said.lines.map(({ id, on }) => [id, on]));
    const values = [carry(NAME_LINE, '', nameValue(said), 'card'), ...said.lines.filter(isRead).map(ofLine)];
    for (const each of whole(values, country)) keep(each, on.get(each.line) ?? ['page', 'file']);
    // Blocks stand on the page alone; what is in words of theirs is looked for as in those of lines.
    for (const each of inside(said.blocks.flatMap(wordsIn), country)) keep(each, ['page']);
  }
  return [...found.values()];
}

/** What a house style or an office gives out on every card that shows its lines. */
export const publishedByHouse = ({ lines }: Pick<HouseStyle, 'lines'>, country: string): Published[] =>
  lines.flatMap(({ id, label, detail, page, file }) => {
    if ((!page && !file) || detail.kind === 'photo' || detail.kind === 'logo') return [];
    const channels: Channel[] = [
      ...(page ? (['page', 'signature', 'print', 'pass'] as const) : []),
      ...(file ? (['file', 'code', 'tag'] as const) : []),
    ];
    return whole([carry(id, label, detail, 'house')], country).map((each) => ({ ...each, channels }));
  });
