'use client';
import { useState, type FormEvent } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import type { Composition } from '@/core/card';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { fillTemplate } from '@/core/letter';
import { writtenName, type PersonRecord } from '@/core/record';
import type { MailAllowed } from '@/core/shown';
import { MESSAGE } from '@/core/words';
import { call } from '@/ui/studio/call';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';
import { LeavingLines } from '../leaving';
import { saveText } from '@/ui/studio/save-text';
import { OccasionField } from '../occasion-field';
import { FIRST_TEMPLATE, TemplateField } from './template-field';

const NO_OCCASION = { id: null, name: '', place: '' };
type Props = { cardId: string; composition: Composition; record: PersonRecord; mail: MailAllowed; onClose: () => void };

/** Sends a card to somebody by mail, or gives the same as a draft; private lines that leave with it are named. */
export function MessageDialog({ cardId, composition, record, mail, onClose }: Props) {
  const [name, setName] = useState('');
  const [email, setEmail] = useState('');
  const [placement, setPlacement] = useState('');
  const [occasion, setOccasion] = useState<{ id: string | null; name: string; place: string }>(NO_OCCASION);
  const [template, setTemplate] = useState(FIRST_TEMPLATE);
  /** Own words; null as long as nobody has typed any. */
  const [own, setOwn] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [told, setTold] = useState('');
  const [busy, setBusy] = useState(false);
  const filled = fillTemplate(template, {
    ...{ name: name.trim().split(' ')[0] ?? '', me: writtenName(composition.name), placement },
    ...{ occasion: occasion.name, place: occasion.place },
  });
  const note = own ?? filled;
  const what = { note, placement, occasionId: occasion.id };
  async function send(event: FormEvent) {
    event.preventDefault();
    setBusy(true);
    setTold('');
    const json = { to: email, name, ...what };
    const answer = await call(`/api/cards/${cardId}/message`, { json });
    setBusy(false);
    setProblem(answer.ok ? null : answer.problem);
    if (!answer.ok) return;
    setTold(MESSAGE.sent(email));
    setEmail('');
    setName('');
  }
  async function draft() {
    const answer = await call<{ text: string; fileName: string }>(`/api/cards/${cardId}/message/draft`, { json: what });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) saveText(answer.value.fileName, 'message/rfc822', answer.value.text);
  }
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
            <OccasionField
              value={occasion.id}
              onValue={(id, chosen) => setOccasion({ ...(chosen ?? NO_OCCASION), id })}
            />
            <Form.Group controlId="message-placement">
              <Form.Label>{MESSAGE.where}</Form.Label>
              <Form.Control
                value={placement}
                maxLength={LIMITS.placement}
                placeholder={MESSAGE.whereFirst}
                onChange={({ target }) => setPlacement(target.value)}
              />
            </Form.Group>
            <TemplateField
              words={own ?? template}
              onBody={(body) => {
                setTemplate(body);
                setOwn(null);
              }}
            />
            <Form.Group controlId="message-note">
              <Form.Label>{MESSAGE.note}</Form.Label>
              <Form.Control
                as="textarea"
                rows={7}
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
          <Button variant="quiet" onClick={() => void draft()}>
            {MESSAGE.draft}
          </Button>
          <Button type="submit" disabled={busy || mail !== 'yes' || !email.trim()}>
            {MESSAGE.send}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
