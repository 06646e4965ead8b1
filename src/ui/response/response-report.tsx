import Link from 'next/link';
import type { Figures, Summary } from '@/core/response';
import { DayChart } from './day-chart';
import { findingOf } from './finding';

type Report = {
  first: string;
  last: string;
  timeZone: string;
  summary: Summary;
  before: Figures;
  placements: Record<string, string>;
  cardNames: Record<string, string>;
};

const PERIODS = [
  { days: 7, word: '7 days' },
  { days: 30, word: '30 days' },
  { days: 90, word: '90 days' },
];
const COLUMNS: { key: keyof Figures; word: string }[] = [
  { key: 'views', word: 'Views' },
  { key: 'visits', word: 'Visits' },
  { key: 'visitors', word: 'Visitors' },
  { key: 'saves', word: 'Saves' },
  { key: 'taps', word: 'Line taps' },
];

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
}: {
  report: Report;
  days: number;
  base: string;
  published: boolean;
}) {
  const { summary, before, placements } = report;
  const nameOf = (handOut: string | null) =>
    handOut === null ? 'short addresses' : (placements[handOut] ?? 'a former hand-out');
  if (!published) {
    return (
      <section className="first">
        <h2>Nothing to count yet</h2>
        <p className="finding">
          Once the card is published, its views, visits, saves and taps stand here, by day and by hand-out.
        </p>
      </section>
    );
  }
  return (
    <section className="response">
      <div className="period">
        <nav aria-label="Period">
          {PERIODS.map((period) => (
            <Link
              key={period.days}
              href={`${base}?days=${period.days}`}
              className={period.days === days ? 'on' : ''}
              aria-current={period.days === days ? 'true' : undefined}
            >
              {period.word}
            </Link>
          ))}
        </nav>
        <span>
          {dayWord(report.first)} to {dayWord(report.last)}, days of {report.timeZone}
        </span>
      </div>
      <p className="finding">{findingOf(summary, before, days, nameOf)}</p>
      <dl className="totals">
        {COLUMNS.map(({ key, word }) => (
          <div key={key}>
            <dd>{summary.totals[key].toLocaleString('en-GB')}</dd>
            <dt>
              {word.toLowerCase()} <span>{before[key].toLocaleString('en-GB')} before</span>
            </dt>
          </div>
        ))}
      </dl>
      <h2 className="caps">Visits and saves by day</h2>
      <DayChart days={summary.days} />
      <div className="tables">
        <div>
          <h2 className="caps">By hand-out</h2>
          <FigureTable
            head="Placement"
            rows={summary.handOuts.map((row) => ({
              key: row.handOut ?? '',
              name: nameOf(row.handOut).replace(/^s/, 'S'),
              figures: row,
            }))}
            totals={summary.totals}
          />
        </div>
        <div>
          <h2 className="caps">By day</h2>
          <FigureTable
            head="Day"
            rows={[...summary.days].reverse().map((row) => ({ key: row.day, name: dayWord(row.day), figures: row }))}
            totals={summary.totals}
          />
        </div>
      </div>
      <p className="small">
        Visitors of several days are added up and may repeat, since nobody is recognised from one day to the next.
        {summary.viewsWithoutVisitor > 0 &&
          ` ${summary.viewsWithoutVisitor} views came with Global Privacy Control: they count as views, not as visits.`}
        {summary.bots > 0 && ` ${summary.bots} answers to programs were kept out.`} Taps are counted only where
        JavaScript runs.
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
    <div className="wide" tabIndex={0} role="region" aria-label={`Figures by ${head.toLowerCase()}`}>
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
                  {figures[column.key].toLocaleString('en-GB')}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">All</th>
            {COLUMNS.map((column) => (
              <td key={column.key} className="num">
                {totals[column.key].toLocaleString('en-GB')}
              </td>
            ))}
          </tr>
        </tfoot>
      </table>
    </div>
  );
}
