'use client';
import { useState, type FormEvent } from 'react';
import { Button, Form, InputGroup, Modal } from 'react-bootstrap';
import { editTicks, linesOn, NOWHERE, type ComposedLine, type Composition } from '@/core/card';
import { changesSince, type Change } from '@/core/revisions';
import { readAddress } from '@/core/address';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { CARD, CHANNEL_WORDS, FRAME, PLAN, PUBLISH } from '@/core/words';
import { shownLink, shownValue } from '@/core/record';
import { call } from '@/ui/studio/call';
import { LanguageSelect } from '@/ui/studio/language-picker';
import { CopyButton } from '@/ui/studio/copy-button';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';
import type { CardOnTable } from '@/ui/card/card-on-table';
import { fieldTime, instantOf, PlanFields, type Planned } from './plan-fields';
import { PublishPrivate, usePrivateLeaving } from './publish-private';
import type { CardDraft } from '@/ui/card/draft/use-card-draft';

type Props = {
  card: CardOnTable;
  table: CardDraft;
  composition: Composition;
  changes: Change[];
  zone: string;
  onClose: (published: boolean) => void;
};

const titleOf = ({ label, detail }: ComposedLine): string => label || shownValue(detail) || PUBLISH.noLabel;

const ofAddress = ({ code }: Problem): boolean => code.startsWith('ADDRESS_') || code === 'TOO_MANY_ADDRESSES';

const ChangeList = ({ changes }: { changes: Change[] }) => (
  <ul className="changes">
    {changes.map((change, at) => (
      <li key={at}>
        <strong>{change.line}</strong> {change.what}
      </li>
    ))}
  </ul>
);

/** Publishing is deliberate: what goes out, where, and under which address. */
export function PublishDialog({ card, table, composition, changes, zone, onClose }: Props) {
  const { now: draft, record, flush } = table;
  const [address, setAddress] = useState(card.address ?? card.suggested ?? '');
  const [problem, setProblem] = useState<Problem | null>(null);
  const [note, setNote] = useState('');
  const [plan, setPlan] = useState<Planned>({
    publishAt: fieldTime(zone, card.plan?.publishAt ?? null),
    endsAt: fieldTime(zone, card.plan?.endsAt ?? null),
    endsWith: card.plan?.endsWith ?? 'resting',
  });
  const [busy, setBusy] = useState(false);
  const [confirmed, setConfirmed] = useState(false);
  const { leaving, anyNew } = usePrivateLeaving(composition, card.revision?.composition ?? null, record, card.channels);
  const [told, setTold] = useState<string | null>(null);
  // What somebody else changes while this is open is shown before it goes out.
  const [looked, setLooked] = useState({ composition, theirs: table.theirs });
  const moved = table.theirs === looked.theirs ? [] : changesSince(looked.composition, composition, card.channels);
  const notPlanned = card.plan?.composition ? changesSince(card.plan.composition, composition, card.channels) : [];
  const [done, setDone] = useState<{ revision: number; address: string } | null>(null);

  const later = plan.publishAt !== '';
  const unchanged = card.revision !== null && changes.length === 0 && address === card.address;
  /** Nothing to publish, but an end to be set or taken back. */
  const endsOnly =
    !later &&
    unchanged &&
    (plan.endsAt !== fieldTime(zone, card.plan?.endsAt ?? null) || typeof card.plan?.publishAt === 'string');
  const planOf = (at: string, seen: object) => ({
    seen,
    publishAt: instantOf(zone, plan.publishAt),
    address: at,
    note,
    endsAt: instantOf(zone, plan.endsAt),
    endsWith: plan.endsAt ? plan.endsWith : null,
  });

  async function publish(event: FormEvent | null, overrideContrast = false) {
    event?.preventDefault();
    setTold(null);
    const read = readAddress(address);
    if (!read.ok) return setProblem(read.problem);
    if (!confirmed && (await anyNew())) return setTold(PUBLISH.privateFirst);
    setBusy(true);
    const version = await flush();
    const { recordVersion } = table;
    const answer =
      version === null
        ? { ok: false as const, problem: { code: 'DATABASE_UNAVAILABLE' } as const }
        : later || endsOnly
          ? await call<{ plan: unknown }>(`/api/cards/${card.id}/plan`, {
              method: 'PUT',
              json: planOf(read.value, { version, recordVersion }),
            })
          : await call<{ revision: number; address: string }>(`/api/cards/${card.id}/publish`, {
              json: {
                baseVersion: version,
                recordVersion,
                address: read.value,
                note,
                ...(overrideContrast ? { overrideContrast } : {}),
                ends: plan.endsAt ? { at: instantOf(zone, plan.endsAt), with: plan.endsWith } : null,
              },
            });
    setBusy(false);
    if (!answer.ok) {
      // Somebody was faster: what they changed is shown here, to be looked at.
      if (answer.problem.code !== 'CARD_CHANGED' && answer.problem.code !== 'RECORD_CHANGED')
        return setProblem(answer.problem);
      await table.merge();
      return setTold(PUBLISH.lookAgain);
    }
    if ('revision' in answer.value) setDone(answer.value);
    else onClose(true);
  }

  const takeOff = (id: string) =>
    table.edit(draft.lines.filter(({ detail }) => detail === id).flatMap((line) => editTicks(line, NOWHERE)));

  const link = done ? `${card.publicUrl}/c/${done.address}` : '';
  const again = card.revision !== null;
  return (
    <Modal show onHide={() => onClose(done !== null)} animation={false} aria-labelledby="publish-title" scrollable>
      {done ? (
        <>
          <Modal.Header closeButton>
            <Modal.Title id="publish-title">{PUBLISH.isLive(done.revision)}</Modal.Title>
          </Modal.Header>
          <Modal.Body>
            <p className="finding" role="status">
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
            {moved.length > 0 && (
              <div className="banner" role="alert">
                <p>{PUBLISH.moved}</p>
                <ChangeList changes={moved} />
                <Button
                  variant="quiet"
                  onClick={() => (setLooked({ composition, theirs: table.theirs }), setConfirmed(false), setTold(null))}
                >
                  {PUBLISH.looked}
                </Button>
              </div>
            )}
            <PublishPrivate
              leaving={leaving}
              confirmed={confirmed}
              onConfirmed={(next) => (setConfirmed(next), setTold(null))}
              onTakeOff={takeOff}
            />
            {notPlanned.length > 0 && (
              <>
                <h3 className="caps">{PLAN.notInPlan}</h3>
                <ChangeList changes={notPlanned} />
              </>
            )}
            {again && changes.length === 0 && <p>{PUBLISH.nothingChanged(card.revision!.number)}</p>}
            {changes.length > 0 && <ChangeList changes={changes} />}
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
              <LanguageSelect
                value={draft.language}
                none={PUBLISH.languageOfRecipient}
                onChange={(language) => table.editCard('language', language)}
              />
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
                  {...invalid('short-address-note', problem !== null && ofAddress(problem))}
                  aria-describedby="short-address-note"
                  autoCapitalize="off"
                  spellCheck={false}
                />
              </InputGroup>
              <div id="short-address-note">
                {problem && ofAddress(problem) ? (
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
            <PlanFields plan={plan} zone={zone} onPlan={(next) => (setPlan(next), setProblem(null))} />
            {problem && !ofAddress(problem) && <ProblemNote problem={problem} />}
            {told && (
              <p className="problem" role="alert">
                {told}
              </p>
            )}
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
            <Button type="submit" autoFocus disabled={busy || moved.length > 0 || (unchanged && !later && !endsOnly)}>
              {busy ? PUBLISH.busy : later ? PLAN.plan : endsOnly ? PLAN.setEnd : CARD.publish}
            </Button>
          </Modal.Footer>
        </Form>
      )}
    </Modal>
  );
}
