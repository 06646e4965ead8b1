'use client';
import Link from 'next/link';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import type { Problem } from '@/core/errors';
import { ENTRY } from '@/core/words';
import { call } from '@/ui/studio/call';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';

/** A new password for whoever holds the link of a letter. */
export function ReplacePassword({ token }: { token: string }) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const [done, setDone] = useState(false);
  const { register, handleSubmit, formState } = useForm<{ next: string }>();
  const submit = handleSubmit(async ({ next }) => {
    const answer = await call('/api/password/replace', { json: { token, next } });
    setProblem(answer.ok ? null : answer.problem);
    setDone(answer.ok);
  });
  return (
    <main className="entry">
      <p className="word">{ENTRY.product}</p>
      <h1>{ENTRY.choosePassword}</h1>
      {done ? (
        <>
          <p role="status">{ENTRY.passwordReplaced}</p>
          <Link className="btn btn-primary" href="/sign-in">
            {ENTRY.signIn}
          </Link>
        </>
      ) : (
        <Form onSubmit={submit} method="post" noValidate>
          <Form.Group controlId="next">
            <Form.Label>{ENTRY.newPassword}</Form.Label>
            <Form.Control
              type="password"
              autoComplete="new-password"
              autoFocus
              {...register('next')}
              {...invalid('next-problem', problem !== null)}
            />
            {problem ? (
              <ProblemNote problem={problem} id="next-problem" />
            ) : (
              <Form.Text>{ENTRY.passwordNote}</Form.Text>
            )}
          </Form.Group>
          <Button type="submit" disabled={formState.isSubmitting}>
            {ENTRY.keepIt}
          </Button>
        </Form>
      )}
    </main>
  );
}
