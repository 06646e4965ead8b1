'use client';
import { useState, type FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { COMPANY } from '@/core/words';
import { call } from '@/ui/studio/call';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';
import type { ShownMember } from '@/core/shown';

/** A password anew for somebody who forgot theirs, or a first one for somebody who is taken back. */
export function FirstPassword({
  member,
  back = false,
  onClose,
  onDone,
}: {
  member: ShownMember;
  back?: boolean;
  onClose: () => void;
  onDone: () => void;
}) {
  const [password, setPassword] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);
  async function set(event: FormEvent) {
    event.preventDefault();
    const answer = await call(`/api/members/${member.id}/${back ? 'back' : 'password'}`, { json: { password } });
    if (answer.ok) onDone();
    else setProblem(answer.problem);
  }
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="first-password">
      <Form onSubmit={set} noValidate>
        <Modal.Header closeButton>
          <Modal.Title id="first-password">
            {back ? COMPANY.bringBackFor(member.name) : COMPANY.firstPasswordFor(member.name)}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <Form.Group controlId="next-first-password">
            <Form.Label>{COMPANY.firstPassword}</Form.Label>
            <Form.Control
              autoFocus
              autoComplete="off"
              className="mono"
              value={password}
              {...invalid('first-password-problem', problem !== null)}
              onChange={(event) => setPassword(event.target.value)}
            />
            <ProblemNote problem={problem} id="first-password-problem" />
            <Form.Text>{back ? COMPANY.bringBackNote : COMPANY.newPasswordNote}</Form.Text>
          </Form.Group>
        </Modal.Body>
        <Modal.Footer>
          <Button type="submit">{back ? COMPANY.bringBack : COMPANY.setIt}</Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
