'use client';
import { useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { useForm, useWatch } from 'react-hook-form';
import { ROLES, type Role } from '@/core/access';
import type { Problem, ProblemCode } from '@/core/errors';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';
import { ROLE_NOTES } from './member';

type Input = { name: string; email: string; role: Role; ownRecord: string; password: string };
type Props = { people: { id: string; name: string }[]; onClose: () => void; onDone: () => void };

/** Which field a problem belongs to, so that it stands beside its cause. */
const FIELD_OF: Partial<Record<ProblemCode, keyof Input>> = {
  NAME_MISSING: 'name',
  TEXT_TOO_LONG: 'name',
  EMAIL_UNREADABLE: 'email',
  EMAIL_IN_USE: 'email',
  HOLDER_NEEDS_RECORD: 'ownRecord',
  PASSWORD_SHORT: 'password',
  PASSWORD_LONG: 'password',
};

/** A member with a first password; what is not understood is said beside its field. */
export function NewMember({ people, onClose, onDone }: Props) {
  const [problem, setProblem] = useState<Problem | null>(null);
  const { register, handleSubmit, control, formState } = useForm<Input>({
    defaultValues: { role: 'holder', ownRecord: '' },
  });
  const submit = handleSubmit(async ({ ownRecord, ...input }) => {
    const answer = await call('/api/members', { json: { ...input, ownRecord: ownRecord || null } });
    if (answer.ok) onDone();
    else setProblem(answer.problem);
  });
  const field = problem ? (FIELD_OF[problem.code] ?? 'password') : null;
  const noteOf = (name: keyof Input) => (field === name ? <ProblemNote problem={problem} /> : null);
  const role = useWatch({ control, name: 'role' });
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="new-member">
      <Form onSubmit={submit} noValidate>
        <Modal.Header closeButton>
          <Modal.Title id="new-member">Add a member</Modal.Title>
        </Modal.Header>
        <Modal.Body className="form-rows">
          <Form.Group controlId="member-name">
            <Form.Label>Name</Form.Label>
            <Form.Control autoFocus {...register('name')} isInvalid={field === 'name'} />
            {noteOf('name')}
          </Form.Group>
          <Form.Group controlId="member-email">
            <Form.Label>E-mail</Form.Label>
            <Form.Control type="email" autoComplete="off" {...register('email')} isInvalid={field === 'email'} />
            {noteOf('email')}
          </Form.Group>
          <Form.Group controlId="member-role">
            <Form.Label>Role</Form.Label>
            <Form.Select {...register('role')}>
              {ROLES.map((each) => (
                <option key={each}>{each}</option>
              ))}
            </Form.Select>
            <Form.Text>{ROLE_NOTES[role]}</Form.Text>
          </Form.Group>
          <Form.Group controlId="member-record">
            <Form.Label>Own record</Form.Label>
            <Form.Select {...register('ownRecord')} isInvalid={field === 'ownRecord'}>
              <option value="">none</option>
              {people.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </Form.Select>
            {noteOf('ownRecord')}
          </Form.Group>
          <Form.Group controlId="member-password">
            <Form.Label>First password</Form.Label>
            <Form.Control
              autoComplete="off"
              className="mono"
              {...register('password')}
              isInvalid={field === 'password'}
            />
            <Form.Text>Tell it to them yourself. It must be changed at the first sign-in.</Form.Text>
            {noteOf('password')}
          </Form.Group>
        </Modal.Body>
        <Modal.Footer>
          <Button type="submit" disabled={formState.isSubmitting}>
            Add the member
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
