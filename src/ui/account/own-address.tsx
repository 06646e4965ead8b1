'use client';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import type { Problem } from '@/core/errors';
import { ACCOUNT, ENTRY } from '@/core/words';
import { call } from '@/ui/studio/call';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';
import { AskAgain } from './ask-again';

export type OwnEmail = { email: string; confirmed: boolean; open: boolean };

/** The address that somebody signs in with: whether it is confirmed, and how the account moves to another one. */
export function OwnAddress({ email, confirmed, open }: OwnEmail) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const [told, setTold] = useState<string | null>(null);
  const { register, handleSubmit, formState, reset } = useForm<{ email: string }>();
  const submit = handleSubmit(async (input) => {
    const answer = await call('/api/address', { json: input });
    setProblem(answer.ok ? null : answer.problem);
    setTold(answer.ok ? ACCOUNT.moveAsked(confirmed) : null);
    if (answer.ok) reset();
  });
  return (
    <>
      <p>
        <strong>{email}</strong> <span className="small">{confirmed ? ACCOUNT.isConfirmed : ACCOUNT.notConfirmed}</span>
      </p>
      {!open && <p className="small">{ENTRY.noMail}</p>}
      {open && !confirmed && <AskAgain />}
      {open && (
        <Form className="own-address" onSubmit={submit} noValidate>
          <Form.Group controlId="next-address">
            <Form.Label>{ACCOUNT.otherAddress}</Form.Label>
            <Form.Control
              type="email"
              autoComplete="email"
              {...register('email')}
              {...invalid('next-address-problem', problem !== null)}
            />
            <ProblemNote problem={problem} id="next-address-problem" />
          </Form.Group>
          <Button type="submit" variant="quiet" disabled={formState.isSubmitting}>
            {ACCOUNT.askToMove}
          </Button>
          <p role="status" className="small">
            {told}
          </p>
        </Form>
      )}
    </>
  );
}
