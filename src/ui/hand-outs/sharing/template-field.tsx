'use client';
import { useEffect, useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { MESSAGE } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

type Template = { id: string; name: string; body: string };
type BuiltIn = keyof typeof MESSAGE.templates;

/** The words that a message begins with at first. */
export const FIRST_TEMPLATE = MESSAGE.templates.met.body;

type Props = {
  /** The words as they stand now, to be kept. */
  words: string;
  onBody: (body: string) => void;
};

/** Words to begin a message with: ours, and those that the member keeps. */
export function TemplateField({ words, onBody }: Props) {
  const [own, setOwn] = useState<Template[]>([]);
  const [chosen, setChosen] = useState('met');
  const [name, setName] = useState<string | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [told, setTold] = useState('');
  useEffect(() => {
    void call<{ templates: Template[] }>('/api/templates').then(
      (answer) => answer.ok && setOwn(answer.value.templates),
    );
  }, []);
  function choose(id: string) {
    setChosen(id);
    setTold('');
    const body = own.find((each) => each.id === id)?.body ?? MESSAGE.templates[id as BuiltIn]?.body;
    if (body) onBody(body);
  }
  async function keep() {
    const answer = await call<{ id: string }>('/api/templates', { json: { name, body: words } });
    setProblem(answer.ok ? null : answer.problem);
    if (!answer.ok) return;
    const kept = { id: answer.value.id, name: name!.trim(), body: words };
    setOwn([...own.filter(({ id }) => id !== kept.id), kept]);
    setChosen(kept.id);
    setName(null);
    setTold(MESSAGE.kept);
  }
  async function drop() {
    const answer = await call(`/api/templates/${chosen}`, { method: 'DELETE' });
    setProblem(answer.ok ? null : answer.problem);
    if (!answer.ok) return;
    setOwn(own.filter(({ id }) => id !== chosen));
    choose('met');
  }
  return (
    <Form.Group controlId="message-template">
      <Form.Label>{MESSAGE.template}</Form.Label>
      <div className="pair">
        <Form.Select value={chosen} onChange={({ target }) => choose(target.value)}>
          {(Object.keys(MESSAGE.templates) as BuiltIn[]).map((id) => (
            <option key={id} value={id}>
              {MESSAGE.templates[id].name}
            </option>
          ))}
          {own.length > 0 && (
            <optgroup label={MESSAGE.ownTemplates}>
              {own.map((each) => (
                <option key={each.id} value={each.id}>
                  {each.name}
                </option>
              ))}
            </optgroup>
          )}
        </Form.Select>
        {name === null && (
          <Button variant="quiet" onClick={() => setName('')}>
            {MESSAGE.keepAs}
          </Button>
        )}
        {own.some(({ id }) => id === chosen) && (
          <Button variant="quiet" onClick={() => void drop()}>
            {MESSAGE.dropTemplate}
          </Button>
        )}
      </div>
      {name !== null && (
        <>
          <div className="pair">
            <Form.Control
              aria-label={MESSAGE.keepName}
              placeholder={MESSAGE.keepName}
              value={name}
              maxLength={LIMITS.placement}
              autoFocus
              onChange={({ target }) => setName(target.value)}
            />
            <Button variant="quiet" disabled={!name.trim() || !words.trim()} onClick={() => void keep()}>
              {MESSAGE.keepAct}
            </Button>
          </div>
          <small className="note">{MESSAGE.keepHint}</small>
        </>
      )}
      <ProblemNote problem={problem} />
      <span role="status" className="note">
        {told}
      </span>
    </Form.Group>
  );
}
