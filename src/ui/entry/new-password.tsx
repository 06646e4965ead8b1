'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import type { Problem } from '@/core/errors';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

/** A password of one's own; `must` when somebody else chose the present one. */
export function NewPassword({ must }: { must: boolean }) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  const { register, handleSubmit, formState } = useForm<{ present: string; next: string }>();
  const submit = handleSubmit(async (input) => {
    const answer = await call('/api/password', { json: input });
    if (!answer.ok) return setProblem(answer.problem);
    router.replace('/');
    router.refresh();
  });
  const ofPresent = problem?.code === 'PASSWORD_WRONG';
  return (
    <main className="entry">
      <p className="word">Heathland</p>
      <h1>{must ? 'Choose a password that only you know.' : 'Change your password'}</h1>
      <Form onSubmit={submit} method="post" noValidate>
        <Form.Group controlId="present">
          <Form.Label>{must ? 'The first password that you were given' : 'Present password'}</Form.Label>
          <Form.Control type="password" autoComplete="current-password" autoFocus {...register('present')} />
          {ofPresent && <ProblemNote problem={problem} />}
        </Form.Group>
        <Form.Group controlId="next">
          <Form.Label>New password</Form.Label>
          <Form.Control type="password" autoComplete="new-password" {...register('next')} />
          {!ofPresent && <ProblemNote problem={problem} />}
        </Form.Group>
        <Button type="submit" disabled={formState.isSubmitting}>
          Keep it
        </Button>
      </Form>
      {!must && (
        <p className="aside">
          <Link href="/">Back</Link>
        </p>
      )}
    </main>
  );
}
