'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { DELETION } from '@/core/messages';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

/** Deleting one's own account, and for an owner the organisation. */
export function EndAccount({ organisation, isOwner }: { organisation: string; isOwner: boolean }) {
  const router = useRouter();
  const [asked, setAsked] = useState<'account' | 'organisation' | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  async function end() {
    const answer = await call(`/api/${asked}`, { method: 'DELETE' });
    if (!answer.ok) return setProblem(answer.problem);
    setAsked(null);
    if (asked === 'account') router.push('/sign-in');
    router.refresh();
  }
  const close = () => {
    setAsked(null);
    setProblem(null);
  };
  return (
    <section aria-labelledby="end-account">
      <h2 id="end-account">{DELETION.account}</h2>
      <p className="small">{DELETION.accountText}</p>
      <p>
        <Button variant="quiet" onClick={() => setAsked('account')}>
          {DELETION.account}
        </Button>
      </p>
      {isOwner && (
        <>
          <p className="small">{DELETION.organisationText}</p>
          <Button variant="quiet" onClick={() => setAsked('organisation')}>
            {DELETION.organisation(organisation)}
          </Button>
        </>
      )}
      <Modal show={asked !== null} onHide={close} animation={false} aria-labelledby="end-title">
        <Modal.Header closeButton>
          <Modal.Title id="end-title">
            {asked === 'organisation' ? DELETION.organisationTitle(organisation) : DELETION.accountTitle}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <p>{asked === 'organisation' ? DELETION.organisationText : DELETION.accountText}</p>
          <ProblemNote problem={problem} />
        </Modal.Body>
        <Modal.Footer>
          <Button variant="quiet" onClick={close}>
            {DELETION.cancel}
          </Button>
          <Button onClick={() => void end()}>{DELETION.confirm}</Button>
        </Modal.Footer>
      </Modal>
    </section>
  );
}

/** Stands in place of everything while the organisation is deleted. */
export function OrganisationDeleted({ name, erased, isOwner }: { name: string; erased: string; isOwner: boolean }) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  async function bringBack() {
    const answer = await call('/api/organisation/back', { method: 'POST' });
    if (!answer.ok) return setProblem(answer.problem);
    router.push('/people');
    router.refresh();
  }
  return (
    <>
      <h1>{DELETION.organisationGone(name)}</h1>
      <p className="finding">{DELETION.organisationErased(erased)}</p>
      {isOwner && <Button onClick={() => void bringBack()}>{DELETION.organisationBack}</Button>}
      <ProblemNote problem={problem} />
    </>
  );
}
