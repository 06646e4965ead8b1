'use client';
import { useState } from 'react';
import { Button, Form, Modal } from 'react-bootstrap';
import { useForm, useWatch } from 'react-hook-form';
import { ROLES, type Role } from '@/core/access';
import type { Problem, ProblemCode } from '@/core/errors';
import { COMPANY, FRAME, ROLE_NOTES } from '@/core/words';
import { call } from '@/ui/studio/call';
import type { Choice } from '@/ui/studio/picker';
import { invalid, ProblemNote } from '@/ui/studio/problem-note';
import { PersonPicker } from '@/ui/company/person-picker';

type Input = { name: string; email: string; role: Role; password: string };
type Field = keyof Input | 'ownRecord';
type Props = { onClose: () => void; onDone: () => void };

/** Which field a problem belongs to, so that it stands beside its cause. */
const FIELD_OF: Partial<Record<ProblemCode, Field>> = {
  NAME_MISSING: 'name',
  TEXT_TOO_LONG: 'name',
  EMAIL_UNREADABLE: 'email',
  EMAIL_IN_USE: 'email',
  EMAIL_UNCONFIRMED: 'email',
  HOLDER_NEEDS_RECORD: 'ownRecord',
  PASSWORD_SHORT: 'password',
  PASSWORD_LONG: 'password',
};

/** A member with a first password; what is not understood is said beside its field. */
export function NewMember({ onClose, onDone }: Props) {
  const [ownRecord, setOwnRecord] = useState<Choice | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const { register, handleSubmit, control, formState } = useForm<Input>({
    defaultValues: { role: 'holder' },
  });
  const submit = handleSubmit(async (input) => {
    const answer = await call('/api/members', { json: { ...input, ownRecord: ownRecord?.id ?? null } });
    if (answer.ok) onDone();
    else setProblem(answer.problem);
  });
  const field = problem ? (FIELD_OF[problem.code] ?? 'password') : null;
  const noteOf = (name: Field) =>
    field === name ? <ProblemNote problem={problem} id={`member-${name}-problem`} /> : null;
  const wrong = (name: Field) => invalid(`member-${name}-problem`, field === name);
  const role = useWatch({ control, name: 'role' });
  return (
    <Modal show onHide={onClose} animation={false} aria-labelledby="new-member">
      <Form onSubmit={submit} noValidate>
        <Modal.Header closeButton>
          <Modal.Title id="new-member">{COMPANY.addMember}</Modal.Title>
        </Modal.Header>
        <Modal.Body className="form-rows">
          <Form.Group controlId="member-name">
            <Form.Label>{FRAME.name}</Form.Label>
            <Form.Control autoFocus {...register('name')} {...wrong('name')} />
            {noteOf('name')}
          </Form.Group>
          <Form.Group controlId="member-email">
            <Form.Label>{COMPANY.column.email}</Form.Label>
            <Form.Control type="email" autoComplete="off" {...register('email')} {...wrong('email')} />
            {noteOf('email')}
          </Form.Group>
          <Form.Group controlId="member-role">
            <Form.Label>{COMPANY.column.role}</Form.Label>
            <Form.Select {...register('role')}>
              {ROLES.map((each) => (
                <option key={each}>{each}</option>
              ))}
            </Form.Select>
            <Form.Text>{ROLE_NOTES[role]}</Form.Text>
          </Form.Group>
          <div>
            <PersonPicker
              word={COMPANY.column.ownRecord}
              chosen={ownRecord}
              onChoose={setOwnRecord}
              wrong={wrong('ownRecord')}
            />
            {noteOf('ownRecord')}
          </div>
          <Form.Group controlId="member-password">
            <Form.Label>{COMPANY.firstPassword}</Form.Label>
            <Form.Control autoComplete="off" className="mono" {...register('password')} {...wrong('password')} />
            <Form.Text>{COMPANY.firstPasswordNote}</Form.Text>
            {noteOf('password')}
          </Form.Group>
        </Modal.Body>
        <Modal.Footer>
          <Button type="submit" disabled={formState.isSubmitting}>
            {COMPANY.addTheMember}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
