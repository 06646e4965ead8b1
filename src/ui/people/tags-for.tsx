'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { CODES, TAGS } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

const W = TAGS.people;
const DOES = ['card', 'save'] as const;

/** Asks what the tags of the chosen people do and where they are, and makes them. */
export function TagsFor({ chosen, onClose }: { chosen: string[]; onClose: () => void }) {
  const router = useRouter();
  const [placement, setPlacement] = useState('');
  const [what, setWhat] = useState<(typeof DOES)[number]>('card');
  const [without, setWithout] = useState<{ placement: string | null; names: string[] } | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  async function make(event: FormEvent) {
    event.preventDefault();
    setBusy(true);
    const json = { records: chosen, placement, what };
    const answer = await call<{ placement: string | null; without: string[] }>('/api/tags', { json });
    setBusy(false);
    setProblem(answer.ok ? null : answer.problem);
    if (!answer.ok) return;
    // Who gets none is told before the list is shown.
    if (answer.value.without.length > 0) setWithout({ placement: answer.value.placement, names: answer.value.without });
    else router.push(`/tags?placement=${answer.value.placement}`);
  }
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="tags-for-title">
      <Form onSubmit={(event) => void make(event)} noValidate>
        <Modal.Header closeButton>
          <Modal.Title id="tags-for-title">{W.title(chosen.length)}</Modal.Title>
        </Modal.Header>
        <Modal.Body className="form-rows">
          {without ? (
            <p className="attention" role="status">
              {W.without(without.names)}
            </p>
          ) : (
            <>
              <Form.Group controlId="tags-for-where">
                <Form.Label>{W.where}</Form.Label>
                <Form.Control
                  value={placement}
                  maxLength={LIMITS.placement}
                  placeholder={W.whereHint}
                  autoFocus
                  onChange={({ target }) => setPlacement(target.value)}
                />
              </Form.Group>
              <Form.Group as="fieldset">
                <legend className="caps">{W.does}</legend>
                {DOES.map((each) => (
                  <Form.Check
                    key={each}
                    type="radio"
                    name="tags-for-does"
                    id={`tags-for-${each}`}
                    label={CODES.does[each]}
                    checked={what === each}
                    onChange={() => setWhat(each)}
                  />
                ))}
              </Form.Group>
              <p className="note">{W.note}</p>
            </>
          )}
          <ProblemNote problem={problem} />
        </Modal.Body>
        <Modal.Footer>
          {without?.placement ? (
            <Link className="btn btn-primary" href={`/tags?placement=${without.placement}`}>
              {W.show}
            </Link>
          ) : without ? (
            <Button onClick={onClose}>{W.close}</Button>
          ) : (
            <Button type="submit" disabled={busy || !placement.trim()}>
              {W.make}
            </Button>
          )}
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
