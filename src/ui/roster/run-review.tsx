'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { hasEnded, type ShownJob } from '@/core/jobs';
import {
  VERDICTS,
  type RunOptions,
  type ShownPicture,
  type ShownRow,
  type ShownRun,
  type Verdict,
} from '@/core/roster';
import { ROSTER } from '@/core/words';
import { JobProgress } from '@/ui/company/job-progress';
import { useJob } from '@/ui/company/use-job';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { CropDialog } from './crop-dialog';
import { MendMany } from './mend-many';
import { RosterRowView, type RowActs } from './roster-row';
import { RunOptionsForm } from './run-options';
import { RunPictures } from './run-pictures';
import { UndoDialog } from './undo-dialog';

type Props = {
  run: ShownRun;
  rows: ShownRow[];
  next: number | null;
  pictures: ShownPicture[];
  job: ShownJob | null;
  show: Verdict | null;
  words: string;
  teams: { id: string; name: string }[];
};

const TAKEN_TOGETHER = new Set<Verdict>(['new', 'changed', 'leaving']);

/** A run of a sheet: its review, how it goes on, and what came of each row. */
export function RunReview({ run, rows, next, pictures, job, show, words, teams }: Props) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [told, setTold] = useState('');
  const [busy, setBusy] = useState(false);
  const [asking, setAsking] = useState(false);
  const [cropping, setCropping] = useState<ShownPicture | null>(null);
  const path = `/api/roster/${run.id}`;
  const base = `/roster/${run.id}`;
  const of = (verdict: Verdict) => run.counts.find((each) => each.verdict === verdict);
  const sum = (key: 'found' | 'chosen' | 'done' | 'failed' | 'undone') =>
    run.counts.reduce((total, each) => total + each[key], 0);
  const found = Object.fromEntries(VERDICTS.map((verdict) => [verdict, of(verdict)?.found ?? 0])) as Record<
    Verdict,
    number
  >;
  const working = run.state === 'reading' || run.state === 'running' || run.state === 'undoing';
  const underWay = working && job !== null && !hasEnded(job.state);
  const open = (run.state === 'ready' || run.state === 'done') && !underWay && !run.forgotten;
  const waiting = sum('chosen') - run.counts.reduce((total, each) => total + Math.min(each.done, each.chosen), 0);

  async function act(what: () => Promise<{ ok: true } | { ok: false; problem: Problem }>) {
    setBusy(true);
    const answer = await what();
    setBusy(false);
    setProblem(answer.ok ? null : answer.problem);
    router.refresh();
    return answer.ok ? null : answer.problem;
  }
  const acts: RowActs = {
    onMend: async (ats, field, find, text) => {
      const answer = await call<{ changed: number }>(`${path}/rows`, {
        method: 'PUT',
        json: { rows: ats, field, find, text },
      });
      if (answer.ok) setTold(ROSTER.mended(answer.value.changed));
      return act(() => Promise.resolve(answer));
    },
    onDecide: (at, decided) => void act(() => call(`${path}/rows/${at}`, { method: 'PUT', json: decided })),
  };
  const setOptions = (options: RunOptions) => void act(() => call(path, { method: 'PUT', json: options }));
  const correctable = rows
    .filter(({ cells, outcome }) => Object.keys(cells).length > 0 && outcome === null)
    .map(({ at }) => at);
  const byName = new Map(pictures.map((each) => [each.name, each]));
  const finding =
    run.state === 'undone'
      ? ROSTER.undoneFinding(sum('undone'), sum('done') - sum('failed') - sum('undone'))
      : run.state === 'done'
        ? ROSTER.doneFinding(sum('done') - sum('failed'), sum('failed'))
        : ROSTER.finding(found);
  return (
    <>
      <header className="head">
        <div>
          <h1>{run.name}</h1>
          <p className="sub">
            <span>{ROSTER.state[run.state]}</span>
            {run.pattern && (
              <Link href={`/cards/${run.pattern.id}`}>
                {ROSTER.pattern} {run.pattern.person} · {run.pattern.audience}
              </Link>
            )}
            <Link href="/roster">{ROSTER.runs}</Link>
            {sum('done') > 0 && run.state === 'done' && <Link href={`/people?run=${run.id}`}>{ROSTER.made}</Link>}
          </p>
        </div>
        <div className="acts">
          {open && waiting > 0 && (
            <Button
              disabled={busy}
              onClick={() => {
                setTold('');
                void act(() => call(`${path}/run`, { method: 'POST' }));
              }}
            >
              {sum('done') > 0 ? ROSTER.goOn(waiting) : ROSTER.carryOut(waiting)}
            </Button>
          )}
          {(run.state === 'done' || (run.state === 'ready' && sum('done') > 0)) && !run.forgotten && !underWay && (
            <Button variant="quiet" disabled={busy} title={ROSTER.undoNote} onClick={() => setAsking(true)}>
              {ROSTER.undo}
            </Button>
          )}
          {run.state === 'ready' && sum('done') === 0 && (
            <Button
              variant="quiet"
              disabled={busy}
              onClick={() =>
                void call(path, { method: 'DELETE' }).then((answer) =>
                  answer.ok ? router.push('/roster') : setProblem(answer.problem),
                )
              }
            >
              {ROSTER.drop}
            </Button>
          )}
        </div>
      </header>
      {asking && (
        <UndoDialog
          onUndo={() => {
            setAsking(false);
            void act(() => call(`${path}/undo`, { method: 'POST' }));
          }}
          onClose={() => setAsking(false)}
        />
      )}
      {cropping && (
        <CropDialog
          run={run.id}
          picture={cropping}
          onClose={() => {
            setCropping(null);
            router.refresh();
          }}
        />
      )}
      <div className="roster">
        {underWay && job ? <Working first={job} /> : <p className="finding">{finding}</p>}
        {run.forgotten && <p className="note">{ROSTER.forgotten}</p>}
        <ProblemNote problem={problem} />
        <p role="status" className="note">
          {told}
        </p>
        {run.state === 'ready' && !underWay && (
          <div className="run-sides">
            <RunOptionsForm options={run.options} teams={teams} disabled={busy} onOptions={setOptions} />
            <RunPictures run={run.id} open={open} onChange={() => router.refresh()} />
          </div>
        )}
        <nav className="turns" aria-label={ROSTER.column.state}>
          <Link href={base} className={show === null ? 'on' : ''} aria-current={show === null ? 'page' : undefined}>
            {ROSTER.every} <span className="num">{sum('found')}</span>
          </Link>
          {VERDICTS.filter((verdict) => found[verdict] > 0).map((verdict) => (
            <Link
              key={verdict}
              href={`${base}?show=${verdict}`}
              className={verdict === show ? 'on' : ''}
              aria-current={verdict === show ? 'page' : undefined}
            >
              {ROSTER.verdict[verdict]} <span className="num">{found[verdict]}</span>
            </Link>
          ))}
        </nav>
        <div className="run-tools">
          <Form action={base} role="search">
            {show && <input type="hidden" name="show" value={show} />}
            <Form.Control
              type="search"
              size="sm"
              name="q"
              defaultValue={words}
              aria-label={ROSTER.find}
              placeholder={ROSTER.find}
              data-filter
            />
          </Form>
          {open && show && TAKEN_TOGETHER.has(show) && (
            <>
              {[true, false].map((take) => (
                <button
                  key={String(take)}
                  type="button"
                  className="plain"
                  onClick={() =>
                    void act(() => call(`${path}/choices`, { method: 'PUT', json: { verdict: show, take } }))
                  }
                >
                  {take ? ROSTER.takeEvery : ROSTER.takeNone}
                </button>
              ))}
            </>
          )}
          <a className="btn btn-quiet btn-sm" href={`${path}/table/xlsx`} download>
            {ROSTER.download}
          </a>
        </div>
        {open && correctable.length > 0 && (
          <MendMany fields={run.columns.flatMap(({ field }) => field ?? [])} rows={correctable} onMend={acts.onMend} />
        )}
        <div className="wide" tabIndex={0} role="region" aria-label={run.name}>
          <table className="rows staff">
            <thead>
              <tr>
                <th>{ROSTER.take}</th>
                <th className="num">{ROSTER.row}</th>
                <th>{ROSTER.person}</th>
                <th>{ROSTER.column.state}</th>
                <th>{ROSTER.what}</th>
                <th>
                  <span className="visually-hidden">{ROSTER.column.acts}</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {rows.map((row) => (
                <RosterRowView
                  key={row.at}
                  row={row}
                  open={open}
                  picture={row.picture ? (byName.get(row.picture) ?? null) : null}
                  onCrop={setCropping}
                  {...acts}
                />
              ))}
            </tbody>
          </table>
        </div>
        {next !== null && (
          <p>
            <Link
              href={`${base}?${new URLSearchParams({ ...(show ? { show } : {}), ...(words ? { q: words } : {}), from: String(next) }).toString()}`}
            >
              {ROSTER.nextRows}
            </Link>
          </p>
        )}
      </div>
    </>
  );
}

/** The job on this run, followed until it has ended; then the page shows what came of it. */
function Working({ first }: { first: ShownJob }) {
  const router = useRouter();
  const job = useJob(first);
  const ended = hasEnded(job.state);
  useEffect(() => {
    if (ended) router.refresh();
  }, [ended, router]);
  return <JobProgress job={job} />;
}
