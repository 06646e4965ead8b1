import { LANGUAGE_NAMES, PUBLISH } from '@/core/messages';
import { shownValue, writtenName } from '@/core/record';
import { CHANNELS, type Channel } from './channels';
import type { ComposedLine, Composition } from './schema';

/** One difference between what is published and what would be: a sentence for the publisher. */
export type Change = { line: string; what: string };

const words = PUBLISH.changed;
const titleOf = (line: ComposedLine): string => line.label || shownValue(line.detail) || words.photo;

/** The same text for the same detail, whatever order a store gave its keys. */
const canonical = (detail: object): string =>
  JSON.stringify(Object.entries(detail).sort(([a], [b]) => (a < b ? -1 : 1)));

/** What publishing `now` would change against the revision `before`, on these channels. */
export function changesSince(before: Composition, now: Composition, channels: readonly Channel[] = CHANNELS): Change[] {
  const changes: Change[] = [];
  if (writtenName(before.name) !== writtenName(now.name))
    changes.push({ line: words.name, what: words.becomes(writtenName(now.name)) });
  if ((before.language ?? null) !== now.language)
    changes.push({
      line: words.language,
      what: now.language ? words.becomes(LANGUAGE_NAMES[now.language]) : words.followsDevice,
    });
  const earlier = new Map(before.lines.map((line) => [line.id, line]));
  const later = new Map(now.lines.map((line) => [line.id, line]));
  for (const line of now.lines) {
    const old = earlier.get(line.id);
    if (!old) {
      const on = line.on.filter((channel) => channels.includes(channel));
      if (on.length > 0) changes.push({ line: titleOf(line), what: words.newOn(on) });
      continue;
    }
    if (canonical(old.detail) !== canonical(line.detail)) changes.push({ line: titleOf(line), what: words.saysElse });
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
  const order = (composition: Composition, other: Map<string, ComposedLine>) =>
    composition.lines
      .filter((line) => other.has(line.id))
      .map((line) => line.id)
      .join();
  if (order(before, later) !== order(now, earlier)) changes.push({ line: words.order, what: words.isAnother });
  return changes;
}
