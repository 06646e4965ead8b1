'use client';
import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import type { ShownMember } from './member';

/** Says what stops working and what stays before a member's sign-in is taken away. */
export function RemoveMember({
  member,
  onClose,
  onDone,
}: {
  member: ShownMember;
  onClose: () => void;
  onDone: () => void;
}) {
  const [problem, setProblem] = useState<Problem | null>(null);
  async function remove() {
    const answer = await call(`/api/members/${member.id}`, { method: 'DELETE' });
    if (answer.ok) onDone();
    else setProblem(answer.problem);
  }
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="remove-member">
      <Modal.Header closeButton>
        <Modal.Title id="remove-member">Remove {member.name}?</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p>
          {member.name} is signed out at once and can no longer sign in. Their record, cards and codes go on working,
          and the audit trail keeps what they did.
        </p>
        <ProblemNote problem={problem} />
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose}>
          Keep
        </Button>
        <Button onClick={remove}>Remove</Button>
      </Modal.Footer>
    </Modal>
  );
}
