'use client';
import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { COMPANY, FRAME } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import type { ShownMember } from '@/core/shown';

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
        <Modal.Title id="remove-member">{COMPANY.removeTitle(member.name)}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p>{COMPANY.removeText(member.name)}</p>
        <ProblemNote problem={problem} />
      </Modal.Body>
      <Modal.Footer>
        <Button variant="quiet" onClick={onClose}>
          {COMPANY.keep}
        </Button>
        <Button onClick={remove}>{FRAME.remove}</Button>
      </Modal.Footer>
    </Modal>
  );
}
