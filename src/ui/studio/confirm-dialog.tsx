'use client';
import { useState, type FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { ACCOUNT, COMPANY, ENTRY } from '@/core/words';
import { call } from './call';
import { invalid, ProblemNote } from './problem-note';

/** Asks for the password once more where something wants it fresh; what wanted it goes on by itself after that. */
export function ConfirmDialog({ onClose }: { onClose: (confirmed: boolean) => void }) {
  const [password, setPassword] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  async function submit(event: FormEvent) {
    event.preventDefault();
    const confirmed = await call('/api/confirm', { json: { password } });
    if (confirmed.ok) onClose(true);
    else setProblem(confirmed.problem);
  }
  return (
    <Modal show onHide={() => onClose(false)} aria-labelledby="confirm-title" animation={false}>
      <Form onSubmit={submit} noValidate>
        <Modal.Header closeButton>
          <Modal.Title id="confirm-title">{ACCOUNT.confirmTitle}</Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <p>{ACCOUNT.confirmText}</p>
          <Form.Group controlId="confirm-password">
            <Form.Label>{ENTRY.password}</Form.Label>
            <Form.Control
              type="password"
              autoComplete="current-password"
              autoFocus
              value={password}
              {...invalid('confirm-problem', problem !== null)}
              onChange={({ target }) => setPassword(target.value)}
            />
            <ProblemNote problem={problem} id="confirm-problem" />
          </Form.Group>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={() => onClose(false)}>
            {COMPANY.keep}
          </Button>
          <Button type="submit">{ACCOUNT.goOn}</Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
