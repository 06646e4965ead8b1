'use client';
import Link from 'next/link';
import type { ShownRun } from '@/core/roster';
import { ROSTER } from '@/core/words';
import { instantIn } from '@/ui/studio/instant';
import { NewRun } from './new-run';
import { Mappings } from './mappings';

type Props = {
  runs: ShownRun[];
  mappings: { id: string; name: string }[];
  pattern: { id: string; name: string } | null;
  today: string;
  zone: string;
};

/** Runs of sheets of staff, the latest first, and how a new one begins. */
export function Runs({ runs, mappings, pattern, today, zone }: Props) {
  const done = ({ counts }: ShownRun) => counts.reduce((sum, each) => sum + each.done - each.failed, 0);
  return (
    <>
      <header className="head">
        <div>
          <h1>{ROSTER.title}</h1>
        </div>
      </header>
      <div className="roster">
        <NewRun pattern={pattern} today={today} />
        <h2>{ROSTER.runs}</h2>
        {runs.length === 0 ? (
          <p className="nothing">{ROSTER.noneText}</p>
        ) : (
          <div className="wide" tabIndex={0} role="region" aria-label={ROSTER.runs}>
            <table className="rows">
              <thead>
                <tr>
                  <th>{ROSTER.column.run}</th>
                  <th>{ROSTER.column.state}</th>
                  <th className="num">{ROSTER.column.people}</th>
                  <th>{ROSTER.column.when}</th>
                  <th>{ROSTER.column.by}</th>
                </tr>
              </thead>
              <tbody>
                {runs.map((run) => (
                  <tr key={run.id}>
                    <td>
                      <Link href={`/roster/${run.id}`}>{run.name}</Link>
                    </td>
                    <td>{ROSTER.state[run.state]}</td>
                    <td className="num">{done(run)}</td>
                    <td>{instantIn(zone, run.created)}</td>
                    <td>{run.who}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
        <Mappings mappings={mappings} />
      </div>
    </>
  );
}
