'use client';
import { useRouter } from 'next/navigation';
import { Form } from 'react-bootstrap';
import { OFFICES, PEOPLE } from '@/core/words';

/** What a list is narrowed to, as its address says it ("team=…"), and in words. */
export type ShownGroup = { asked: string; name: string };

type Props = {
  teams: { id: string; name: string; people: number }[];
  offices: { id: string; name: string }[];
  group: ShownGroup | null;
};

/** Narrows the list to a team or an office, or back to everybody. */
export function GroupFilter({ teams, offices, group }: Props) {
  const router = useRouter();
  return (
    <Form.Select
      aria-label={PEOPLE.whom}
      value={group?.asked ?? ''}
      onChange={({ target }) => router.push(target.value ? `/people?${target.value}` : '/people')}
    >
      <option value="">{PEOPLE.everybody}</option>
      {group?.asked.startsWith('run=') && <option value={group.asked}>{group.name}</option>}
      {teams.length > 0 && (
        <optgroup label={PEOPLE.teams}>
          {teams.map(({ id, name, people }) => (
            <option key={id} value={`team=${id}`}>
              {PEOPLE.team(name, people)}
            </option>
          ))}
        </optgroup>
      )}
      {offices.length > 0 && (
        <optgroup label={OFFICES.manage}>
          {offices.map(({ id, name }) => (
            <option key={id} value={`office=${id}`}>
              {name}
            </option>
          ))}
        </optgroup>
      )}
    </Form.Select>
  );
}
