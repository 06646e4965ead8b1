'use client';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { SPARES } from '@/core/words';
import { call } from '@/ui/studio/call';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';

/** Has a code that was made in advance open this card. */
export function UseSpare({ cardId, onClose }: { cardId: string; onClose: () => void }) {
  const router = useRouter();
  const [code, setCode] = useState('');
  const [placement, setPlacement] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  async function take(event: FormEvent) {
    event.preventDefault();
    const answer = await call<{ id: string }>('/api/spare-codes', { method: 'PUT', json: { cardId, code, placement } });
    setProblem(answer.ok ? null : answer.problem);
    if (!answer.ok) return;
    router.refresh();
    onClose();
  }
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="spare-title">
      <Form onSubmit={(event) => void take(event)} noValidate>
        <Modal.Header closeButton>
          <Modal.Title id="spare-title">{SPARES.useTitle}</Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <Form.Group controlId="spare-code">
            <Form.Label>{SPARES.code}</Form.Label>
            <Form.Control
              className="mono"
              value={code}
              maxLength={LIMITS.text}
              placeholder={SPARES.codeHint}
              autoFocus
              autoComplete="off"
              onChange={({ target }) => (setCode(target.value), setProblem(null))}
              {...invalid('spare-problem', problem !== null)}
            />
            <ProblemNote problem={problem} id="spare-problem" />
          </Form.Group>
          <Form.Group controlId="spare-where">
            <Form.Label>{SPARES.where}</Form.Label>
            <Form.Control
              value={placement}
              maxLength={LIMITS.placement}
              onChange={({ target }) => setPlacement(target.value)}
            />
          </Form.Group>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={onClose}>
            {SPARES.cancel}
          </Button>
          <Button type="submit" disabled={!code.trim()}>
            {SPARES.useIt}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
