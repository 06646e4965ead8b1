import { isWarned, privacyOf, type ComposedLine } from '@/core/card';
import { shownValue, type PersonRecord } from '@/core/record';
import { CODES } from '@/core/words';

/** Private values among the lines that a frozen code carries, in colour: they leave for good. */
export function LeavingLines({ lines, record }: { lines: ComposedLine[]; record: PersonRecord }) {
  const leaving = lines.filter(({ detail }) => isWarned(privacyOf(detail, record)));
  if (leaving.length === 0) return null;
  return (
    <div className="attention" role="status">
      {leaving.length === 1 ? CODES.leavesOne : CODES.leaves}
      <ul>
        {leaving.map(({ id, detail }) => (
          <li key={id}>{shownValue(detail)}</li>
        ))}
      </ul>
    </div>
  );
}
