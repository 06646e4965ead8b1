'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { INVITE } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

/** Says what an invitation is, then sends it to the people chosen. */
export function InvitePeople({ chosen, onClose }: { chosen: string[]; onClose: () => void }) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  async function send() {
    const answer = await call<{ job: string }>('/api/invitations', { json: { records: chosen } });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) router.push(`/jobs/${answer.value.job}`);
  }
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="invite-title">
      <Modal.Header closeButton>
        <Modal.Title id="invite-title">{INVITE.title(chosen.length)}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p>{INVITE.text}</p>
        <p className="note">{INVITE.reminder}</p>
        <ProblemNote problem={problem} />
      </Modal.Body>
      <Modal.Footer>
        <Button onClick={() => void send()}>{INVITE.ask(chosen.length)}</Button>
      </Modal.Footer>
    </Modal>
  );
}
