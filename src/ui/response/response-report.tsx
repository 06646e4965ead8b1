import Link from 'next/link';
import { figure } from '@/core/language';
import { findingOf, RESPONSE } from '@/core/words';
import { PERIODS, type Figures, type Summary } from '@/core/response';
import { LoadedDayChart } from './loaded-day-chart';
import { TeamOfFigures } from './team-of-figures';

type Report = {
  first: string;
  last: string;
  timeZone: string;
  summary: Summary;
  before: Figures;
  placements: Record<string, string>;
};

const COLUMNS = (Object.keys(RESPONSE.column) as (keyof Figures)[]).map((key) => ({
  key,
  word: RESPONSE.column[key],
}));

const dayWord = (day: string) =>
  new Date(`${day}T12:00:00Z`).toLocaleDateString('en-GB', {
    timeZone: 'UTC',
    weekday: 'short',
    day: 'numeric',
    month: 'short',
  });

/** What recipients did, by day and by hand-out: a sentence, a chart, and the tables that hold the same figures. */
export function ResponseReport({
  report,
  days,
  base,
  published,
  teams = [],
  team = null,
}: {
  report: Report;
  days: number;
  base: string;
  published: boolean;
  /** Teams by which it can be narrowed, and the one that it is narrowed to. */
  teams?: { id: string; name: string }[];
  team?: string | null;
}) {
  const { summary, before, placements } = report;
  const nameOf = (handOut: string | null) =>
    handOut === null ? RESPONSE.shortAddresses : (placements[handOut] ?? RESPONSE.formerHandOut);
  if (!published) {
    return (
      <section className="first">
        <h2>{RESPONSE.noneTitle}</h2>
        <p className="finding">{RESPONSE.noneText}</p>
      </section>
    );
  }
  return (
    <section className="response">
      <div className="period">
        <nav aria-label={RESPONSE.period}>
          {PERIODS.map((period) => (
            <Link
              key={period}
              href={`${base}?days=${period}${team ? `&team=${team}` : ''}`}
              className={period === days ? 'on' : ''}
              aria-current={period === days ? 'true' : undefined}
            >
              {RESPONSE.days(period)}
            </Link>
          ))}
        </nav>
        {teams.length > 0 && <TeamOfFigures teams={teams} team={team} base={`${base}?days=${days}`} />}
        <span>{RESPONSE.span(dayWord(report.first), dayWord(report.last), report.timeZone)}</span>
      </div>
      <p className="finding">{findingOf(summary, before, days, nameOf)}</p>
      <dl className="totals">
        {COLUMNS.map(({ key, word }) => (
          <div key={key}>
            <dd>{figure(summary.totals[key])}</dd>
            <dt>
              {word.toLowerCase()} <span>{RESPONSE.before(before[key])}</span>
            </dt>
          </div>
        ))}
      </dl>
      <h2 className="caps">{RESPONSE.byDayTitle}</h2>
      <LoadedDayChart days={summary.days} />
      <div className="tables">
        <div>
          <h2 className="caps">{RESPONSE.byHandOut}</h2>
          <FigureTable
            head={RESPONSE.placement}
            rows={[
              ...summary.handOuts.map((row) => ({
                key: row.handOut ?? '',
                name: nameOf(row.handOut).replace(/^s/, 'S'),
                figures: row,
              })),
              ...(summary.others
                ? [{ key: 'others', name: RESPONSE.others(summary.others.count), figures: summary.others }]
                : []),
            ]}
            totals={summary.totals}
          />
        </div>
        <div>
          <h2 className="caps">{RESPONSE.byDay}</h2>
          <FigureTable
            head={RESPONSE.day}
            rows={[...summary.days].reverse().map((row) => ({ key: row.day, name: dayWord(row.day), figures: row }))}
            totals={summary.totals}
          />
        </div>
      </div>
      <p className="small">
        {RESPONSE.visitorsNote} {summary.viewsWithoutVisitor > 0 && RESPONSE.privacyNote(summary.viewsWithoutVisitor)}{' '}
        {summary.bots > 0 && RESPONSE.botsNote(summary.bots)} {RESPONSE.tapsNote}
      </p>
    </section>
  );
}

function FigureTable({
  head,
  rows,
  totals,
}: {
  head: string;
  rows: { key: string; name: string; figures: Figures }[];
  totals: Figures;
}) {
  return (
    <div className="wide" tabIndex={0} role="region" aria-label={RESPONSE.figuresBy(head)}>
      <table className="rows dense">
        <thead>
          <tr>
            <th>{head}</th>
            {COLUMNS.map(({ key, word }) => (
              <th key={key} className="num">
                {word}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(({ key, name, figures }) => (
            <tr key={key}>
              <td>{name}</td>
              {COLUMNS.map((column) => (
                <td key={column.key} className="num">
                  {figure(figures[column.key])}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">{RESPONSE.all}</th>
            {COLUMNS.map((column) => (
              <td key={column.key} className="num">
                {figure(totals[column.key])}
              </td>
            ))}
          </tr>
        </tfoot>
      </table>
    </div>
  );
}
