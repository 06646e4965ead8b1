'use client';
import { useId, useState } from 'react';
import { Form } from 'react-bootstrap';
import type { Problem } from '@/core/errors';
import { OFFICES } from '@/core/words';
import { call } from '@/ui/studio/call';
import { ProblemNote } from '@/ui/studio/problem-note';

export type OfficeChoice = { office: { id: string; name: string } | null; offices: { id: string; name: string }[] };

/** The office that a person belongs to; chosen by whoever may, told to everybody else. */
export function OfficeOf({ record, choice: { office, offices } }: { record: string; choice: OfficeChoice }) {
  const id = useId();
  const [now, setNow] = useState(office?.id ?? '');
  const [problem, setProblem] = useState<Problem | null>(null);
  if (offices.length === 0)
    return (
      office && (
        <span>
          {OFFICES.ofPerson}: {office.name}
        </span>
      )
    );
  async function put(next: string) {
    const before = now;
    setNow(next);
    const answer = await call('/api/offices/people', { json: { office: next || null, records: [record] } });
    setProblem(answer.ok ? null : answer.problem);
    if (!answer.ok) setNow(before);
  }
  return (
    <span className="office-of">
      <label htmlFor={id}>{OFFICES.ofPerson}</label>
      <Form.Select id={id} size="sm" value={now} onChange={({ target }) => void put(target.value)}>
        <option value="">{OFFICES.noOffice}</option>
        {offices.map((each) => (
          <option key={each.id} value={each.id}>
            {each.name}
          </option>
        ))}
      </Form.Select>
      <ProblemNote problem={problem} />
    </span>
  );
}
