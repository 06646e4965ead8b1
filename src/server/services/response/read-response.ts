import {
  addDays,
  dayOf,
  gather,
  less,
  merge,
  mostViewed,
  ofCardAlone,
  type DayFigures,
  type PeriodDays,
  type Summary,
} from '@/core/response';
import { recordsWithin } from '@/core/access';
import { Refusal } from '@/core/errors';
import { card, cardIdsOf } from '@/server/db/cards/cards';
import { namedHandOuts } from '@/server/db/hand-outs/hand-outs';
import { sortInbox } from '@/server/db/response/events';
import { keptByHandOut, keptFigures } from '@/server/db/response/response';
import { inTenant, outsideTenants, type Tx } from '@/server/db/pool';
import { peopleOfTeam, team, teams } from '@/server/db/roster/teams';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { countDays, figuresDue } from './figures';

export type ResponseReport = {
  first: string;
  last: string;
  timeZone: string;
  summary: Summary;
  /** Totals of the period of the same length before. */
  before: Summary['totals'];
  /** Placements of hand-outs by id, with the card that they belong to. */
  placements: Record<string, string>;
};

/** So many hand-outs are told one by one. */
const MOST_HAND_OUTS = 50;

/** Two periods of the same length, the one of the report and the one before. */
type Periods = { beforeFirst: string; beforeLast: string; first: string; last: string; timeZone: string };

/** Teams by which figures can be narrowed: all, or those that the member leads. Error: NOT_ALLOWED. */
export async function teamsOfResponse(actor: Actor): Promise<{ id: string; name: string }[]> {
  const reach = authorise(actor, 'response.read');
  if (reach === 'own') return [];
  const rows = await inTenant(actor, (tx) => teams(tx, reach === 'all' ? null : actor.userId));
  return rows.map(({ id, name }) => ({ id, name }));
}

/** Response of one card, of a team, or of all that the member reaches, over the last days, today included. Error: NOT_FOUND. */
export async function readResponse(
  actor: Actor,
  input: { cardId: string | null; days: PeriodDays; team?: string | null },
  clock: Clock,
): Promise<ResponseReport> {
  authorise(actor, 'response.read');
  const { timeZone } = actor.organisation;
  const last = dayOf(clock.now(), timeZone);
  const first = addDays(last, 1 - input.days);
  const periods = { beforeFirst: addDays(first, -input.days), beforeLast: addDays(first, -1), first, last, timeZone };
  await outsideTenants(sortInbox);
  return inTenant(actor, async (tx) => {
    const shown = input.cardId ? await card(tx, input.cardId) : undefined;
    if (input.cardId && !shown) throw new Refusal({ code: 'NOT_FOUND' });
    if (shown) authoriseFor(actor, 'response.read', shown.record_id);
    const within = recordsWithin(actor, 'response.read');
    const records = input.team ? await withinTeam(tx, input.team, within) : within;
    const ids = shown ? [shown.id] : records === 'all' ? null : await cardIdsOf(tx, records);
    const { summary, before } = ids ? await ofCards(tx, ids, periods) : await ofEverybody(tx, periods);
    const told = summary.handOuts.flatMap(({ handOut }) => handOut ?? []);
    const names = await namedHandOuts(tx, told);
    return {
      first,
      last,
      timeZone,
      summary,
      before,
      placements: Object.fromEntries(
        names.map((row) => [
          row.id,
          shown ? row.placement : `${row.placement} · ${row.written_name} · ${row.audience}`,
        ]),
      ),
    };
  });
}

/** Of the people of a team those whom the member reaches; whoever reaches none of them has no such team. */
async function withinTeam(tx: Tx, id: string, within: 'all' | string[]): Promise<string[]> {
  if (!(await team(tx, id))) throw new Refusal({ code: 'NOT_FOUND' });
  const people = await peopleOfTeam(tx, id);
  if (within === 'all') return people;
  const reached = new Set(within);
  return people.filter((each) => reached.has(each));
}

type Read = { summary: Summary; before: Summary['totals'] };

const read = (rows: DayFigures[], periods: Periods): Read => ({
  summary: gather(rows, periods),
  before: gather(rows, { first: periods.beforeFirst, last: periods.beforeLast }).totals,
});

const isShort = ({ handOut }: { handOut: string | null }) => handOut === null;

async function ofCards(tx: Tx, ids: string[], periods: Periods): Promise<Read> {
  const { beforeFirst, last, timeZone } = periods;
  const { days, counted } = await figuresDue(tx, { first: beforeFirst, last, timeZone }, ids);
  if (ids.length === 1)
    return read(ofCardAlone([...(await keptFigures(tx, ids, beforeFirst, last)), ...counted]), periods);
  // Whoever looked at two of a holder's cards is one visitor: only the events tell.
  const kept = days.filter(({ due }) => !due).map(({ day }) => day);
  return read([...(await countDays(tx, kept, timeZone, ids)), ...counted], periods);
}

async function ofEverybody(tx: Tx, periods: Periods): Promise<Read> {
  const { beforeFirst, first, last, timeZone } = periods;
  const { days, counted } = await figuresDue(tx, { first: beforeFirst, last, timeZone }, null);
  // A day's totals stand in for its cards: visitors of the organisation add up to them.
  const ofDays = days
    .filter(({ due }) => !due)
    .map((row) => ({ ...row, card: '', handOut: null, cardVisitors: 0, viewsWithoutVisitor: row.without_visitor }));
  const now = read(counted, periods);
  const kept = read(ofDays, periods);
  const also = now.summary.handOuts.flatMap(({ handOut }) => handOut ?? []);
  const named = await keptByHandOut(tx, first, last, { most: MOST_HAND_OUTS, also });
  const known = new Set<string | null>([null, ...named.rows.map(({ hand_out_id }) => hand_out_id)]);
  const onlyNow = now.summary.handOuts.filter(({ handOut }) => !known.has(handOut)).length;
  // What no hand-out brought came by short addresses.
  const short = less(kept.summary.totals, named.sum);
  const handOuts = [
    ...(Object.values(short).some((figure) => figure > 0) ? [{ handOut: null, ...short }] : []),
    ...named.rows.map(({ hand_out_id: handOut, ...figures }) => ({ handOut, ...figures })),
  ];
  const summary = merge({ ...kept.summary, cards: [], handOuts }, now.summary);
  return {
    summary: mostViewed(summary, MOST_HAND_OUTS, named.of + onlyNow + Number(summary.handOuts.some(isShort))),
    before: merge({ ...kept.summary, totals: kept.before }, { ...now.summary, totals: now.before }).totals,
  };
}
