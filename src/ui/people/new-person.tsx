'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Button, Form } from 'react-bootstrap';
import { useForm } from 'react-hook-form';
import type { Problem, ProblemCode } from '@/core/errors';
import { FRAME, PEOPLE } from '@/core/messages';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { ContactFileDrop } from './contact-file-drop';

type Fields = {
  name: string;
  phone: string;
  email: string;
  forWork: { phone: boolean; email: boolean };
  both: boolean;
};

const FIELD_OF: Partial<Record<ProblemCode, 'name' | 'phone' | 'email'>> = {
  NAME_MISSING: 'name',
  TEXT_TOO_LONG: 'name',
  PHONE_UNREADABLE: 'phone',
  EMAIL_UNREADABLE: 'email',
};

/** Two ways to a record and its first card: drop a contact file, or type three things. */
export function NewPerson() {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  const { register, handleSubmit, formState } = useForm<Fields>();
  const submit = handleSubmit(async (fields) => {
    const answer = await call<{ cardId: string }>('/api/records', { json: fields });
    if (!answer.ok) return setProblem(answer.problem);
    router.push(`/cards/${answer.value.cardId}`);
  });
  const at = problem ? (FIELD_OF[problem.code] ?? null) : null;
  const field = (name: 'name' | 'phone' | 'email', label: string, type: string, autoComplete: string) => (
    <Form.Group controlId={`new-${name}`}>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        type={type}
        autoComplete={autoComplete}
        isInvalid={at === name}
        aria-describedby={at === name ? `new-${name}-problem` : undefined}
        {...register(name)}
      />
      {at === name && <ProblemNote problem={problem} id={`new-${name}-problem`} />}
    </Form.Group>
  );
  const forWork = (name: 'phone' | 'email') => (
    <label className="for-work">
      <input type="checkbox" aria-label={PEOPLE.forWorkOf(name)} {...register(`forWork.${name}`)} /> {PEOPLE.forWork}
    </label>
  );
  return (
    <div className="new-person">
      <ContactFileDrop />
      <Form onSubmit={submit} noValidate>
        <h2 className="caps">{PEOPLE.orType}</h2>
        {field('name', FRAME.name, 'text', 'off')}
        {field('phone', PEOPLE.phone, 'tel', 'off')}
        {forWork('phone')}
        {field('email', PEOPLE.email, 'email', 'off')}
        {forWork('email')}
        <label className="both">
          <input type="checkbox" {...register('both')} /> {PEOPLE.both}
        </label>
        {problem && !at && <ProblemNote problem={problem} />}
        <Button type="submit" disabled={formState.isSubmitting}>
          {PEOPLE.make}
        </Button>
        <Form.Text>{PEOPLE.onlyName}</Form.Text>
      </Form>
    </div>
  );
}
