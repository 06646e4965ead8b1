'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { Button } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { VERDICTS, type OpenedImport, type ShownEntry, type Verdict } from '@/core/imports';
import { hasEnded, type ShownJob } from '@/core/jobs';
import { FRAME, IMPORT, WARNING_WORDS } from '@/core/words';
import type { Warning } from '@/core/vcard';
import { JobProgress } from '@/ui/company/job-progress';
import { useJob } from '@/ui/company/use-job';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { ImportEntry } from './import-entry';

type ReviewProps = { opened: OpenedImport; job: ShownJob | null; show: Verdict | null };

/** The review of a contact file: what is new, what differs from whom, line by line, before anything comes in. */
export function ImportReview({ opened, job, show }: ReviewProps) {
  const { state } = opened;
  const working = state === 'reading' || state === 'taking' || state === 'undoing';
  return (
    <>
      <header className="head">
        <div>
          <h1>{IMPORT.title(opened.fileName)}</h1>
        </div>
      </header>
      {working && job && !hasEnded(job.state) ? (
        <Working first={job} text={IMPORT[state]} />
      ) : state === 'failed' || (state === 'reading' && opened.entries.length === 0) ? (
        <section className="first">
          <p className="finding">{IMPORT.failed}</p>
          {job && <JobProgress job={job} />}
          <p>
            <Link href="/people">{FRAME.toPeople}</Link>
          </p>
        </section>
      ) : (
        <Review opened={opened} job={job} show={show} />
      )}
    </>
  );
}

/** A job on this import, followed until it has ended; then the page shows what came of it. */
function Working({ first, text }: { first: ShownJob; text: string }) {
  const router = useRouter();
  const job = useJob(first);
  const ended = hasEnded(job.state);
  useEffect(() => {
    if (ended) router.refresh();
  }, [ended, router]);
  return (
    <section className="first">
      <p className="finding">{text}</p>
      <JobProgress job={job} />
    </section>
  );
}

function Review({ opened, show }: ReviewProps) {
  const router = useRouter();
  const [entries, setEntries] = useState(opened.entries);
  const [counts, setCounts] = useState(opened.counts);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const of = (verdict: string) => counts.find((each) => each.verdict === verdict);
  const sum = (key: 'found' | 'chosen' | 'made' | 'undone') => counts.reduce((total, each) => total + each[key], 0);
  const ready = opened.state === 'ready';
  const base = `/imports/${opened.id}`;

  async function choose(entry: ShownEntry, change: { take?: boolean; chosen?: string[] }) {
    const before = { entries, counts };
    setEntries(
      entries.map((each) =>
        each.at !== entry.at
          ? each
          : {
              ...each,
              take: change.take ?? each.take,
              differences: each.differences.map((line) => ({
                ...line,
                chosen: change.chosen ? change.chosen.includes(line.key) : line.chosen,
              })),
            },
      ),
    );
    if (change.take !== undefined && change.take !== entry.take)
      setCounts(
        counts.map((each) =>
          each.verdict === entry.verdict ? { ...each, chosen: each.chosen + (change.take ? 1 : -1) } : each,
        ),
      );
    const answer = await call(`/api/imports/${opened.id}/entries/${entry.at}`, { method: 'PUT', json: change });
    if (answer.ok) return setProblem(null);
    setEntries(before.entries);
    setCounts(before.counts);
    setProblem(answer.problem);
  }

  async function chooseAll(take: boolean) {
    if (!show) return;
    const json = { verdict: show, take };
    const answer = await call(`/api/imports/${opened.id}/choices`, { method: 'PUT', json });
    if (!answer.ok) return setProblem(answer.problem);
    setEntries(entries.map((each) => ({ ...each, take })));
    setCounts(counts.map((each) => (each.verdict === show ? { ...each, chosen: take ? each.found : 0 } : each)));
  }

  async function act(what: 'take' | 'undo') {
    setBusy(true);
    const answer = await call(`/api/imports/${opened.id}/${what}`, { method: 'POST' });
    setBusy(false);
    if (!answer.ok) return setProblem(answer.problem);
    router.refresh();
  }

  const changed = of('differs')?.made ?? 0;
  const made = sum('made') - changed;
  return (
    <section className="contacts">
      <div className="review-head">
        <p className="finding">
          {opened.state === 'undone'
            ? IMPORT.undone(sum('undone'), sum('made') - sum('undone'))
            : ready
              ? IMPORT.finding(
                  sum('found'),
                  of('new')?.found ?? 0,
                  of('differs')?.found ?? 0,
                  (of('same')?.found ?? 0) + (of('twice')?.found ?? 0),
                )
              : IMPORT.done(made, changed)}
        </p>
        {ready && (
          <Button onClick={() => act('take')} disabled={busy || sum('chosen') === 0}>
            {IMPORT.take(sum('chosen'))}
          </Button>
        )}
        {!ready && opened.state !== 'undone' && sum('made') > 0 && (
          <Button variant="quiet" onClick={() => act('undo')} disabled={busy} title={IMPORT.undoNote}>
            {IMPORT.undo}
          </Button>
        )}
      </div>
      <ProblemNote problem={problem} />
      <nav className="turns" aria-label={IMPORT.show}>
        <Link href={base} className={show === null ? 'on' : ''} aria-current={show === null ? 'page' : undefined}>
          {IMPORT.all} <span className="num">{sum('found')}</span>
        </Link>
        {VERDICTS.filter((verdict) => of(verdict)).map((verdict) => (
          <Link
            key={verdict}
            href={`${base}?show=${verdict}`}
            className={verdict === show ? 'on' : ''}
            aria-current={verdict === show ? 'page' : undefined}
          >
            {IMPORT.verdict[verdict]} <span className="num">{of(verdict)?.found}</span>
          </Link>
        ))}
      </nav>
      <Warnings warnings={opened.warnings} />
      {ready && show && (
        <p className="small">
          <button type="button" className="plain" onClick={() => chooseAll(true)}>
            {IMPORT.tickAll}
          </button>{' '}
          <button type="button" className="plain" onClick={() => chooseAll(false)}>
            {IMPORT.untickAll}
          </button>
        </p>
      )}
      <div className="wide" tabIndex={0} role="region" aria-label={IMPORT.page}>
        <table className="rows review">
          <thead>
            <tr>
              <th>{IMPORT.column.take}</th>
              <th>{IMPORT.column.contact}</th>
              <th>{IMPORT.column.verdict}</th>
              <th>{IMPORT.column.lines}</th>
            </tr>
          </thead>
          <tbody>
            {entries.map((entry) => (
              <ImportEntry
                key={entry.at}
                entry={entry}
                open={ready}
                onChoose={(change) => void choose(entry, change)}
              />
            ))}
          </tbody>
        </table>
      </div>
      <p>
        {opened.next !== null && (
          <Link href={`${base}?${show ? `show=${show}&` : ''}from=${opened.next}`}>{IMPORT.next}</Link>
        )}{' '}
        {opened.entries[0] && opened.entries[0].at > 0 && opened.next === null && sum('found') > 100 && (
          <Link href={show ? `${base}?show=${show}` : base}>{IMPORT.previous}</Link>
        )}
      </p>
    </section>
  );
}

function Warnings({ warnings }: { warnings: Warning[] }) {
  if (warnings.length === 0) return null;
  return (
    <details className="outside">
      <summary>{IMPORT.outside}</summary>
      <ul>
        {warnings.map(({ code, line }, index) => (
          <li key={index}>{IMPORT.atLine(line, WARNING_WORDS[code])}</li>
        ))}
      </ul>
    </details>
  );
}
