'use client';
import { useRouter } from 'next/navigation';
import { useForm } from 'react-hook-form';
import { Button, Form } from 'react-bootstrap';
import { useState } from 'react';
import Link from 'next/link';
import type { Problem } from '@/core/errors';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

export function SignIn() {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  const { register, handleSubmit, formState } = useForm<{ email: string; password: string }>();
  const submit = handleSubmit(async (input) => {
    const answer = await call('/api/sign-in', { json: input });
    if (!answer.ok) return setProblem(answer.problem);
    router.replace('/');
    router.refresh();
  });
  return (
    <main className="entry">
      <p className="word">Heathland</p>
      <h1>Cards that reach people, and nothing that should not.</h1>
      <Form onSubmit={submit} method="post" noValidate>
        <Form.Group controlId="email">
          <Form.Label>E-mail</Form.Label>
          <Form.Control type="email" autoComplete="username" autoFocus {...register('email')} />
        </Form.Group>
        <Form.Group controlId="password">
          <Form.Label>Password</Form.Label>
          <Form.Control
            type="password"
            autoComplete="current-password"
            aria-describedby="entry-problem"
            {...register('password')}
          />
        </Form.Group>
        <ProblemNote problem={problem} id="entry-problem" />
        <Button type="submit" disabled={formState.isSubmitting}>
          Sign in
        </Button>
      </Form>
      <p className="aside">
        No account yet? <Link href="/sign-up">Make one</Link>
      </p>
    </main>
  );
}
