'use client';
import { Form } from 'react-bootstrap';
import { FIELDS, type Field } from '@/core/roster';
import { ROSTER } from '@/core/words';

export type MappedColumn = { heading: string; samples: string[]; field: Field | null };

/** The columns of a sheet, a few values of each, and what each holds; a field is in one column alone. */
export function MappingTable({
  columns,
  needed,
  onColumns,
}: {
  columns: MappedColumn[];
  needed: readonly Field[];
  onColumns: (columns: MappedColumn[]) => void;
}) {
  const taken = new Set(columns.flatMap(({ field }) => field ?? []));
  const put = (at: number, field: Field | null) =>
    onColumns(columns.map((column, index) => (index === at ? { ...column, field } : column)));
  return (
    <div className="wide" tabIndex={0} role="region" aria-label={ROSTER.mapTitle}>
      <table className="rows mapping">
        <thead>
          <tr>
            <th>{ROSTER.heading}</th>
            <th>{ROSTER.samples}</th>
            <th>{ROSTER.holds}</th>
          </tr>
        </thead>
        <tbody>
          {columns.map(({ heading, samples, field }, at) => (
            <tr key={at} className={field ? undefined : 'nowhere'}>
              <th scope="row">{heading || '–'}</th>
              <td className="samples">{samples.join(' · ')}</td>
              <td>
                <Form.Select
                  size="sm"
                  aria-label={ROSTER.holdsOf(heading || String(at + 1))}
                  value={field ?? ''}
                  onChange={({ target }) => put(at, (target.value || null) as Field | null)}
                >
                  <option value="">{ROSTER.notUsed}</option>
                  {FIELDS.filter((each) => each === field || !taken.has(each)).map((each) => (
                    <option key={each} value={each}>
                      {ROSTER.fields[each]}
                      {needed.includes(each) ? ` (${ROSTER.sheet.needed})` : ''}
                    </option>
                  ))}
                </Form.Select>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
