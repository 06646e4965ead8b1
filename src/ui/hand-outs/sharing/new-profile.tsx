'use client';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { PROFILE } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

/** Asks which profile page it is, and opens its kit: the one that there is, or a new one. */
export function NewProfile({ cardId, onClose }: { cardId: string; onClose: () => void }) {
  const router = useRouter();
  const [placement, setPlacement] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  async function open(event: FormEvent) {
    event.preventDefault();
    const json = { cardId, placement, channel: 'profile' };
    const answer = await call<{ id: string }>('/api/hand-outs', { json });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) router.push(`/cards/${cardId}/hand-outs/${answer.value.id}`);
  }
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="new-profile-title">
      <Form onSubmit={(event) => void open(event)} noValidate>
        <Modal.Header closeButton>
          <Modal.Title id="new-profile-title">{PROFILE.newTitle}</Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <Form.Group controlId="profile-placement">
            <Form.Label>{PROFILE.where}</Form.Label>
            <Form.Control
              value={placement}
              maxLength={LIMITS.placement}
              placeholder={PROFILE.whereHint}
              autoFocus
              onChange={({ target }) => setPlacement(target.value)}
            />
          </Form.Group>
          <ProblemNote problem={problem} />
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={onClose}>
            {PROFILE.cancel}
          </Button>
          <Button type="submit" disabled={!placement.trim()}>
            {PROFILE.make}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
