'use client';
import Link from 'next/link';
import { useState, type FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { sizeOf } from '@/core/print';
import type { ShownPiece, ShownRun } from '@/core/shown';
import { PAPER } from '@/core/words';
import { shortDayIn } from '@/ui/studio/instant';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { DesignerLinks } from './designer-links';

type Props = { shown: ShownPiece; today: string; onRuns: (runs: ShownRun[]) => void };

/** The file of a piece, and what was printed of it. What the draft says otherwise by now is asked about first. */
export function PaperUse({ shown, today, onRuns }: Props) {
  const [asking, setAsking] = useState<'outdated' | 'run' | ShownRun | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const { proof, runs, id, revision, unpublished, bytes } = shown;
  const designed = shown.artworks !== null && shown.piece.ground === 'artwork';
  async function remove(run: ShownRun) {
    const answer = await call<{ runs: ShownRun[] }>(`/api/hand-outs/${id}/print/${run.id}`, { method: 'DELETE' });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) onRuns(answer.value.runs);
  }
  return (
    <div className="paper-use">
      <p className="caps">{PAPER.use}</p>
      <Button disabled={!proof.passed} onClick={() => setAsking(unpublished ? 'outdated' : 'run')}>
        {PAPER.download}
      </Button>
      <p className="note">{proof.passed ? (designed ? PAPER.designNote : PAPER.fileNote)(bytes) : PAPER.failed}</p>
      {proof.passed && <SideLinks id={id} sides={shown.back === null ? FRONT : BOTH} />}
      {unpublished && (
        <p className="attention">
          {PAPER.outdated} <Link href={`/cards/${shown.cardId}`}>{PAPER.publishFirst}</Link>
        </p>
      )}
      <p className="caps">{PAPER.runs}</p>
      {runs.length === 0 && <p className="note">{PAPER.noRuns}</p>}
      <ul className="paper-runs">
        {runs.map((run) => (
          <li key={run.id}>
            <time dateTime={run.printedOn}>{shortDayIn('UTC', run.printedOn)}</time>
            <span>
              {PAPER.told(run.copies, run.revision)}
              {run.place && <span className="note"> · {run.place}</span>}
              {run.revision < revision && <span className="attention"> {PAPER.older}</span>}
            </span>
            <button
              type="button"
              className="plain"
              aria-label={PAPER.edit(run.printedOn)}
              onClick={() => setAsking(run)}
            >
              ✎
            </button>
            <button
              type="button"
              className="plain"
              aria-label={PAPER.remove(run.printedOn)}
              onClick={() => void remove(run)}
            >
              ✕
            </button>
          </li>
        ))}
      </ul>
      <ProblemNote problem={problem} />
      <DesignerLinks id={id} first={shown.links} />
      <Modal
        show={asking === 'outdated'}
        onHide={() => setAsking(null)}
        animation={false}
        aria-labelledby="outdated-title"
      >
        <Modal.Header closeButton>
          <Modal.Title id="outdated-title">{PAPER.outdatedAsk}</Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <p>{PAPER.outdated}</p>
        </Modal.Body>
        <Modal.Footer>
          <Link className="btn btn-quiet" href={`/cards/${shown.cardId}`}>
            {PAPER.publishFirst}
          </Link>
          <Button onClick={() => setAsking('run')}>{PAPER.printAnyway}</Button>
        </Modal.Footer>
      </Modal>
      {asking !== null && asking !== 'outdated' && (
        <RunDialog
          shown={shown}
          run={asking === 'run' ? null : asking}
          today={today}
          onClose={(noted) => {
            setAsking(null);
            if (noted) onRuns(noted);
          }}
        />
      )}
    </div>
  );
}

const FRONT = ['front'] as const;
const BOTH = ['front', 'back'] as const;

/** Each side by itself, as vectors and as pixels. */
function SideLinks({ id, sides }: { id: string; sides: readonly ('front' | 'back')[] }) {
  return (
    <div className="note">
      {PAPER.sides}
      <ul className="side-links">
        {sides.flatMap((side) =>
          (['svg', 'png'] as const).map((format) => (
            <li key={`${side} ${format}`}>
              <a href={`/api/hand-outs/${id}/${side}.${format}`} download>
                {PAPER.sideAs(side, format)}
              </a>
            </li>
          )),
        )}
      </ul>
    </div>
  );
}

const SUGGESTED = { card: 250, badge: 1, label: 24, sign: 1, sticker: 50 } as const;

/** Asks what is printed of it, and hands over the file either way; or corrects what was noted. */
function RunDialog({
  shown,
  run,
  today,
  onClose,
}: {
  shown: ShownPiece;
  /** The note that is corrected; null of a new one. */
  run: ShownRun | null;
  today: string;
  onClose: (runs: ShownRun[] | null) => void;
}) {
  const [copies, setCopies] = useState(String(run?.copies ?? SUGGESTED[sizeOf(shown.piece.size).stock]));
  const [printedOn, setDay] = useState(run?.printedOn ?? today);
  const [place, setPlace] = useState(run?.place ?? '');
  const [problem, setProblem] = useState<Problem | null>(null);
  const file = `/api/hand-outs/${shown.id}/print.pdf`;
  async function note(event: FormEvent) {
    event.preventDefault();
    const json = { printedOn, copies: Number(copies), place };
    const where = `/api/hand-outs/${shown.id}/print${run ? `/${run.id}` : ''}`;
    const answer = await call<{ runs: ShownRun[] }>(where, { method: run ? 'PUT' : 'POST', json });
    if (!answer.ok) return setProblem(answer.problem);
    if (!run) window.location.assign(file);
    onClose(answer.value.runs);
  }
  return (
    <Modal show onHide={() => onClose(null)} animation={false} aria-labelledby="run-title">
      <Form onSubmit={(event) => void note(event)} noValidate>
        <Modal.Header closeButton>
          <Modal.Title id="run-title">{run ? PAPER.editTitle : PAPER.runTitle}</Modal.Title>
        </Modal.Header>
        <Modal.Body className="form-rows">
          <Form.Group controlId="run-copies">
            <Form.Label>{PAPER.copies}</Form.Label>
            <Form.Control
              inputMode="numeric"
              autoFocus
              value={copies}
              onChange={({ target }) => setCopies(target.value)}
            />
          </Form.Group>
          <Form.Group controlId="run-day">
            <Form.Label>{PAPER.day}</Form.Label>
            <Form.Control type="date" value={printedOn} onChange={({ target }) => setDay(target.value)} />
          </Form.Group>
          <Form.Group controlId="run-place">
            <Form.Label>{PAPER.place}</Form.Label>
            <Form.Control
              value={place}
              placeholder={PAPER.placeHint}
              maxLength={LIMITS.placement}
              onChange={({ target }) => setPlace(target.value)}
            />
          </Form.Group>
          <ProblemNote problem={problem} />
        </Modal.Body>
        <Modal.Footer>
          {!run && (
            <a className="btn btn-quiet" href={file} download onClick={() => onClose(null)}>
              {PAPER.skip}
            </a>
          )}
          <Button type="submit" disabled={!/^\d{1,7}$/.test(copies.trim()) || printedOn === ''}>
            {run ? PAPER.correct : PAPER.keep}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
