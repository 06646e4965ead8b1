'use client';
import { useState } from 'react';
import type { Problem } from '@/core/errors';
import type { ShownContact } from '@/core/shown';
import { REFER } from '@/core/words';
import { call } from '@/ui/studio/call';
import { instantIn } from '@/ui/studio/instant';
import { ProblemNote } from '@/ui/studio/problem-note';

type Props = { contact: ShownContact; zone: string; onEnded: () => void };

/** What was passed on of a contact so far; a link that still holds can be ended. */
export function Passed({ contact, zone, onEnded }: Props) {
  const [problem, setProblem] = useState<Problem | null>(null);
  if (contact.referrals.length === 0) return null;
  async function end(id: string) {
    const answer = await call(`/api/refer/${contact.id}/links/${id}`, { method: 'DELETE' });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) onEnded();
  }
  return (
    <section>
      <h2 className="caps">{REFER.log}</h2>
      <ProblemNote problem={problem} />
      <ul className="refer-log">
        {contact.referrals.map(({ id, way, at, lines, ends, holds, old }) => (
          <li key={id}>
            <time dateTime={at}>{instantIn(zone, at)}</time>
            <span>
              {REFER.last[way]}, {REFER.entry(lines)}
            </span>
            {old.length > 0 && <span className="attention">{REFER.carriesOld(old)}</span>}
            {ends &&
              (holds ? (
                <span>
                  {REFER.until(instantIn(zone, ends))}{' '}
                  <button type="button" className="plain" onClick={() => void end(id)}>
                    {REFER.end}
                  </button>
                </span>
              ) : (
                <span className="note">{REFER.ended}</span>
              ))}
          </li>
        ))}
      </ul>
    </section>
  );
}
