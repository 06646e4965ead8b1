'use client';
import { useRouter } from 'next/navigation';
import { useForm } from 'react-hook-form';
import { Button, Form } from 'react-bootstrap';
import { useState } from 'react';
import Link from 'next/link';
import type { Problem, ProblemCode } from '@/core/errors';
import { ENTRY, INVITE } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

const ASKS_FOR_CODE = new Set<ProblemCode>(['SECOND_FACTOR_NEEDED', 'SECOND_FACTOR_WRONG']);
type Typed = { email: string; password: string; mailed?: string; code?: string };

/** `open` says whether anybody may make an account, `mail` whether a code can be sent in the place of a password. */
export function SignIn({ told, open, mail }: { told: Problem | null; open: boolean; mail: boolean }) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(told);
  /** Whether a code was sent to sign in by. */
  const [sent, setSent] = useState(false);
  const { register, handleSubmit, formState, getValues, resetField } = useForm<Typed>();
  const submit = handleSubmit(async ({ password, mailed, ...input }) => {
    const json = sent ? { ...input, password: '', mailed: (mailed ?? '').replace(/\s/g, '') } : { ...input, password };
    const answer = await call('/api/sign-in', { json });
    if (!answer.ok) return setProblem(answer.problem);
    router.replace('/');
    router.refresh();
  });
  async function send() {
    const answer = await call('/api/sign-in/code', { json: { email: getValues('email') } });
    setProblem(answer.ok ? null : answer.problem);
    setSent(answer.ok);
  }
  function withPassword() {
    setSent(false);
    setProblem(null);
    resetField('mailed');
  }
  return (
    <main className="entry">
      <p className="word">{ENTRY.product}</p>
      <h1>{ENTRY.motto}</h1>
      <Form onSubmit={submit} method="post" action="/api/sign-in" noValidate>
        <Form.Group controlId="email">
          <Form.Label>{ENTRY.email}</Form.Label>
          <Form.Control type="email" autoComplete="username" autoFocus {...register('email')} />
        </Form.Group>
        {sent ? (
          <Form.Group controlId="mailed">
            <p role="status">{INVITE.code.sent}</p>
            <Form.Label>{INVITE.code.field}</Form.Label>
            <Form.Control
              className="mono"
              inputMode="numeric"
              autoComplete="one-time-code"
              maxLength={10}
              autoFocus
              aria-describedby="entry-problem"
              {...register('mailed')}
            />
          </Form.Group>
        ) : (
          <Form.Group controlId="password">
            <Form.Label>{ENTRY.password}</Form.Label>
            <Form.Control
              type="password"
              autoComplete="current-password"
              aria-describedby="entry-problem"
              {...register('password')}
            />
          </Form.Group>
        )}
        {problem && ASKS_FOR_CODE.has(problem.code) && (
          <Form.Group controlId="code">
            <Form.Label>{ENTRY.code}</Form.Label>
            <Form.Control
              className="mono"
              inputMode="text"
              autoComplete="one-time-code"
              maxLength={40}
              autoFocus
              aria-describedby="entry-problem"
              {...register('code')}
            />
          </Form.Group>
        )}
        <ProblemNote problem={problem} id="entry-problem" />
        <Button type="submit" disabled={formState.isSubmitting}>
          {ENTRY.signIn}
        </Button>
      </Form>
      {mail && (
        <p className="aside">
          <button type="button" className="plain" onClick={sent ? withPassword : () => void send()}>
            {sent ? INVITE.code.withPassword : INVITE.code.instead}
          </button>
        </p>
      )}
      <p className="aside">
        <Link href="/forgotten">{ENTRY.forgotten}</Link>
      </p>
      {open && (
        <p className="aside">
          {ENTRY.noAccount} <Link href="/sign-up">{ENTRY.makeOne}</Link>
        </p>
      )}
    </main>
  );
}
