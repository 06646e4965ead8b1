'use client';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { PAPER } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

const KINDS = ['print', 'backdrop', 'pass'] as const;

/** Asks what is made of a card and it will be, and opens it. */
export function NewPiece({ cardId, onClose }: { cardId: string; onClose: () => void }) {
  const router = useRouter();
  const [placement, setPlacement] = useState('');
  const [channel, setChannel] = useState<(typeof KINDS)[number]>('print');
  const [problem, setProblem] = useState<Problem | null>(null);
  async function open(event: FormEvent) {
    event.preventDefault();
    const json = { cardId, placement, channel };
    const answer = await call<{ id: string }>('/api/hand-outs', { json });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) router.push(`/cards/${cardId}/hand-outs/${answer.value.id}`);
  }
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="new-piece-title">
      <Form onSubmit={(event) => void open(event)} noValidate>
        <Modal.Header closeButton>
          <Modal.Title id="new-piece-title">{PAPER.newTitle}</Modal.Title>
        </Modal.Header>
        <Modal.Body className="form-rows">
          <fieldset>
            <legend className="form-label">{PAPER.what}</legend>
            {KINDS.map((kind) => (
              <Form.Check
                key={kind}
                type="radio"
                name="piece-kind"
                id={`piece-${kind}`}
                label={PAPER.kinds[kind]}
                checked={channel === kind}
                onChange={() => setChannel(kind)}
              />
            ))}
          </fieldset>
          <Form.Group controlId="piece-placement">
            <Form.Label>{PAPER.where}</Form.Label>
            <Form.Control
              value={placement}
              maxLength={LIMITS.placement}
              placeholder={PAPER.whereHint[channel]}
              autoFocus
              onChange={({ target }) => setPlacement(target.value)}
            />
          </Form.Group>
          <p className="note">{PAPER.holdsOf[channel]}</p>
          <ProblemNote problem={problem} />
        </Modal.Body>
        <Modal.Footer>
          <Button type="submit" disabled={!placement.trim()}>
            {PAPER.make}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
