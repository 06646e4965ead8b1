'use client';
import Link from 'next/link';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { firstChoice, type Difference } from '@/core/record';
import type { ShownLead } from '@/core/replies';
import { LEADS } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import type { Act } from './act';

type Comparing = { other: string; name: string; differences: Difference[] };

/** Other leads that may be the same person: compared line by line, made one, and taken apart again. */
export function Doubles({ lead, act }: { lead: ShownLead; act: Act }) {
  const [comparing, setComparing] = useState<Comparing | null>(null);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [problem, setProblem] = useState<Problem | null>(null);
  async function compare(other: string, name: string) {
    const json = { act: 'compare', other };
    const answer = await call<{ differences: Difference[] }>(`/api/leads/${lead.id}`, { json });
    setProblem(answer.ok ? null : answer.problem);
    if (!answer.ok) return;
    setComparing({ other, name, differences: answer.value.differences });
    setChosen(new Set(firstChoice(answer.value.differences)));
  }
  return (
    <>
      {lead.merged && (
        <p className="finding">
          {LEADS.merged(lead.merged.name)}{' '}
          <button
            type="button"
            className="plain"
            onClick={() => void act({ act: 'undo merge', merge: lead.merged!.id })}
          >
            {LEADS.undoMerge}
          </button>
        </p>
      )}
      {lead.doubles.length > 0 && (
        <div className="lead-doubles">
          <h2 className="caps">{LEADS.doubles}</h2>
          <ul>
            {lead.doubles.map(({ id, name, private: hidden }) => (
              <li key={id}>
                <Link href={`/leads/${id}`}>{name}</Link>
                {hidden && <small>{LEADS.private}</small>}
                <Button size="sm" variant="quiet" onClick={() => void compare(id, name)}>
                  {LEADS.compare}
                </Button>
              </li>
            ))}
          </ul>
          <ProblemNote problem={problem} />
        </div>
      )}
      {comparing && (
        <div className="lead-compare" role="group" aria-label={LEADS.mergeTitle(comparing.name)}>
          <h2 className="caps">{LEADS.mergeTitle(comparing.name)}</h2>
          {comparing.differences.length === 0 && <p className="note">{LEADS.mergeNothing}</p>}
          <ul>
            {comparing.differences.map(({ key, label, would, now, kind }) => (
              <li key={key}>
                <label>
                  <input
                    type="checkbox"
                    checked={chosen.has(key)}
                    aria-label={LEADS.mergeTake(label || would)}
                    onChange={({ target }) =>
                      setChosen(new Set(target.checked ? [...chosen, key] : [...chosen].filter((each) => each !== key)))
                    }
                  />{' '}
                  <b>{label}</b> {would}
                </label>
                <small>{kind === 'adds' ? LEADS.adds : LEADS.instead(now ?? '')}</small>
              </li>
            ))}
          </ul>
          <Button
            size="sm"
            onClick={() =>
              void act({ act: 'merge', other: comparing.other, chosen: [...chosen] }).then(
                (wrong) => !wrong && setComparing(null),
              )
            }
          >
            {LEADS.merge}
          </Button>
        </div>
      )}
    </>
  );
}
