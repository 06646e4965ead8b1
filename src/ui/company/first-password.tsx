'use client';
import { useState, type FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { COMPANY } from '@/core/messages';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import type { ShownMember } from './member';

/** A password anew for somebody who forgot theirs. */
export function FirstPassword({
  member,
  onClose,
  onDone,
}: {
  member: ShownMember;
  onClose: () => void;
  onDone: () => void;
}) {
  const [password, setPassword] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  async function set(event: FormEvent) {
    event.preventDefault();
    const answer = await call(`/api/members/${member.id}/password`, { json: { password } });
    if (answer.ok) onDone();
    else setProblem(answer.problem);
  }
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="first-password">
      <Form onSubmit={set} noValidate>
        <Modal.Header closeButton>
          <Modal.Title id="first-password">{COMPANY.firstPasswordFor(member.name)}</Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <Form.Group controlId="next-first-password">
            <Form.Label>{COMPANY.firstPassword}</Form.Label>
            <Form.Control
              autoFocus
              autoComplete="off"
              className="mono"
              value={password}
              isInvalid={problem !== null}
              onChange={(event) => setPassword(event.target.value)}
            />
            <ProblemNote problem={problem} />
            <Form.Text>{COMPANY.newPasswordNote}</Form.Text>
          </Form.Group>
        </Modal.Body>
        <Modal.Footer>
          <Button type="submit">{COMPANY.setIt}</Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
