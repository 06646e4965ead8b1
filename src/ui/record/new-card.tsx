'use client';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { RECORD } from '@/core/messages';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

/** A further card of this person, for another audience. */
export function NewCard({ recordId }: { recordId: string }) {
  const router = useRouter();
  const [open, setOpen] = useState(false);
  const [audience, setAudience] = useState('');
  const [isPrivate, setPrivate] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);

  async function make(event: FormEvent) {
    event.preventDefault();
    const answer = await call<{ cardId: string }>('/api/cards', { json: { recordId, audience, isPrivate } });
    if (answer.ok) router.push(`/cards/${answer.value.cardId}`);
    else setProblem(answer.problem);
  }

  return (
    <>
      <Button onClick={() => setOpen(true)}>{RECORD.newCard}</Button>
      <Modal show={open} onHide={() => setOpen(false)} animation={false} aria-labelledby="new-card">
        <Form onSubmit={make} noValidate>
          <Modal.Header closeButton>
            <Modal.Title id="new-card">{RECORD.newCardTitle}</Modal.Title>
          </Modal.Header>
          <Modal.Body>
            <Form.Group controlId="audience">
              <Form.Label>{RECORD.audience}</Form.Label>
              <Form.Control
                autoFocus
                value={audience}
                maxLength={80}
                placeholder={RECORD.audienceHint}
                onChange={(event) => setAudience(event.target.value)}
              />
              <Form.Text>{RECORD.audienceNote}</Form.Text>
            </Form.Group>
            <Form.Check
              id="audience-private"
              label={RECORD.privateAudience}
              checked={isPrivate}
              onChange={(event) => setPrivate(event.target.checked)}
            />
            <ProblemNote problem={problem} />
          </Modal.Body>
          <Modal.Footer>
            <Button type="submit" disabled={!audience.trim()}>
              {RECORD.makeCard}
            </Button>
          </Modal.Footer>
        </Form>
      </Modal>
    </>
  );
}
