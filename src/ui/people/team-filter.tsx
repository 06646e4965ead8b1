'use client';
import { useRouter } from 'next/navigation';
import { Form } from 'react-bootstrap';
import { PEOPLE } from '@/core/words';

type Props = {
  teams: { id: string; name: string; people: number }[];
  group: { asked: string; team: string | null; name: string } | null;
};

/** Narrows the list to a team, or back to everybody. */
export function TeamFilter({ teams, group }: Props) {
  const router = useRouter();
  return (
    <Form.Select
      aria-label={PEOPLE.whom}
      value={group?.team ?? (group ? 'run' : '')}
      onChange={({ target }) => router.push(target.value ? `/people?team=${target.value}` : '/people')}
    >
      <option value="">{PEOPLE.everybody}</option>
      {group && group.team === null && <option value="run">{group.name}</option>}
      {teams.map(({ id, name, people }) => (
        <option key={id} value={id}>
          {PEOPLE.team(name, people)}
        </option>
      ))}
    </Form.Select>
  );
}
