'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Problem } from '@/core/errors';
import { FRAME, ROSTER } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

/** The mappings that were kept, by name. */
export function Mappings({ mappings }: { mappings: { id: string; name: string }[] }) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  if (mappings.length === 0) return null;
  return (
    <>
      <h2 className="caps">{ROSTER.mappings}</h2>
      <ul className="kept-mappings">
        {mappings.map(({ id, name }) => (
          <li key={id}>
            {name}{' '}
            <button
              type="button"
              className="plain"
              aria-label={ROSTER.forget(name)}
              onClick={() =>
                void call(`/api/roster/mappings/${id}`, { method: 'DELETE' }).then((answer) => {
                  setProblem(answer.ok ? null : answer.problem);
                  router.refresh();
                })
              }
            >
              {FRAME.remove}
            </button>
          </li>
        ))}
      </ul>
      <ProblemNote problem={problem} />
    </>
  );
}
