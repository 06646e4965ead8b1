'use client';
import { useState, type FormEvent } from 'react';
import { Button, Form, InputGroup, Modal } from 'react-bootstrap';
import { linesOn, readAddress, suggestAddress, type Change, type ComposedLine, type Composition } from '@/core/card';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { CARD, CHANNEL_WORDS, FRAME, LANGUAGE_NAMES, LANGUAGES, PLAN, PUBLISH, type Language } from '@/core/messages';
import { shownLink, shownValue } from '@/core/record';
import { call } from '@/ui/studio/call';
import { CopyButton } from '@/ui/studio/copy-button';
import { ProblemNote } from '@/ui/studio/problem-note';
import type { CardOnTable } from './card-on-table';
import { instantOf, localTime, PlanFields, type Planned } from './plan-fields';

type Props = {
  card: CardOnTable;
  composition: Composition;
  changes: Change[];
  language: Language | null;
  onLanguage: (language: Language | null) => void;
  flush: () => Promise<number | null>;
  onClose: (published: boolean) => void;
};

const titleOf = ({ label, detail }: ComposedLine): string => label || shownValue(detail) || PUBLISH.noLabel;

/** Publishing is deliberate: what goes out, where, and under which address. */
export function PublishDialog({ card, composition, changes, language, onLanguage, flush, onClose }: Props) {
  const [address, setAddress] = useState(
    card.address ?? suggestAddress(card.prefix ? `${card.prefix} ${card.person}` : card.person),
  );
  const [problem, setProblem] = useState<Problem | null>(null);
  const [note, setNote] = useState('');
  const [plan, setPlan] = useState<Planned>({
    publishAt: localTime(card.plan?.publishAt ?? null),
    endsAt: localTime(card.plan?.endsAt ?? null),
    endsWith: card.plan?.endsWith ?? 'resting',
  });
  const [busy, setBusy] = useState(false);
  const [done, setDone] = useState<{ revision: number; address: string } | null>(null);

  const later = plan.publishAt !== '';
  const unchanged = card.revision !== null && changes.length === 0 && address === card.address;
  /** Nothing to publish, but an end to be set or taken back. */
  const endsOnly =
    !later &&
    unchanged &&
    (plan.endsAt !== localTime(card.plan?.endsAt ?? null) || typeof card.plan?.publishAt === 'string');
  const planOf = (at: string) => ({
    publishAt: instantOf(plan.publishAt),
    address: at,
    note,
    endsAt: instantOf(plan.endsAt),
    endsWith: plan.endsAt ? plan.endsWith : null,
  });

  async function publish(event: FormEvent | null, overrideContrast = false) {
    event?.preventDefault();
    const read = readAddress(address);
    if (!read.ok) return setProblem(read.problem);
    setBusy(true);
    const version = await flush();
    if (later || (endsOnly && version !== null)) {
      const planned = await call<{ plan: unknown }>(`/api/cards/${card.id}/plan`, {
        method: 'PUT',
        json: planOf(read.value),
      });
      setBusy(false);
      return planned.ok ? onClose(true) : setProblem(planned.problem);
    }
    const answer =
      version === null
        ? { ok: false as const, problem: { code: 'DATABASE_AWAY' } as const }
        : await call<{ revision: number; address: string }>(`/api/cards/${card.id}/publish`, {
            json: {
              baseVersion: version,
              address: read.value,
              note,
              ...(overrideContrast ? { overrideContrast } : {}),
            },
          });
    // An end that was set, or a plan that was there before.
    const ended =
      answer.ok && (plan.endsAt || card.plan)
        ? await call(`/api/cards/${card.id}/plan`, { method: 'PUT', json: planOf('') })
        : answer;
    setBusy(false);
    if (answer.ok && ended.ok) setDone(answer.value);
    else if (!ended.ok) setProblem(ended.problem);
  }

  const link = done ? `${card.publicUrl}/c/${done.address}` : '';
  const again = card.revision !== null;
  return (
    <Modal show onHide={() => onClose(done !== null)} animation={false} aria-labelledby="publish-title">
      {done ? (
        <>
          <Modal.Header closeButton>
            <Modal.Title id="publish-title">{PUBLISH.isLive(done.revision)}</Modal.Title>
          </Modal.Header>
          <Modal.Body>
            <p className="finding">
              {PUBLISH.anybodySees}{' '}
              <a className="mono" href={link} target="_blank" rel="noreferrer">
                {shownLink(link)}
              </a>
            </p>
          </Modal.Body>
          <Modal.Footer>
            <CopyButton text={link}>{FRAME.copyLink}</CopyButton>
            <Button onClick={() => onClose(true)}>{PUBLISH.backToTable}</Button>
          </Modal.Footer>
        </>
      ) : (
        <Form onSubmit={publish} noValidate>
          <Modal.Header closeButton>
            <Modal.Title id="publish-title">{again ? PUBLISH.again : PUBLISH.first}</Modal.Title>
          </Modal.Header>
          <Modal.Body>
            {again && changes.length === 0 && <p>{PUBLISH.nothingChanged(card.revision!.number)}</p>}
            {changes.length > 0 && (
              <ul className="changes">
                {changes.map((change, at) => (
                  <li key={at}>
                    <strong>{change.line}</strong> {change.what}
                  </li>
                ))}
              </ul>
            )}
            <dl className="goes-out">
              {card.channels.map((channel) => (
                <div key={channel}>
                  <dt>{CHANNEL_WORDS[channel]}</dt>
                  <dd>{[FRAME.name, ...linesOn(composition, channel).map(titleOf)].join(' · ')}</dd>
                </div>
              ))}
            </dl>
            <Form.Group controlId="page-language" className="page-language">
              <Form.Label>{PUBLISH.language}</Form.Label>
              <Form.Select
                value={language ?? ''}
                onChange={(event) => onLanguage((event.target.value || null) as Language | null)}
              >
                <option value="">{PUBLISH.languageOfRecipient}</option>
                {LANGUAGES.map((each) => (
                  <option key={each} value={each}>
                    {LANGUAGE_NAMES[each]}
                  </option>
                ))}
              </Form.Select>
              <Form.Text>{PUBLISH.languageNote}</Form.Text>
            </Form.Group>
            <Form.Group controlId="short-address">
              <Form.Label>{PUBLISH.address}</Form.Label>
              <InputGroup>
                <InputGroup.Text>{shownLink(card.publicUrl)}/c/</InputGroup.Text>
                <Form.Control
                  value={address}
                  onChange={(event) => {
                    setAddress(event.target.value);
                    setProblem(null);
                  }}
                  isInvalid={problem !== null}
                  aria-describedby="short-address-note"
                  autoCapitalize="off"
                  spellCheck={false}
                />
              </InputGroup>
              <div id="short-address-note">
                {problem ? (
                  <ProblemNote problem={problem} />
                ) : (
                  <Form.Text>{again ? PUBLISH.addressAgain : PUBLISH.addressFirst}</Form.Text>
                )}
              </div>
            </Form.Group>
            <Form.Group controlId="revision-note" className="revision-note-field">
              <Form.Label>{PLAN.note}</Form.Label>
              <Form.Control
                value={note}
                maxLength={LIMITS.revisionNote}
                placeholder={PLAN.noteHint}
                onChange={(event) => setNote(event.target.value)}
              />
            </Form.Group>
            <PlanFields plan={plan} onPlan={(next) => (setPlan(next), setProblem(null))} />
          </Modal.Body>
          <Modal.Footer>
            {problem?.code === 'CONTRAST_FAILS' && card.mayOverride && (
              <Button variant="quiet" disabled={busy} onClick={() => void publish(null, true)}>
                {PUBLISH.allTheSame}
              </Button>
            )}
            <Button variant="quiet" onClick={() => onClose(false)}>
              {PUBLISH.notYet}
            </Button>
            <Button type="submit" disabled={busy || (unchanged && !later && !endsOnly)}>
              {busy ? PUBLISH.busy : later ? PLAN.plan : endsOnly ? PLAN.setEnd : CARD.publish}
            </Button>
          </Modal.Footer>
        </Form>
      )}
    </Modal>
  );
}
