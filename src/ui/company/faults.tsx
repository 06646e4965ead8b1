import { FAULTS } from '@/core/words';
import { instantIn } from '@/ui/studio/instant';

type Fault = { sweep: string; code: string; count: number; first: string; last: string };

/** What goes wrong again and again without anybody having asked for it; nothing where all is well. */
export function Faults({ faults, timeZone }: { faults: Fault[]; timeZone: string }) {
  if (faults.length === 0) return null;
  return (
    <section className="company" aria-labelledby="faults">
      <h2 id="faults">{FAULTS.title}</h2>
      <p className="small">{FAULTS.note}</p>
      <div className="wide">
        <table className="rows">
          <thead>
            <tr>
              <th>{FAULTS.column.what}</th>
              <th>{FAULTS.column.since}</th>
              <th>{FAULTS.column.last}</th>
              <th className="num">{FAULTS.column.times}</th>
              <th>{FAULTS.column.code}</th>
            </tr>
          </thead>
          <tbody>
            {faults.map(({ sweep, code, count, first, last }) => (
              <tr key={`${sweep} ${first}`}>
                <td className="state failed">
                  <i aria-hidden="true">×</i> {FAULTS.sweep[sweep] ?? sweep}
                </td>
                <td className="mono">{instantIn(timeZone, first)}</td>
                <td className="mono">{instantIn(timeZone, last)}</td>
                <td className="num">{count}</td>
                <td className="mono">{code}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
