'use client';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Privacy } from '@/core/card';
import type { Problem } from '@/core/errors';
import type { MendAct, MendEntry, MendPlan } from '@/core/shown';
import { PRIVACY } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

type Props = { act: MendAct; records: string[]; kinds: Privacy[]; onClose: () => void };

const named = ({ person, card }: MendEntry): string => (card ? `${person}, ${card.audience}` : person);

/** What a mend would do, and what it leaves, before anything is done; then it goes on by itself. */
export function MendDialog({ act, records, kinds, onClose }: Props) {
  const router = useRouter();
  const [wanted, setWanted] = useState(kinds);
  const [plan, setPlan] = useState<MendPlan | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  useEffect(() => {
    let over = false;
    if (wanted.length > 0)
      void call<MendPlan>('/api/privacy/preview', { json: { records, privacies: wanted, act } }).then((answer) => {
        if (over) return;
        setProblem(answer.ok ? null : answer.problem);
        setPlan(answer.ok ? answer.value : null);
      });
    return () => {
      over = true;
    };
  }, [act, records, wanted]);
  async function begin() {
    const answer = await call<{ job: string }>('/api/privacy/mend', { json: { records, privacies: wanted, act } });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) router.push(`/jobs/${answer.value.job}`);
  }
  const toggle = (kind: Privacy, on: boolean) => {
    setPlan(null);
    setWanted(kinds.filter((each) => (each === kind ? on : wanted.includes(each))));
  };
  const count = plan?.mended.length ?? 0;
  return (
    <Modal show onHide={onClose} size="lg" scrollable animation={false} aria-labelledby="mend-title">
      <Modal.Header closeButton>
        <Modal.Title id="mend-title">{PRIVACY.planTitle[act]}</Modal.Title>
      </Modal.Header>
      <Modal.Body className="mend-plan">
        <p>{PRIVACY.planText[act]}</p>
        {kinds.length > 1 && (
          <fieldset className="mend-kinds">
            <legend className="caps">{PRIVACY.which}</legend>
            {kinds.map((kind) => (
              <Form.Check
                key={kind}
                id={`kind-${kind}`}
                label={PRIVACY.kind[kind]}
                checked={wanted.includes(kind)}
                onChange={({ target }) => toggle(kind, target.checked)}
              />
            ))}
          </fieldset>
        )}
        <ProblemNote problem={problem} />
        {plan && (
          <>
            <h2 className="caps" aria-live="polite">
              {count > 0 ? PRIVACY.changes(act, count) : PRIVACY.nothing}
            </h2>
            <ul className="mend-list">
              {plan.mended.map((entry, at) => (
                <li key={at}>
                  <span>{named(entry)}</span>
                  <span>
                    {act === 'take off' ? <s>{entry.values.join(', ')}</s> : entry.values.join(', ')}
                    {entry.copies.length > 0 && <span className="note"> {PRIVACY.stillOut(entry.copies)}</span>}
                  </span>
                </li>
              ))}
            </ul>
            {plan.left.length > 0 && <h2 className="caps">{PRIVACY.left}</h2>}
            <ul className="mend-list">
              {plan.left.map((entry, at) => (
                <li key={at}>
                  <span>{named(entry)}</span>
                  <span>
                    {entry.values.join(', ')} <span className="note">{PRIVACY.leftFor[entry.why]}</span>
                  </span>
                </li>
              ))}
            </ul>
          </>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button disabled={count === 0 || wanted.length === 0} onClick={() => void begin()}>
          {PRIVACY.begin[act](count)}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
