'use client';
import { useState, type FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { CARDS } from '@/core/words';
import { call } from '@/ui/studio/call';
import { useCompanyDefaults } from '@/ui/studio/organisation';
import { ProblemNote } from '@/ui/studio/problem-note';
import { CardPicker } from '@/ui/card/card-picker';
import type { CardOnTable } from '@/ui/card/card-on-table';

const STATES = ['published', 'resting', 'retired'] as const;

/** What a recipient sees of a card that was published: the card, or a note and perhaps a colleague's card. */
export function StateDialog({ card, onClose }: { card: CardOnTable; onClose: (changed: boolean) => void }) {
  const [state, setState] = useState<(typeof STATES)[number]>(card.state === 'draft' ? 'published' : card.state);
  const [notice, setNotice] = useState(card.notice);
  const [instead, setInstead] = useState(card.instead ?? '');
  const { texts } = useCompanyDefaults();
  const [problem, setProblem] = useState<Problem | null>(null);

  async function set(event: FormEvent) {
    event.preventDefault();
    const answer = await call(`/api/cards/${card.id}/state`, {
      method: 'PUT',
      json: { state, notice, instead: instead || null },
    });
    if (answer.ok) onClose(true);
    else setProblem(answer.problem);
  }

  return (
    <Modal show onHide={() => onClose(false)} animation={false} aria-labelledby="state-title">
      <Form onSubmit={set} noValidate>
        <Modal.Header closeButton>
          <Modal.Title id="state-title">{CARDS.stateTitle}</Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <fieldset>
            <legend className="visually-hidden">{CARDS.state}</legend>
            {STATES.map((each) => (
              <Form.Check
                key={each}
                type="radio"
                name="state"
                id={`state-${each}`}
                label={CARDS.states[each]}
                checked={state === each}
                onChange={() => setState(each)}
              />
            ))}
          </fieldset>
          {state !== 'published' && (
            <>
              <p className="attention">{CARDS.stopsWorking(card.handOuts.length + 1)}</p>
              <Form.Group controlId="notice">
                <Form.Label>{CARDS.notice}</Form.Label>
                <Form.Control
                  as="textarea"
                  rows={2}
                  maxLength={LIMITS.text}
                  placeholder={texts[state] || CARDS.noticeHint}
                  value={notice}
                  onChange={(event) => setNotice(event.target.value)}
                />
                <Form.Text>{texts[state] ? CARDS.noticeOfCompany : CARDS.noticeUsual}</Form.Text>
              </Form.Group>
              <CardPicker
                word={CARDS.instead}
                hint={CARDS.insteadHint}
                except={card.id}
                chosen={instead || null}
                onChoose={(id) => setInstead(id ?? '')}
              />
            </>
          )}
          <ProblemNote problem={problem} />
        </Modal.Body>
        <Modal.Footer>
          <Button type="submit">{CARDS.setState}</Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
