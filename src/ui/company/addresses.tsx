'use client';
import { useState, type FormEvent } from 'react';
import { Button, Form, InputGroup } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { COMPANY } from '@/core/words';
import { shownLink } from '@/core/record';
import { call } from '@/ui/studio/call';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';

type Props = { prefix: string | null; asked: string | null; publicUrl: string; organisation: string };

/** The beginning that the organisation's addresses have, and the form that asks whoever runs Heathland for one. */
export function Addresses({ prefix, asked: before, publicUrl, organisation }: Props) {
  const [asked, setAsked] = useState(before);
  const [typed, setTyped] = useState(before ?? '');
  const [problem, setProblem] = useState<Problem | null>(null);
  async function ask(wanted: string) {
    const answer = await call<{ asked: string | null }>('/api/addresses', { method: 'PUT', json: { prefix: wanted } });
    if (!answer.ok) return setProblem(answer.problem);
    setProblem(null);
    setAsked(answer.value.asked);
    setTyped(answer.value.asked ?? '');
  }
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void ask(typed);
  };
  return (
    <Form className="company addresses" onSubmit={submit} noValidate>
      <p className="finding">{COMPANY.addressesText}</p>
      <p>
        {prefix ? (
          <>
            {COMPANY.prefixNow} <strong className="mono">{`${shownLink(publicUrl)}/c/${prefix}-…`}</strong>
          </>
        ) : (
          COMPANY.noPrefix
        )}
      </p>
      <Form.Group controlId="address-prefix">
        <Form.Label>{prefix ? COMPANY.anotherPrefix : COMPANY.prefix}</Form.Label>
        <InputGroup>
          <InputGroup.Text className="mono">{shownLink(publicUrl)}/c/</InputGroup.Text>
          <Form.Control
            className="mono"
            value={typed}
            maxLength={60}
            autoCapitalize="off"
            spellCheck={false}
            {...invalid('prefix-problem', problem !== null)}
            onChange={({ target }) => setTyped(target.value)}
          />
          <InputGroup.Text className="mono">{COMPANY.prefixExample}</InputGroup.Text>
        </InputGroup>
        <ProblemNote problem={problem} id="prefix-problem" />
        <Form.Text>{COMPANY.prefixNote}</Form.Text>
      </Form.Group>
      <Button type="submit" disabled={typed.trim() === '' || typed === asked}>
        {COMPANY.askPrefix}
      </Button>
      <div role="status">
        {asked && (
          <p>
            {COMPANY.askedPrefix(asked)} <code>{`./heathland prefix allow ${asked} ${organisation}`}</code>{' '}
            <button type="button" className="plain" onClick={() => void ask('')}>
              {COMPANY.withdrawPrefix}
            </button>
          </p>
        )}
      </div>
    </Form>
  );
}
