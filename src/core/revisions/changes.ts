import { BLOCKS_WORDS, PUBLISH, RECORD } from '@/core/words';
import { languageName } from '@/core/language';
import { shownValue, writtenName } from '@/core/record';
import {
  CHANNELS,
  languagesAmong,
  same,
  type Channel,
  type Block,
  type ComposedLine,
  type Composition,
  type Said,
} from '@/core/card';

/** One difference between what is published and what would be: a sentence for the publisher. */
export type Change = { line: string; what: string };

/** A difference and what it is of: the id of a line or block, or a word of ours. */
type Found = Change & { of: string };

const words = PUBLISH.changed;
const titleOf = (line: ComposedLine): string => line.label || shownValue(line.detail) || words.photo;

/** What publishing `now` would change against the revision `before`, on these channels; what is the same in each language once. */
export function changesSince(before: Composition, now: Composition, channels: readonly Channel[] = CHANNELS): Change[] {
  const found = changesIn(before, now, channels);
  const changes: Change[] = found.map(({ line, what }) => ({ line, what }));
  const known = new Set(found.map(({ of, what }) => `${of} ${what}`));
  if ((before.language ?? null) !== now.language)
    changes.push({
      line: words.language,
      what: now.language ? words.becomes(languageName(now.language)) : words.followsDevice,
    });
  if (!same(before.look, now.look)) changes.push({ line: words.look, what: words.isAnother });
  if (!same(before.opens, now.opens)) changes.push({ line: words.opens, what: words.isAnother });
  for (const language of languagesAmong(before.further, now.further)) {
    const [was, is] = [before.further[language], now.further[language]];
    const line = languageName(language);
    if (was && is)
      changes.push(
        ...changesIn(was, is, channels)
          .filter(({ of, what }) => !known.has(`${of} ${what}`))
          .map((each) => ({ line: `${line}: ${each.line}`, what: each.what })),
      );
    else if (was || is) changes.push({ line, what: is ? words.alsoIn : words.noLongerIn });
  }
  return changes;
}

/** What changes in the blocks of a page. */
function blockChanges(before: Block[], now: Block[]): Found[] {
  const changes: Found[] = [];
  const nameOf = ({ title, kind }: Block) => title || BLOCKS_WORDS.kinds[kind];
  for (const block of now) {
    const was = before.find(({ id }) => id === block.id);
    if (!was) changes.push({ of: block.id, line: nameOf(block), what: words.isNew });
    else if (!same(was, block)) changes.push({ of: block.id, line: nameOf(block), what: words.saysElse });
  }
  for (const block of before)
    if (!now.some(({ id }) => id === block.id)) changes.push({ of: block.id, line: nameOf(block), what: words.isGone });
  const order = (blocks: Block[], other: Block[]) =>
    blocks.flatMap(({ id }) => (other.some((each) => each.id === id) ? [id] : [])).join();
  if (order(before, now) !== order(now, before))
    changes.push({ of: 'blocks', line: BLOCKS_WORDS.title, what: words.isAnother });
  return changes;
}

/** What changes in one language. */
function changesIn(before: Said, now: Said, channels: readonly Channel[]): Found[] {
  const changes: Found[] = [];
  if (writtenName(before.name) !== writtenName(now.name))
    changes.push({ of: 'name', line: words.name, what: words.becomes(writtenName(now.name)) });
  else if (before.name.kind !== now.name.kind)
    changes.push({ of: 'name', line: words.name, what: RECORD.stands[now.name.kind ?? 'individual'] });
  const earlier = new Map(before.lines.map((line) => [line.id, line]));
  const later = new Map(now.lines.map((line) => [line.id, line]));
  for (const line of now.lines) {
    const old = earlier.get(line.id);
    if (!old) {
      const on = line.on.filter((channel) => channels.includes(channel));
      if (on.length > 0) changes.push({ of: line.id, line: titleOf(line), what: words.newOn(on) });
      continue;
    }
    if (!same(old.detail, line.detail)) changes.push({ of: line.id, line: titleOf(line), what: words.saysElse });
    if (old.label !== line.label)
      changes.push({
        of: line.id,
        line: titleOf(line),
        what: old.label ? words.wasLabelled(old.label) : words.hasLabel,
      });
    if ((old.emphasis ?? 'plain') !== line.emphasis || (old.gap ?? false) !== line.gap)
      changes.push({ of: line.id, line: titleOf(line), what: words.looksElse });
    const added = line.on.filter((channel) => channels.includes(channel) && !old.on.includes(channel));
    const removed = old.on.filter((channel) => channels.includes(channel) && !line.on.includes(channel));
    if (added.length > 0) changes.push({ of: line.id, line: titleOf(line), what: words.alsoOn(added) });
    if (removed.length > 0) changes.push({ of: line.id, line: titleOf(line), what: words.noLongerOn(removed) });
  }
  for (const line of before.lines)
    if (!later.has(line.id)) changes.push({ of: line.id, line: titleOf(line), what: words.goesNowhere });
  const order = (composition: Said, other: Map<string, ComposedLine>) =>
    composition.lines
      .filter((line) => other.has(line.id))
      .map((line) => line.id)
      .join();
  if (order(before, later) !== order(now, earlier))
    changes.push({ of: 'order', line: words.order, what: words.isAnother });
  return [...changes, ...blockChanges(before.blocks, now.blocks)];
}
