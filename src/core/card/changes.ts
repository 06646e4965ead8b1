import { BLOCKS_WORDS, LANGUAGE_NAMES, LANGUAGES, PUBLISH } from '@/core/messages';
import { shownValue, writtenName } from '@/core/record';
import { CHANNELS, type Channel } from './channels';
import type { Block } from './blocks';
import { same } from './same';
import type { ComposedLine, Composition, Said } from './schema';

/** One difference between what is published and what would be: a sentence for the publisher. */
export type Change = { line: string; what: string };

const words = PUBLISH.changed;
const titleOf = (line: ComposedLine): string => line.label || shownValue(line.detail) || words.photo;

/** What publishing `now` would change against the revision `before`, on these channels. */
export function changesSince(before: Composition, now: Composition, channels: readonly Channel[] = CHANNELS): Change[] {
  const changes = changesIn(before, now, channels);
  if ((before.language ?? null) !== now.language)
    changes.push({
      line: words.language,
      what: now.language ? words.becomes(LANGUAGE_NAMES[now.language]) : words.followsDevice,
    });
  if (!same(before.look, now.look)) changes.push({ line: words.look, what: words.isAnother });
  if (!same(before.opens, now.opens)) changes.push({ line: words.opens, what: words.isAnother });
  for (const language of LANGUAGES) {
    const [was, is] = [before.further[language], now.further[language]];
    const line = LANGUAGE_NAMES[language];
    if (was && is)
      changes.push(...changesIn(was, is, channels).map((each) => ({ ...each, line: `${line}: ${each.line}` })));
    else if (was || is) changes.push({ line, what: is ? words.alsoIn : words.noLongerIn });
  }
  return changes;
}

/** What changes in the blocks of a page. */
function blockChanges(before: Block[], now: Block[]): Change[] {
  const changes: Change[] = [];
  const nameOf = ({ title, kind }: Block) => title || BLOCKS_WORDS.kinds[kind];
  for (const block of now) {
    const was = before.find(({ id }) => id === block.id);
    if (!was) changes.push({ line: nameOf(block), what: words.isNew });
    else if (!same(was, block)) changes.push({ line: nameOf(block), what: words.saysElse });
  }
  for (const block of before)
    if (!now.some(({ id }) => id === block.id)) changes.push({ line: nameOf(block), what: words.isGone });
  const order = (blocks: Block[], other: Block[]) =>
    blocks.flatMap(({ id }) => (other.some((each) => each.id === id) ? [id] : [])).join();
  if (order(before, now) !== order(now, before)) changes.push({ line: BLOCKS_WORDS.title, what: words.isAnother });
  return changes;
}

/** What changes in one language. */
function changesIn(before: Said, now: Said, channels: readonly Channel[]): Change[] {
  const changes: Change[] = [];
  if (writtenName(before.name) !== writtenName(now.name))
    changes.push({ line: words.name, what: words.becomes(writtenName(now.name)) });
  const earlier = new Map(before.lines.map((line) => [line.id, line]));
  const later = new Map(now.lines.map((line) => [line.id, line]));
  for (const line of now.lines) {
    const old = earlier.get(line.id);
    if (!old) {
      const on = line.on.filter((channel) => channels.includes(channel));
      if (on.length > 0) changes.push({ line: titleOf(line), what: words.newOn(on) });
      continue;
    }
    if (!same(old.detail, line.detail)) changes.push({ line: titleOf(line), what: words.saysElse });
    if (old.label !== line.label)
      changes.push({ line: titleOf(line), what: old.label ? words.wasLabelled(old.label) : words.hasLabel });
    if ((old.emphasis ?? 'plain') !== line.emphasis || (old.gap ?? false) !== line.gap)
      changes.push({ line: titleOf(line), what: words.looksElse });
    const added = line.on.filter((channel) => channels.includes(channel) && !old.on.includes(channel));
    const removed = old.on.filter((channel) => channels.includes(channel) && !line.on.includes(channel));
    if (added.length > 0) changes.push({ line: titleOf(line), what: words.alsoOn(added) });
    if (removed.length > 0) changes.push({ line: titleOf(line), what: words.noLongerOn(removed) });
  }
  for (const line of before.lines)
    if (!later.has(line.id)) changes.push({ line: titleOf(line), what: words.goesNowhere });
  const order = (composition: Said, other: Map<string, ComposedLine>) =>
    composition.lines
      .filter((line) => other.has(line.id))
      .map((line) => line.id)
      .join();
  if (order(before, later) !== order(now, earlier)) changes.push({ line: words.order, what: words.isAnother });
  return [...changes, ...blockChanges(before.blocks, now.blocks)];
}
