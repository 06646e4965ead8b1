'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { OFFICE_SLOTS, officeLine, type Office } from '@/core/house';
import { hasEnded, type ShownJob } from '@/core/jobs';
import { shownValue } from '@/core/record';
import { OFFICES } from '@/core/words';
import { JobProgress } from '@/ui/company/job-progress';
import { useJob } from '@/ui/company/use-job';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { OfficeForm } from './office-form';

type Listed = Office & { people: number; copies: number; job: ShownJob | null };
type Props = { offices: Listed[]; country: string; zone: string };

/** Offices with what each gives to the cards of its people; one at a time is changed in its place. */
export function Offices({ offices, country, zone }: Props) {
  const router = useRouter();
  const [open, setOpen] = useState<string | null>(null);
  const [saved, setSaved] = useState<{ id: string; cards: number } | null>(null);
  function onSaved(done: { id: string; cards: number }) {
    setOpen(null);
    setSaved(done);
    router.refresh();
  }
  const form = (office: Listed | null) => (
    <OfficeForm
      key={office?.number ?? 0}
      office={office}
      copies={office?.copies ?? 0}
      {...{ country, zone, onSaved }}
      onCancel={() => setOpen(null)}
    />
  );
  return (
    <div className="company offices">
      <p className="finding">{offices.length === 0 ? OFFICES.none : OFFICES.text}</p>
      {offices.map((office) => (
        <section key={office.id} aria-labelledby={`office-${office.id}`}>
          <h2 id={`office-${office.id}`}>{office.name}</h2>
          {open === office.id ? (
            form(office)
          ) : (
            <OfficeShown
              office={office}
              note={saved?.id === office.id ? OFFICES.saved(saved.cards) : null}
              onChange={() => setOpen(office.id)}
              onRemoved={() => router.refresh()}
            />
          )}
        </section>
      ))}
      {open === 'new' ? (
        <section>{form(null)}</section>
      ) : (
        <p>
          <Button variant={offices.length === 0 ? 'primary' : 'quiet'} onClick={() => setOpen('new')}>
            {OFFICES.add}
          </Button>
        </p>
      )}
    </div>
  );
}

function OfficeShown({
  office: { id, name, number, lines, people, job },
  note,
  onChange,
  onRemoved,
}: {
  office: Listed;
  note: string | null;
  onChange: () => void;
  onRemoved: () => void;
}) {
  const [sure, setSure] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  async function remove() {
    const answer = await call(`/api/offices/${id}`, { method: 'DELETE' });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) onRemoved();
  }
  return (
    <>
      <dl>
        {OFFICE_SLOTS.flatMap((slot) => {
          const line = lines.find((each) => each.id === officeLine(slot));
          if (!line) return [];
          const places = [line.page ? OFFICES.onPage : '', line.file ? OFFICES.onFile : ''].filter(Boolean);
          return (
            <div key={slot}>
              <dt>{OFFICES.slot[slot]}</dt>
              <dd>
                {shownValue(line.detail)} <small>{places.join(', ')}</small>
              </dd>
            </div>
          );
        })}
      </dl>
      <p className="sub">
        <Link href={`/people?office=${id}`} aria-label={OFFICES.peopleOf(name, people)}>
          {OFFICES.people(people)}
        </Link>
        <span>{OFFICES.version(number)}</span>
        <button type="button" className="plain" aria-label={OFFICES.changeOf(name)} onClick={onChange}>
          {OFFICES.change}
        </button>
        {sure ? (
          <>
            <span>{OFFICES.sure(name, people)}</span>
            <button type="button" className="plain danger" onClick={() => void remove()}>
              {OFFICES.remove}
            </button>
            <button type="button" className="plain" onClick={() => setSure(false)}>
              {OFFICES.keepIt}
            </button>
          </>
        ) : (
          <button type="button" className="plain" aria-label={OFFICES.removeOf(name)} onClick={() => setSure(true)}>
            {OFFICES.remove}
          </button>
        )}
      </p>
      <div aria-live="polite">
        {note && <p className="good">{note}</p>}
        {job && <ProofsOf key={job.id} job={job} />}
      </div>
      <ProblemNote problem={problem} />
    </>
  );
}

/** How far the proofs of an office’s cards are. */
function ProofsOf({ job: first }: { job: ShownJob }) {
  const job = useJob(first);
  return hasEnded(job.state) && job.state === 'done' ? (
    <p className="sub">
      {OFFICES.proven(job.done)}{' '}
      {(job.result?.failing ?? 0) > 0 && (
        <Link className="attention" href="/company/house-style">
          {OFFICES.failing(job.result!.failing!)}
        </Link>
      )}
    </p>
  ) : (
    <JobProgress job={job} />
  );
}
