'use client';
import { useState, type FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Composition } from '@/core/card';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import type { PersonRecord } from '@/core/record';
import type { MailAllowed } from '@/core/shown';
import { MESSAGE } from '@/core/words';
import { call } from '@/ui/studio/call';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';
import { LeavingLines } from './leaving';
import { OccasionField } from './occasion-field';

type Props = { cardId: string; composition: Composition; record: PersonRecord; mail: MailAllowed; onClose: () => void };

/** Sends a card to somebody by mail, or gives the same as a draft; private lines that leave with it are named. */
export function MessageDialog({ cardId, composition, record, mail, onClose }: Props) {
  const [name, setName] = useState('');
  const [email, setEmail] = useState('');
  const [occasionId, setOccasion] = useState<string | null>(null);
  /** Own words; null as long as nobody has typed any. */
  const [own, setOwn] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [told, setTold] = useState('');
  const [busy, setBusy] = useState(false);
  const note = own ?? MESSAGE.first(name.trim().split(' ')[0] ?? '', '');
  async function send(event: FormEvent) {
    event.preventDefault();
    setBusy(true);
    setTold('');
    const json = { to: email, name, note, occasionId };
    const answer = await call(`/api/cards/${cardId}/message`, { json });
    setBusy(false);
    setProblem(answer.ok ? null : answer.problem);
    if (!answer.ok) return;
    setTold(MESSAGE.sent(email));
    setEmail('');
    setName('');
  }
  const draft = `/api/cards/${cardId}/message?note=${encodeURIComponent(note)}${occasionId ? `&occasion=${occasionId}` : ''}`;
  const ofEmail = problem?.code === 'EMAIL_UNREADABLE';
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="message-title" className="change-dialog">
      <Form onSubmit={(event) => void send(event)} noValidate>
        <Modal.Header closeButton>
          <Modal.Title id="message-title">{MESSAGE.title}</Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <fieldset>
            <Form.Group controlId="message-name">
              <Form.Label>{MESSAGE.name}</Form.Label>
              <Form.Control
                value={name}
                maxLength={LIMITS.name}
                autoFocus
                onChange={({ target }) => setName(target.value)}
              />
            </Form.Group>
            <Form.Group controlId="message-email">
              <Form.Label>{MESSAGE.email}</Form.Label>
              <Form.Control
                type="email"
                value={email}
                onChange={({ target }) => setEmail(target.value)}
                {...invalid('message-problem', ofEmail)}
              />
              {ofEmail && <ProblemNote problem={problem} id="message-problem" />}
            </Form.Group>
            <OccasionField value={occasionId} onValue={setOccasion} />
            <Form.Group controlId="message-note">
              <Form.Label>{MESSAGE.note}</Form.Label>
              <Form.Control
                as="textarea"
                rows={5}
                value={note}
                maxLength={LIMITS.text}
                onChange={({ target }) => setOwn(target.value)}
              />
            </Form.Group>
          </fieldset>
          <p className="note">{MESSAGE.carries}</p>
          <LeavingLines lines={composition.lines.filter(({ on }) => on.includes('file'))} record={record} />
          {mail !== 'yes' && <p className="attention">{MESSAGE[mail]}</p>}
          {!ofEmail && <ProblemNote problem={problem} />}
          <p role="status">{told}</p>
        </Modal.Body>
        <Modal.Footer>
          <a className="btn btn-quiet" href={draft} download>
            {MESSAGE.draft}
          </a>
          <Button type="submit" disabled={busy || mail !== 'yes' || !email.trim()}>
            {MESSAGE.send}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
