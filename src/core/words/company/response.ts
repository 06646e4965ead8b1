import type { Figures } from '@/core/response';
import { figure, plural } from '@/core/language';

/** Response: the report and the sentence above it. */
export const RESPONSE = {
  title: 'Response',
  allCards: (organisation: string) => `${organisation}, all cards`,
  yourCards: (organisation: string) => `${organisation}, the cards that are yours to see`,
  ofTeam: (organisation: string, team: string) => `${organisation}, cards of ${team}`,
  whose: 'Whose cards',
  everybody: 'all cards',
  period: 'Period',
  days: (days: number) => plural(days, { one: '# day', other: '# days' }),
  column: {
    views: 'Views',
    visits: 'Visits',
    visitors: 'Visitors',
    saves: 'Saves',
    taps: 'Line taps',
    replies: 'Replies',
  } satisfies Record<keyof Figures, string>,
  before: (number: number) => `${figure(number)} before`,
  shortAddresses: 'short addresses',
  formerHandOut: 'a former hand-out',
  others: (count: number) => plural(count, { one: '# other', other: '# others' }),
  noneTitle: 'Nothing to count yet',
  noneText:
    'Once the card is published, its views, visits, saves, taps and replies appear here, by day and by hand-out.',
  span: (first: string, last: string, timeZone: string) => `${first} to ${last}, days of ${timeZone}`,
  byDayTitle: 'Visits and saves by day',
  visits: 'visits',
  saves: 'saves',
  byHandOut: 'By hand-out',
  byDay: 'By day',
  placement: 'Placement',
  day: 'Day',
  all: 'All',
  figuresBy: (head: string) => `Figures by ${head.toLowerCase()}`,
  visitorsNote:
    'Visitors of several days are added up and may repeat, since nobody is recognised from one day to the next.',
  privacyNote: (views: number) =>
    plural(views, {
      one: '# view came with Global Privacy Control: it counts as a view, not as a visit.',
      other: '# views came with Global Privacy Control: they count as views, not as visits.',
    }),
  botsNote: (bots: number) =>
    plural(bots, { one: '# answer to a program was kept out.', other: '# answers to programs were kept out.' }),
  tapsNote: 'Taps are counted only where JavaScript runs.',
};

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
  summary: { totals: Figures; handOuts: ({ handOut: string | null } & Figures)[] },
  before: Figures,
  days: number,
  names: (handOut: string | null) => string,
): string {
  const { visits, views, replies } = summary.totals;
  if (views === 0 && replies === 0) return `No views in these ${days} days.`;
  const best = summary.handOuts.reduce((most, row) => (row.visits > most.visits ? row : most));
  const first = `${figure(visits)} ${visits === 1 ? 'visit' : 'visits'} in ${days} days${times(visits, before.visits)}.`;
  const most =
    best.visits > 0 && summary.handOuts.length > 1
      ? ` Most came by ${names(best.handOut)}: ${figure(best.visits)}.`
      : '';
  return `${first}${most}${replies > 0 ? plural(replies, { one: ' There was # reply.', other: ' There were # replies.' }) : ''}`;
}
