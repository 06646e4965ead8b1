'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Problem } from '@/core/errors';
import { LEADS } from '@/core/words';
import { call } from '@/ui/studio/call';
import { shortDayIn } from '@/ui/studio/instant';
import { ProblemNote } from '@/ui/studio/problem-note';

export type Due = { lead: string; id: string; name: string; due: string; what: string };

/** What is to be done today, ticked off where it stands; it comes back by being unticked on the lead's own screen. */
export function DueList({ due, today, zone }: { due: Due[]; today: string; zone: string }) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [done, setDone] = useState<ReadonlySet<string>>(new Set());
  async function tick({ lead, id, due: day, what }: Due) {
    setDone(new Set([...done, id]));
    const json = { act: 'follow up', followUp: id, due: day, what, done: true };
    const answer = await call(`/api/leads/${lead}`, { json });
    setProblem(answer.ok ? null : answer.problem);
    if (!answer.ok) setDone(new Set([...done].filter((each) => each !== id)));
    router.refresh();
  }
  return (
    <div className="due-list">
      <h2 className="caps">{LEADS.dueTitle}</h2>
      <ul>
        {due.map((each) => (
          <li key={each.id} className={done.has(each.id) ? 'nowhere' : undefined}>
            <label>
              <input
                type="checkbox"
                checked={done.has(each.id)}
                disabled={done.has(each.id)}
                aria-label={LEADS.doneOne(each.what, each.name)}
                onChange={() => void tick(each)}
              />{' '}
              {each.what}
            </label>
            <Link href={`/leads/${each.lead}`}>{each.name}</Link>
            <span className="note">
              {each.due === today ? LEADS.dueToday : LEADS.dueSince(shortDayIn(zone, `${each.due}T12:00:00Z`))}
            </span>
          </li>
        ))}
      </ul>
      <ProblemNote problem={problem} />
    </div>
  );
}
