'use client';
import { useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import type { ShownHandOut } from '@/core/shown';
import { HAND_OUTS } from '@/core/words';
import { CardPicker } from '@/ui/card/card-picker';
import { call } from '@/ui/studio/call';
import { CopyButton } from '@/ui/studio/copy-button';
import { dayIn } from '@/ui/studio/instant';
import { ProblemNote } from '@/ui/studio/problem-note';
import { OccasionField } from './occasion-field';
import { PlacementField } from './placement-field';

const STATES = ['out', 'resting', 'retired'] as const;

type Props = {
  handOut: ShownHandOut;
  cardId: string;
  publicUrl: string;
  /** `changed` where something is other than it was. */
  onClose: (changed: boolean) => void;
};

/** A hand-out beyond its looks: its addresses, where it is, whether it is out, and which card it opens. */
export function ChangeDialog({ handOut, cardId, publicUrl, onClose }: Props) {
  const [placement, setPlacement] = useState(handOut.placement);
  const [occasion, setOccasion] = useState<string | null>(handOut.occasion?.id ?? null);
  const [state, setState] = useState(handOut.state);
  const [notice, setNotice] = useState(handOut.notice);
  const [other, setOther] = useState<string | null>(null);
  const [problem, setProblem] = useState<{ of: string; problem: Problem } | null>(null);
  const [busy, setBusy] = useState(false);
  const path = `/api/hand-outs/${handOut.id}/changes`;
  async function ask(of: string, method: 'PUT' | 'POST', json?: object) {
    setBusy(true);
    const answer = await call(path, { method, ...(json ? { json } : {}) });
    setBusy(false);
    if (answer.ok) return onClose(true);
    setProblem({ of, problem: answer.problem });
  }
  const note = (of: string) => (
    <ProblemNote problem={problem?.of === of ? problem.problem : null} id={`${of}-problem`} />
  );
  const alone = handOut.channel !== 'code' && handOut.channel !== 'tag';
  const fixed = handOut.frozen || alone;
  const address = `${publicUrl}/h/${handOut.code}`;
  return (
    <Modal
      show
      onHide={() => onClose(false)}
      animation={false}
      aria-labelledby="change-title"
      className="change-dialog"
    >
      <Modal.Header closeButton>
        <Modal.Title id="change-title">{handOut.placement}</Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <fieldset>
          <legend className="caps">{HAND_OUTS.addresses}</legend>
          {[
            [HAND_OUTS.opensCard, address],
            [HAND_OUTS.savesContact, `${address}.vcf`],
          ].map(([word, each]) => (
            <p key={each} className="address">
              <span>{word}</span> <span className="mono">{each}</span>{' '}
              <CopyButton text={each!}>{HAND_OUTS.copy}</CopyButton>
            </p>
          ))}
        </fieldset>
        <fieldset>
          <legend className="caps">{HAND_OUTS.where}</legend>
          <PlacementField value={placement} onValue={setPlacement} wrong={problem?.of === 'name'} />
          <OccasionField value={occasion} onValue={setOccasion} past={handOut.occasion} />
          {note('name')}
          <Button
            variant="quiet"
            disabled={busy || !placement.trim()}
            onClick={() => void ask('name', 'PUT', { what: 'name', placement, occasionId: occasion })}
          >
            {HAND_OUTS.keep}
          </Button>
        </fieldset>
        <fieldset>
          <legend className="caps">{HAND_OUTS.when}</legend>
          {STATES.map((each) => (
            <Form.Check
              key={each}
              type="radio"
              name="hand-out-state"
              id={`hand-out-${each}`}
              label={HAND_OUTS.states[each]}
              checked={state === each}
              onChange={() => setState(each)}
            />
          ))}
          {state !== 'out' && (
            <Form.Group controlId="hand-out-notice">
              <Form.Label>{HAND_OUTS.notice}</Form.Label>
              <Form.Control
                as="textarea"
                rows={2}
                value={notice}
                maxLength={LIMITS.text}
                placeholder={HAND_OUTS.noticeHint}
                onChange={({ target }) => setNotice(target.value)}
              />
            </Form.Group>
          )}
          {note('state')}
          <Button
            variant="quiet"
            disabled={busy}
            onClick={() => void ask('state', 'PUT', { what: 'state', state, notice })}
          >
            {HAND_OUTS.keep}
          </Button>
        </fieldset>
        <fieldset>
          <legend className="caps">{HAND_OUTS.elsewhere}</legend>
          <p className="note">{fixed ? HAND_OUTS.fixed : HAND_OUTS.elsewhereNote}</p>
          <Earlier of={handOut.earlier} />
          {!fixed && (
            <>
              <CardPicker
                word={HAND_OUTS.elsewhere}
                hint={HAND_OUTS.elsewhereHint}
                except={cardId}
                chosen={other}
                onChoose={setOther}
              />
              {note('card')}
              <Button
                variant="quiet"
                disabled={busy || !other}
                onClick={() => void ask('card', 'PUT', { what: 'card', cardId: other })}
              >
                {HAND_OUTS.toCard}
              </Button>
            </>
          )}
        </fieldset>
        {!alone && (
          <>
            {note('again')}
            <Button variant="quiet" disabled={busy} onClick={() => void ask('again', 'POST')}>
              {HAND_OUTS.again}
            </Button>
          </>
        )}
      </Modal.Body>
    </Modal>
  );
}

/** The cards that a hand-out opened before. */
const Earlier = ({ of }: { of: ShownHandOut['earlier'] }) =>
  of.map(({ card, until }, at) => (
    <p key={at} className="note">
      {HAND_OUTS.earlier(
        card && [card.name, card.audience].filter(Boolean).join(' · '),
        dayIn('UTC', Date.parse(until)),
      )}
    </p>
  ));
