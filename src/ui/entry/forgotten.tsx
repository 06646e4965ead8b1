'use client';
import Link from 'next/link';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import type { Problem } from '@/core/errors';
import { ENTRY } from '@/core/words';
import { call } from '@/ui/studio/call';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';

/** Asks for a link by which a new password is chosen; `open` where mail leaves this installation. What it answers tells nobody who has an account. */
export function Forgotten({ open, sent, told }: { open: boolean; sent: boolean; told: Problem | null }) {
  const [problem, setProblem] = useState<Problem | null>(told);
  const [done, setDone] = useState(sent);
  const { register, handleSubmit, formState } = useForm<{ email: string }>();
  const submit = handleSubmit(async (input) => {
    const answer = await call('/api/password/forgotten', { json: input });
    setProblem(answer.ok ? null : answer.problem);
    setDone(answer.ok);
  });
  return (
    <main className="entry">
      <p className="word">{ENTRY.product}</p>
      <h1>{ENTRY.forgottenTitle}</h1>
      {!open && <p>{ENTRY.noMail}</p>}
      {done && <p role="status">{ENTRY.linkSent}</p>}
      {open && !done && (
        <Form onSubmit={submit} method="post" action="/api/password/forgotten" noValidate>
          <Form.Group controlId="email">
            <Form.Label>{ENTRY.email}</Form.Label>
            <Form.Control
              type="email"
              autoComplete="username"
              autoFocus
              {...register('email')}
              {...invalid('email-problem', problem !== null)}
            />
            <ProblemNote problem={problem} id="email-problem" />
          </Form.Group>
          <Button type="submit" disabled={formState.isSubmitting}>
            {ENTRY.sendLink}
          </Button>
        </Form>
      )}
      <p className="aside">
        <Link href="/sign-in">{ENTRY.signIn}</Link>
      </p>
    </main>
  );
}
