'use client';
import { useRouter } from 'next/navigation';
import { Form } from 'react-bootstrap';
import { RESPONSE } from '@/core/words';

type Props = { teams: { id: string; name: string }[]; team: string | null; base: string };

/** Narrows the figures to the cards of a team, or back to all. */
export function TeamOfFigures({ teams, team, base }: Props) {
  const router = useRouter();
  return (
    <Form.Select
      size="sm"
      className="of-team"
      aria-label={RESPONSE.whose}
      value={team ?? ''}
      onChange={({ target }) => router.push(target.value ? `${base}&team=${target.value}` : base)}
    >
      <option value="">{RESPONSE.everybody}</option>
      {teams.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </Form.Select>
  );
}
