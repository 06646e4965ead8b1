import { useCallback, useEffect, useRef, useState } from 'react';
import type { Problem } from '@/core/errors';
import type { ListedPerson, PeoplePage } from '@/core/shown';
import { call } from '@/ui/studio/call';
import { useStable } from '@/ui/studio/use-stable';

/** What is typed is asked for once the hand rests for so long. */
const REST_MS = 150;

const addressOf = (typed: string, more: Record<string, string>, narrowed: string) =>
  `/api/people?${new URLSearchParams({ q: typed, ...more }).toString()}${narrowed && `&${narrowed}`}`;

/** The list as it was asked for: what of it is here, and where it goes on. */
type Shown = { typed: string; people: ListedPerson[]; next: string | null; matching: number };

/**
 * The people of a list that may be too long to be here as a whole: whoever is found by what was typed, the first ones at once and those
 * after them when they are asked for. A list that is here as a whole is filtered here.
 */
export function usePeople(first: PeoplePage, typed: string, narrowed: string) {
  const [shown, setShown] = useState<Shown>({ typed: '', ...first });
  const [problem, setProblem] = useState<Problem | null>(null);
  const whole = first.next === null;
  // What the server tells anew, as after a change, takes the place of what was here.
  const [told, setTold] = useState(first);
  if (told !== first) {
    setTold(first);
    setShown({ typed: '', ...first });
  }
  const asking = useRef<string | null>(null);

  useEffect(() => {
    if (whole || typed === shown.typed) return;
    let current = true;
    const rest = setTimeout(() => {
      void call<PeoplePage>(addressOf(typed, {}, narrowed)).then((answer) => {
        if (!current) return;
        setProblem(answer.ok ? null : answer.problem);
        if (answer.ok) setShown({ typed, ...answer.value });
      });
    }, REST_MS);
    return () => {
      current = false;
      clearTimeout(rest);
    };
  }, [whole, typed, shown.typed, narrowed]);

  const more = useStable(() => {
    const { next } = shown;
    if (next === null || asking.current === next) return;
    asking.current = next;
    void call<PeoplePage>(addressOf(shown.typed, { after: next }, narrowed)).then((answer) => {
      if (asking.current === next) asking.current = null;
      setProblem(answer.ok ? null : answer.problem);
      if (!answer.ok) return;
      setShown((now) =>
        now.next === next ? { ...now, people: [...now.people, ...answer.value.people], next: answer.value.next } : now,
      );
    });
  });

  /** Everybody who is found, also those who are not here. */
  const everybody = useCallback(async (): Promise<string[] | null> => {
    const answer = await call<{ ids: string[] }>(addressOf(typed, { ids: '' }, narrowed));
    setProblem(answer.ok ? null : answer.problem);
    return answer.ok ? answer.value.ids : null;
  }, [typed, narrowed]);

  return { whole, shown, more: shown.next === null ? null : more, everybody, problem };
}
