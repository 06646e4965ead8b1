import type { Summary } from '@/core/response';

const times = (now: number, before: number): string => {
  if (before === 0) return '';
  const ratio = now / before;
  if (ratio >= 1.95)
    return `, ${ratio >= 9.5 ? Math.round(ratio) : ratio.toFixed(1).replace(/\.0$/, '')} times the period before`;
  const percent = Math.round(Math.abs(ratio - 1) * 100);
  return percent < 3 ? ', as many as before' : `, ${percent} % ${ratio > 1 ? 'more' : 'fewer'} than before`;
};

/** The one sentence that states what a period brought. `names` gives the placement of a hand-out. */
export function findingOf(
  summary: Summary,
  before: Summary['totals'],
  days: number,
  names: (handOut: string | null) => string,
): string {
  const { visits, views } = summary.totals;
  if (views === 0) return `Nobody looked in these ${days} days.`;
  const best = summary.handOuts.reduce((most, row) => (row.visits > most.visits ? row : most));
  const first = `${visits} ${visits === 1 ? 'visit' : 'visits'} in ${days} days${times(visits, before.visits)}.`;
  return best.visits > 0 && summary.handOuts.length > 1
    ? `${first} Most came by ${names(best.handOut)}: ${best.visits}.`
    : first;
}
