import type { Problem, Result } from '@/core/errors';

/**
 * Keeps what somebody changes, one save after the other: changes that come while one is under way go together with the next, each part with its latest
 * value. `send` puts a change over what the server has; what it refuses is told once, and what the server has is shown again.
 */
export function createKeeper<Kept, Change extends object>(
  first: Kept,
  send: (kept: Kept, change: Partial<Change>) => Promise<Result<Kept>>,
  tell: (told: { kept: Kept; problem: Problem | null; waiting: boolean }) => void,
) {
  let kept = first;
  let waiting: Partial<Change> | null = null;
  let busy = false;

  async function flush(): Promise<void> {
    if (busy) return;
    busy = true;
    while (waiting) {
      const change: Partial<Change> = waiting;
      waiting = null;
      const answer = await send(kept, change);
      if (answer.ok) kept = answer.value;
      tell({ kept, problem: answer.ok ? null : answer.problem, waiting: waiting !== null });
    }
    busy = false;
  }
  return {
    save(change: Partial<Change>): void {
      waiting = { ...waiting, ...change };
      void flush();
    },
    /** What the server was asked for anew; not while something of one's own is under way. Answers whether it was taken. */
    take(fresh: Kept): boolean {
      if (busy || waiting) return false;
      kept = fresh;
      return true;
    },
  };
}
