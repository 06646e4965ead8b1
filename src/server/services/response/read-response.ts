import {
  addDays,
  dayOf,
  startOfDay,
  summarise,
  type EventKind,
  type ResponseEvent,
  type Summary,
} from '@/core/response';
import { Refusal } from '@/core/errors';
import { card, cards } from '@/server/db/cards';
import { handOuts } from '@/server/db/hand-outs';
import { eventsBetween, sortInbox } from '@/server/db/events';
import { inTenant, outsideTenants } from '@/server/db/pool';
import { record, recordNames } from '@/server/db/records';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';

/** Periods that a report can be asked for, in days. */
export const PERIODS = [7, 30, 90] as const;
export type PeriodDays = (typeof PERIODS)[number];

export type ResponseReport = {
  first: string;
  last: string;
  timeZone: string;
  summary: Summary;
  /** Totals of the period of the same length before. */
  before: Summary['totals'];
  /** Placements of hand-outs by id, with the card that they belong to. */
  placements: Record<string, string>;
  cardNames: Record<string, string>;
};

type StoredEvent = {
  kind: EventKind;
  card_id: string;
  hand_out_id: string | null;
  line?: string | null;
  visitor: Buffer | null;
  occurred_at: Date;
};

export const toResponseEvent = (row: StoredEvent): ResponseEvent => ({
  kind: row.kind,
  card: row.card_id,
  handOut: row.hand_out_id,
  line: row.line ?? null,
  visitor: row.visitor?.toString('hex') ?? null,
  at: row.occurred_at.getTime(),
});

/** Response of one card, or of the whole organisation, over the last days, today included. Error: NOT_FOUND. */
export async function readResponse(
  actor: Actor,
  input: { cardId: string | null; days: PeriodDays },
  clock: Clock,
): Promise<ResponseReport> {
  const reach = authorise(actor, 'response.read');
  const { timeZone } = actor.organisation;
  const last = dayOf(clock.now(), timeZone);
  const first = addDays(last, 1 - input.days);
  const beforeFirst = addDays(first, -input.days);
  await outsideTenants(sortInbox);
  return inTenant(actor.organisationId, async (tx) => {
    const shown = input.cardId ? await card(tx, input.cardId) : undefined;
    if (input.cardId && !shown) throw new Refusal({ code: 'NOT_FOUND' });
    if (shown) authoriseFor(actor, 'response.read', shown.record_id);
    const from = new Date(startOfDay(beforeFirst, timeZone));
    const to = new Date(startOfDay(addDays(last, 1), timeZone));
    const people = shown ? [await record(tx, shown.record_id)] : await recordNames(tx);
    const names = new Map(people.map((person) => [person!.id, person!.written_name]));
    const every = shown ? [shown] : await cards(tx);
    const all = every.filter((row) => reach === 'all' || row.record_id === actor.ownRecord);
    const ids = all.map(({ id }) => id);
    const events = (await eventsBetween(tx, from, to, ids)).map(toResponseEvent);
    const cardNames = Object.fromEntries(
      all.map((row) => [row.id, `${names.get(row.record_id) ?? ''} · ${row.audience}`]),
    );
    const outs = (await handOuts(tx)).filter((row) => row.card_id in cardNames);
    return {
      first,
      last,
      timeZone,
      summary: summarise(events, { first, last, timeZone }),
      before: summarise(events, { first: beforeFirst, last: addDays(first, -1), timeZone }).totals,
      placements: Object.fromEntries(
        outs.map((row) => [row.id, shown ? row.placement : `${row.placement} · ${cardNames[row.card_id]}`]),
      ),
      cardNames,
    };
  });
}
