'use client';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { ACTS, type Act } from '@/core/access';
import { ACT_WORDS, COMPANY } from '@/core/words';
import { instantIn, timeIn } from '@/ui/studio/instant';

type Line = {
  id: string;
  at: string;
  who: string;
  act: Act;
  subject: { kind: string; id: string; name: string; href: string | null };
  data: Record<string, string | number | boolean | null>;
};
type Filter = { act: Act | null; userId: string | null; subjectId: string | null; before: string | null };
type Props = {
  page: { lines: Line[]; next: string | null; members: { id: string; name: string }[] };
  filter: Filter;
  timeZone: string;
};

function addressOf(filter: Filter): string {
  const query = new URLSearchParams();
  if (filter.act) query.set('act', filter.act);
  if (filter.userId) query.set('who', filter.userId);
  if (filter.subjectId) query.set('of', filter.subjectId);
  if (filter.before) query.set('before', filter.before);
  return `/company/audit${query.size > 0 ? `?${query}` : ''}`;
}

/** Who did what to what, newest first; each filter is part of the address. */
export function AuditTrail({ page, filter, timeZone }: Props) {
  const router = useRouter();
  const narrow = (change: Partial<Filter>) => router.push(addressOf({ ...filter, before: null, ...change }));
  const narrowed = filter.act !== null || filter.userId !== null || filter.subjectId !== null;
  return (
    <section className="company">
      <div className="company-acts">
        <div className="filters">
          <select
            className="form-select"
            aria-label={COMPANY.who}
            value={filter.userId ?? ''}
            onChange={(event) => narrow({ userId: event.target.value || null })}
          >
            <option value="">{COMPANY.everybody}</option>
            {page.members.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
          <select
            className="form-select"
            aria-label={COMPANY.didWhat}
            value={filter.act ?? ''}
            onChange={(event) => narrow({ act: (event.target.value || null) as Act | null })}
          >
            <option value="">{COMPANY.didAnything}</option>
            {ACTS.map((act) => (
              <option key={act} value={act}>
                {ACT_WORDS[act]}
              </option>
            ))}
          </select>
          {narrowed && (
            <button type="button" className="plain" onClick={() => router.push('/company/audit')}>
              {COMPANY.showAll}
            </button>
          )}
        </div>
        <p className="small">{COMPANY.auditNote(timeZone)}</p>
      </div>
      <div className="wide">
        <table className="rows dense">
          <thead>
            <tr>
              <th>{COMPANY.auditColumn.when}</th>
              <th>{COMPANY.auditColumn.who}</th>
              <th>{COMPANY.auditColumn.did}</th>
              <th>{COMPANY.auditColumn.to}</th>
              <th>{COMPANY.auditColumn.with}</th>
            </tr>
          </thead>
          <tbody>
            {page.lines.map((line) => (
              <tr key={line.id}>
                <td className="mono">
                  <time dateTime={line.at}>{instantIn(timeZone, line.at)}</time>
                </td>
                <td>{line.who}</td>
                <td>{ACT_WORDS[line.act] ?? line.act}</td>
                <td>
                  {line.subject.href ? <Link href={line.subject.href}>{line.subject.name}</Link> : line.subject.name}
                  {filter.subjectId !== line.subject.id && (
                    <button
                      type="button"
                      className="plain also"
                      onClick={() => narrow({ subjectId: line.subject.id })}
                      aria-label={COMPANY.onlyThisOf(line.subject.name)}
                    >
                      {COMPANY.onlyThis}
                    </button>
                  )}
                </td>
                <td className="mono">
                  {Object.entries(line.data)
                    .filter(([, value]) => value !== null)
                    .map(
                      ([name, value]) =>
                        `${name} ${name === 'since' ? timeIn(timeZone, Date.parse(String(value))) : value}`,
                    )
                    .join(', ')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {page.lines.length === 0 && <p className="nothing">{narrowed ? COMPANY.nothingFits : COMPANY.nothingYet}</p>}
      </div>
      {page.next && (
        <p>
          <Link href={addressOf({ ...filter, before: page.next })}>{COMPANY.earlier}</Link>
        </p>
      )}
    </section>
  );
}
