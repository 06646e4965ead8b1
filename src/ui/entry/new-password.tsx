'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import type { Problem } from '@/core/errors';
import { ENTRY } from '@/core/words';
import { call } from '@/ui/studio/call';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';

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
      <p className="word">{ENTRY.product}</p>
      <h1>{must ? ENTRY.choosePassword : ENTRY.changePassword}</h1>
      <Form onSubmit={submit} method="post" noValidate>
        <Form.Group controlId="present">
          <Form.Label>{must ? ENTRY.givenPassword : ENTRY.presentPassword}</Form.Label>
          <Form.Control
            type="password"
            autoComplete="current-password"
            autoFocus
            {...register('present')}
            {...invalid('present-problem', ofPresent)}
          />
          {ofPresent && <ProblemNote problem={problem} id="present-problem" />}
        </Form.Group>
        <Form.Group controlId="next">
          <Form.Label>{ENTRY.newPassword}</Form.Label>
          <Form.Control
            type="password"
            autoComplete="new-password"
            {...register('next')}
            {...invalid('next-problem', problem !== null && !ofPresent)}
          />
          {!ofPresent && <ProblemNote problem={problem} id="next-problem" />}
        </Form.Group>
        <Button type="submit" disabled={formState.isSubmitting}>
          {ENTRY.keepIt}
        </Button>
      </Form>
      {!must && (
        <p className="aside">
          <Link href="/">{ENTRY.back}</Link>
        </p>
      )}
    </main>
  );
}
