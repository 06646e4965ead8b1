'use client';
import { useRouter } from 'next/navigation';
import { useState, type FormEvent } from 'react';
import { Button, Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { ACCOUNT } from '@/core/words';
import { call } from '@/ui/studio/call';
import { CopyButton } from '@/ui/studio/copy-button';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';

type Factor = { on: boolean; recoveryCodes: number; required: boolean };
type Begun = { secret: string; svg: string };

/** Sets a second factor up, step by step, or takes it away. */
export function SecondFactor({ factor }: { factor: Factor }) {
  const router = useRouter();
  const [begun, setBegun] = useState<Begun | null>(null);
  const [codes, setCodes] = useState<string[] | null>(null);
  const [code, setCode] = useState('');
  const [problem, setProblem] = useState<Problem | null>(null);

  async function begin() {
    const answer = await call<Begun>('/api/second-factor', { method: 'POST' });
    if (!answer.ok) return setProblem(answer.problem);
    setProblem(null);
    setBegun(answer.value);
  }
  async function confirm(event: FormEvent) {
    event.preventDefault();
    const answer = await call<{ codes: string[] }>('/api/second-factor', { method: 'PUT', json: { code } });
    if (!answer.ok) return setProblem(answer.problem);
    setProblem(null);
    setBegun(null);
    setCodes(answer.value.codes);
  }
  async function drop() {
    const answer = await call('/api/second-factor', { method: 'DELETE' });
    setProblem(answer.ok ? null : answer.problem);
    router.refresh();
  }

  if (codes)
    return (
      <div role="status">
        <p>{ACCOUNT.codesText}</p>
        <ol className="recovery mono">
          {codes.map((each) => (
            <li key={each}>{each}</li>
          ))}
        </ol>
        <p className="acts">
          <CopyButton text={codes.join('\n')}>{ACCOUNT.copyCodes}</CopyButton>{' '}
          <Button
            onClick={() => {
              setCodes(null);
              router.refresh();
            }}
          >
            {ACCOUNT.keptCodes}
          </Button>
        </p>
      </div>
    );
  if (begun)
    return (
      <Form onSubmit={confirm} noValidate>
        <p>{ACCOUNT.scan}</p>
        <div
          className="factor-code"
          role="img"
          aria-label={ACCOUNT.codeOfKey}
          dangerouslySetInnerHTML={{ __html: begun.svg }}
        />
        <p className="small">
          {ACCOUNT.orType} <code className="mono">{begun.secret.match(/.{1,4}/g)!.join(' ')}</code>
        </p>
        <Form.Group controlId="first-code">
          <Form.Label>{ACCOUNT.firstCode}</Form.Label>
          <Form.Control
            className="mono"
            inputMode="numeric"
            autoComplete="one-time-code"
            maxLength={10}
            value={code}
            autoFocus
            {...invalid('factor-problem', problem !== null)}
            onChange={({ target }) => setCode(target.value)}
          />
          <ProblemNote problem={problem} id="factor-problem" />
        </Form.Group>
        <Button type="submit" disabled={code.replace(/\s/g, '').length < 6}>
          {ACCOUNT.turnOn}
        </Button>
      </Form>
    );
  return (
    <>
      <p>{factor.on ? ACCOUNT.isOn(factor.recoveryCodes) : ACCOUNT.isOff}</p>
      <ProblemNote problem={problem} />
      {factor.on ? (
        <Button variant="quiet" onClick={drop}>
          {ACCOUNT.turnOff}
        </Button>
      ) : (
        <Button onClick={begin}>{ACCOUNT.setUp}</Button>
      )}
    </>
  );
}
