'use client';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import type { Problem } from '@/core/errors';
import { ENTRY, INVITE } from '@/core/words';
import { call } from '@/ui/studio/call';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';

/** Whom a firm has made a card for takes it up: with a password, or without one. */
export function WelcomeForm({ token, firm, name }: { token: string; firm: string; name: string }) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const { register, handleSubmit, formState } = useForm<{ password: string }>();
  const submit = handleSubmit(async ({ password }) => {
    const answer = await call('/api/welcome', { json: { token, password } });
    if (!answer.ok) return setProblem(answer.problem);
    window.location.assign('/mine');
  });
  return (
    <main className="entry">
      <p className="word">{ENTRY.product}</p>
      <h1>{INVITE.welcome(firm)}</h1>
      <p>{INVITE.welcomeText(name)}</p>
      <Form onSubmit={submit} method="post" action="/api/welcome" noValidate>
        <input type="hidden" name="token" value={token} />
        <Form.Group controlId="password">
          <Form.Label>{INVITE.password}</Form.Label>
          <Form.Control
            type="password"
            autoComplete="new-password"
            autoFocus
            {...register('password')}
            {...invalid('welcome-problem', problem !== null)}
          />
          {problem ? (
            <ProblemNote problem={problem} id="welcome-problem" />
          ) : (
            <Form.Text>
              {ENTRY.passwordNote} {INVITE.passwordNote}
            </Form.Text>
          )}
        </Form.Group>
        <Button type="submit" disabled={formState.isSubmitting}>
          {INVITE.enter}
        </Button>
      </Form>
    </main>
  );
}
