'use client';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Change } from '@/core/change';
import type { Problem } from '@/core/errors';
import type { ChangePlan } from '@/core/shown';
import { CHANGES } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { ChangeFields, FIRST } from './change-fields';
import { LeftList } from './left-list';

const KINDS = Object.keys(FIRST) as Change['of'][];

/** One thing that changes for the people chosen: what, then what it does, then it goes on by itself. */
export function ChangeMany({ chosen, onClose }: { chosen: string[]; onClose: () => void }) {
  const router = useRouter();
  const [change, setChange] = useState<Change>(FIRST.link);
  const [plan, setPlan] = useState<ChangePlan | null>(null);
  const [busy, setBusy] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  const json = { records: chosen, change };
  const ready = !('to' in change) || change.to.trim() !== '';
  function edit(next: Change) {
    setChange(next);
    setPlan(null);
    setProblem(null);
  }
  async function look(event: FormEvent) {
    event.preventDefault();
    setBusy(true);
    const answer = await call<ChangePlan>('/api/changes/preview', { json });
    setBusy(false);
    setProblem(answer.ok ? null : answer.problem);
    setPlan(answer.ok ? answer.value : null);
  }
  async function begin() {
    const answer = await call<{ job: string }>('/api/changes', { json });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) router.push(`/jobs/${answer.value.job}`);
  }
  return (
    <Modal show onHide={onClose} size="lg" scrollable animation={false} aria-labelledby="change-title">
      <Modal.Header closeButton>
        <Modal.Title id="change-title">{CHANGES.title(chosen.length)}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <Form id="change-form" className="form-rows" onSubmit={(event) => void look(event)} noValidate>
          <Form.Group controlId="change-of">
            <Form.Label>{CHANGES.what}</Form.Label>
            <Form.Select value={change.of} onChange={({ target }) => edit(FIRST[target.value as Change['of']])}>
              {KINDS.map((of) => (
                <option key={of} value={of}>
                  {CHANGES.of[of]}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <ChangeFields change={change} onChange={edit} />
          <ProblemNote problem={problem} />
        </Form>
        <div aria-live="polite">
          {busy && <p className="note">{CHANGES.looking}</p>}
          {plan && <Plan plan={plan} />}
        </div>
      </Modal.Body>
      <Modal.Footer>
        {plan && plan.people > 0 ? (
          <Button onClick={() => void begin()}>{CHANGES.begin(plan.people)}</Button>
        ) : (
          <Button type="submit" form="change-form" disabled={!ready || busy}>
            {CHANGES.look}
          </Button>
        )}
      </Modal.Footer>
    </Modal>
  );
}

function Plan({ plan }: { plan: ChangePlan }) {
  return (
    <div className="change-plan">
      {plan.people === 0 ? (
        <p>{CHANGES.nothing}</p>
      ) : (
        <>
          <p>
            <strong>{CHANGES.people(plan.people)}</strong> {CHANGES.cards(plan.cards, plan.published)}.
          </p>
          {plan.copies > 0 && <p className="attention">{CHANGES.copies(plan.copies)}</p>}
        </>
      )}
      {plan.sample.length > 0 && (
        <table className="rows">
          <caption>{CHANGES.sample}</caption>
          <tbody>
            {plan.sample.map(({ person, audience, was, is }, at) => (
              <tr key={at}>
                <th scope="row">
                  {person}
                  {audience && `, ${audience}`}
                </th>
                <td>
                  <s>{was || CHANGES.none}</s>
                </td>
                <td>{is}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <LeftList left={plan.left} count={plan.leftCount} />
    </div>
  );
}
