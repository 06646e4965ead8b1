'use client';
import { useEffect, useRef, useState, type FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { ACCOUNT, COMPANY, ENTRY } from '@/core/messages';
import { call, confirmWith } from './call';
import { ProblemNote } from './problem-note';

/** Asks for the password once more where something wants it fresh; what wanted it goes on by itself after that. */
export function ConfirmPassword() {
  const [open, setOpen] = useState(false);
  const [password, setPassword] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  const answer = useRef<(confirmed: boolean) => void>(null);
  useEffect(
    () =>
      confirmWith(
        () =>
          new Promise((resolve) => {
            answer.current = resolve;
            setOpen(true);
          }),
      ),
    [],
  );
  function close(confirmed: boolean) {
    setOpen(false);
    setPassword('');
    setProblem(null);
    answer.current?.(confirmed);
  }
  async function submit(event: FormEvent) {
    event.preventDefault();
    const confirmed = await call('/api/confirm', { json: { password } });
    if (confirmed.ok) close(true);
    else setProblem(confirmed.problem);
  }
  return (
    <Modal show={open} onHide={() => close(false)} aria-labelledby="confirm-title" animation={false}>
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
              isInvalid={problem !== null}
              onChange={({ target }) => setPassword(target.value)}
            />
            <ProblemNote problem={problem} />
          </Form.Group>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={() => close(false)}>
            {COMPANY.keep}
          </Button>
          <Button type="submit">{ACCOUNT.goOn}</Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
