import { useMemo } from 'react';
import type { Composition } from '@/core/card';
import { changesSince, type Change } from '@/core/revisions';
import type { Result } from '@/core/errors';
import type { CardOnTable } from '@/ui/card/card-on-table';

const NONE: Change[] = [];

/** What publishing a draft would change, and how much of it came after a plan was made. */
export function useChanges(
  { revision, plan, channels }: CardOnTable,
  composed: Result<Composition>,
): { changes: Change[]; notPlanned: number } {
  return useMemo(() => {
    const since = (before: Composition | null | undefined) =>
      before && composed.ok ? changesSince(before, composed.value, channels) : NONE;
    return { changes: since(revision?.composition), notPlanned: since(plan?.composition).length };
  }, [composed, revision, plan, channels]);
}
