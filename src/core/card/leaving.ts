import { shownValue, type Detail } from '@/core/record';
import type { Channel } from './channels';
import { isWarned, type Privacy } from './privacy';
import type { Composition } from './schema';

/** A private detail that is about to go out: on these channels, and whether it was not given out so before. */
export type Leaving = { id: string; title: string; value: string; privacy: Privacy; on: Channel[]; isNew: boolean };

/** What is private and about to leave on these channels; what the revision before did not give out is new. */
export function leavingOf(
  composition: Composition,
  before: Composition | null,
  channels: readonly Channel[],
  privacyOfLine: (detail: Detail) => Privacy | null | undefined,
): Leaving[] {
  return composition.lines.flatMap(({ id, label, detail, on }) => {
    const privacy = privacyOfLine(detail);
    const leaves = on.filter((channel) => channels.includes(channel));
    if (!isWarned(privacy) || leaves.length === 0) return [];
    const was = before?.lines.find((line) => line.id === id);
    const value = shownValue(detail);
    const isNew = !was || shownValue(was.detail) !== value || leaves.some((channel) => !was.on.includes(channel));
    return [{ id, title: label, value, privacy, on: leaves, isNew }];
  });
}
