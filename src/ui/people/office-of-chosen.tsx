'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { OFFICES } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

type Props = { chosen: string[]; offices: { id: string; name: string }[] };
const NONE = 'none';

/** Has the people chosen belong to an office, or to none. */
export function OfficeOfChosen({ chosen, offices }: Props) {
  const router = useRouter();
  const [problem, setProblem] = useState<Problem | null>(null);
  async function put(office: string) {
    const json = { office: office === NONE ? null : office, records: chosen };
    const answer = await call('/api/offices/people', { json });
    setProblem(answer.ok ? null : answer.problem);
    if (answer.ok) router.refresh();
  }
  return (
    <span className="team-of-chosen">
      <Form.Select size="sm" aria-label={OFFICES.intoOffice} value="" onChange={({ target }) => void put(target.value)}>
        <option value="">{OFFICES.intoOffice}</option>
        {offices.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
        <option value={NONE}>{OFFICES.noOffice}</option>
      </Form.Select>
      <ProblemNote problem={problem} />
    </span>
  );
}
