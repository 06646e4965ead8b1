'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { DELETION } from '@/core/words';
import { TakeAlong } from '@/ui/company/take-along';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

type Props = { organisation: string; isOwner: boolean; alone: boolean };

/** Deleting one's own account, and for an owner the organisation; whoever works alone deletes both in one. */
export function EndAccount({ organisation, isOwner, alone }: Props) {
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
  const textOf = {
    account: DELETION.accountText,
    organisation: alone ? DELETION.aloneText : DELETION.organisationText,
  };
  const close = () => {
    setAsked(null);
    setProblem(null);
  };
  return (
    <section aria-labelledby="end-account">
      <h2 id="end-account">{DELETION.account}</h2>
      {!alone && (
        <>
          <p className="small">{textOf.account}</p>
          <p>
            <Button variant="quiet" onClick={() => setAsked('account')}>
              {DELETION.account}
            </Button>
          </p>
        </>
      )}
      {isOwner && (
        <>
          <p className="small">{textOf.organisation}</p>
          <Button variant="quiet" onClick={() => setAsked('organisation')}>
            {alone ? DELETION.alone : DELETION.organisation(organisation)}
          </Button>
        </>
      )}
      <Modal show={asked !== null} onHide={close} animation={false} aria-labelledby="end-title">
        <Modal.Header closeButton>
          <Modal.Title id="end-title">
            {asked === 'organisation' && !alone ? DELETION.organisationTitle(organisation) : DELETION.accountTitle}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <p>{asked && textOf[asked]}</p>
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
      {isOwner && <TakeAlong alone={false} />}
    </>
  );
}
