import type { Channel, Composition } from '@/core/card';
import { contactProperties } from './from-card';
import { property } from './property';
import { writeVcard } from './serialise';

/** Properties that a copy in a code or tag does without: they help an address book to renew a contact, and cost room. */
const SPARED = new Set(['prodid', 'uid', 'rev', 'source', 'x-ablabel']);

/**
 * The contact that a frozen code or tag carries, as vCard 3.0, which phones' cameras take (common practice, no published
 * source): the lines ticked for that channel, no picture, nothing that is not needed. `link` leads to the living card, so that a stale copy
 * still does.
 */
export function writeFrozenContact(
  composition: Composition,
  channel: Extract<Channel, 'code' | 'tag'>,
  { link = null, version = '3.0' }: { link?: string | null; version?: '3.0' | '4.0' } = {},
): string {
  const lines = composition.lines.map((line) => ({
    ...line,
    on: line.on.includes(channel) ? (['file'] as Channel[]) : [],
  }));
  const { properties } = contactProperties(
    { ...composition, lines, further: {} },
    { version, uid: '', revised: '', source: null, photo: null },
  );
  const carried = properties.filter(({ name }) => !SPARED.has(name)).map((each) => ({ ...each, group: '' }));
  return writeVcard(link ? [...carried, property('url', link)] : carried, version);
}

/** Bytes (UTF-8) that each ticked line adds to a frozen contact, by the line's id, and those of the whole. */
export function frozenCosts(
  composition: Composition,
  channel: Extract<Channel, 'code' | 'tag'>,
): { total: number; lines: Map<string, number> } {
  const bytes = (lines: Composition['lines']) =>
    new TextEncoder().encode(writeFrozenContact({ ...composition, lines }, channel)).length;
  const total = bytes(composition.lines);
  const ticked = composition.lines.filter(({ on }) => on.includes(channel));
  return {
    total,
    lines: new Map(ticked.map((line) => [line.id, total - bytes(composition.lines.filter((each) => each !== line))])),
  };
}
