'use client';
import { useRouter } from 'next/navigation';
import { useForm } from 'react-hook-form';
import { Button, Form } from 'react-bootstrap';
import { useState } from 'react';
import Link from 'next/link';
import type { Problem, ProblemCode } from '@/core/errors';
import { ENTRY } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

const ASKS_FOR_CODE = new Set<ProblemCode>(['SECOND_FACTOR_NEEDED', 'SECOND_FACTOR_WRONG']);

/** `open` says whether anybody may make an account. */
export function SignIn({ told, open }: { told: Problem | null; open: boolean }) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(told);
  const { register, handleSubmit, formState } = useForm<{ email: string; password: string; code?: string }>();
  const submit = handleSubmit(async (input) => {
    const answer = await call('/api/sign-in', { json: input });
    if (!answer.ok) return setProblem(answer.problem);
    router.replace('/');
    router.refresh();
  });
  return (
    <main className="entry">
      <p className="word">{ENTRY.product}</p>
      <h1>{ENTRY.motto}</h1>
      <Form onSubmit={submit} method="post" action="/api/sign-in" noValidate>
        <Form.Group controlId="email">
          <Form.Label>{ENTRY.email}</Form.Label>
          <Form.Control type="email" autoComplete="username" autoFocus {...register('email')} />
        </Form.Group>
        <Form.Group controlId="password">
          <Form.Label>{ENTRY.password}</Form.Label>
          <Form.Control
            type="password"
            autoComplete="current-password"
            aria-describedby="entry-problem"
            {...register('password')}
          />
        </Form.Group>
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
