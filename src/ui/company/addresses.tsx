'use client';
import { useState, type FormEvent } from 'react';
import { Button, Form, InputGroup } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { COMPANY } from '@/core/messages';
import { shownLink } from '@/core/record';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

/** The beginning that the organisation's addresses have. */
export function Addresses({ prefix, publicUrl }: { prefix: string | null; publicUrl: string }) {
  const [typed, setTyped] = useState(prefix ?? '');
  const [saved, setSaved] = useState(false);
  const [problem, setProblem] = useState<Problem | null>(null);
  async function save(event: FormEvent) {
    event.preventDefault();
    const answer = await call<{ prefix: string | null }>('/api/addresses', { method: 'PUT', json: { prefix: typed } });
    if (!answer.ok) return setProblem(answer.problem);
    setProblem(null);
    setTyped(answer.value.prefix ?? '');
    setSaved(true);
  }
  return (
    <Form className="company addresses" onSubmit={save} noValidate>
      <p className="finding">{COMPANY.addressesText}</p>
      <Form.Group controlId="address-prefix">
        <Form.Label>{COMPANY.prefix}</Form.Label>
        <InputGroup>
          <InputGroup.Text className="mono">{shownLink(publicUrl)}/c/</InputGroup.Text>
          <Form.Control
            className="mono"
            value={typed}
            maxLength={60}
            autoCapitalize="off"
            spellCheck={false}
            isInvalid={problem !== null}
            onChange={({ target }) => {
              setTyped(target.value);
              setSaved(false);
            }}
          />
          <InputGroup.Text className="mono">{COMPANY.prefixExample}</InputGroup.Text>
        </InputGroup>
        <ProblemNote problem={problem} />
        <Form.Text>{COMPANY.prefixNote}</Form.Text>
      </Form.Group>
      <Button type="submit" disabled={typed === (prefix ?? '') && !saved}>
        {COMPANY.savePrefix}
      </Button>
      <span role="status">{saved ? COMPANY.savedPrefix : ''}</span>
    </Form>
  );
}
