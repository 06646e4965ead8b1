import { recordsWithin } from '@/core/access';
import { addDays, dayOf, gather, noFigures, ofCardAlone } from '@/core/response';
import type { ListedCard, PeoplePage } from '@/core/shown';
import type { Clock } from '@/server/clock';
import { listedCards } from '@/server/db/cards/cards';
import { sortInbox } from '@/server/db/response/events';
import { wordsOf } from '@/server/db/cards/find';
import { failingProofs } from '@/server/db/house/house';
import { peopleOfOffice } from '@/server/db/house/offices';
import { inTenant, outsideTenants, type Tx } from '@/server/db/pool';
import { countCards, countListed, listedIds, listedRecords, type Listed } from '@/server/db/cards/records';
import { keptFigures } from '@/server/db/response/response';
import { recordsOfRun } from '@/server/db/roster/rows';
import { peopleOfTeam } from '@/server/db/roster/teams';
import { revisionNumbers } from '@/server/db/cards/revisions';
import { countWild } from '@/server/db/wild/wild';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { figuresDue } from '@/server/services/response/figures';
import { placeOf, readPlace } from './name-place';

const PAGE = 100;
/** A list that is longer begins with fewer: what is in sight, and somewhat below it. */
const FIRST_OF_LONG = 40;
/** Among these one is chosen; more are told apart by typing more. */
const TO_CHOOSE = 8;

/** Some people only: those of a team, of an office, or of a run of a sheet. */
export type Group = { team: string } | { office: string } | { run: string };

/** Whom a list is of: whoever the member sees, of a group only those who are in it. */
async function listedFor(tx: Tx, actor: Actor, typed: string, group: Group | null): Promise<Listed> {
  const within = recordsWithin(actor, 'record.read');
  const words = wordsOf(typed);
  if (!group) return { within, words };
  const ids =
    'team' in group
      ? await peopleOfTeam(tx, group.team)
      : 'office' in group
        ? await peopleOfOffice(tx, group.office)
        : await recordsOfRun(tx, group.run);
  if (within === 'all') return { within: ids, words };
  const reached = new Set(within);
  return { within: ids.filter((id) => reached.has(id)), words };
}

/** The first few who are found by what was typed, for choosing one. Error: NOT_ALLOWED. */
export async function listPeopleNames(actor: Actor, typed: string): Promise<{ id: string; name: string }[]> {
  authorise(actor, 'record.read');
  const rows = await inTenant(actor, async (tx) =>
    listedRecords(tx, await listedFor(tx, actor, typed, null), { after: null, most: TO_CHOOSE }),
  );
  return rows.map((row) => ({ id: row.id, name: row.written_name }));
}

/** The ids of everybody who is found by what was typed. Error: NOT_ALLOWED. */
export async function listPeopleIds(actor: Actor, typed: string, group: Group | null = null): Promise<string[]> {
  authorise(actor, 'record.read');
  return inTenant(actor, async (tx) => listedIds(tx, await listedFor(tx, actor, typed, group)));
}

/**
 * A page of the people whom a member sees and who are found by what was typed, by name, from after the place where the page before it
 * ended; with their cards and the figures of the last seven days. Errors: NOT_ALLOWED, INPUT.
 */
export async function listPeople(
  actor: Actor,
  { typed = '', after = null, group = null }: { typed?: string; after?: string | null; group?: Group | null },
  clock: Clock,
): Promise<PeoplePage> {
  authorise(actor, 'record.read');
  const from = after === null ? null : readPlace(after);
  await outsideTenants(sortInbox);
  return inTenant(actor, async (tx) => {
    const of = await listedFor(tx, actor, typed, group);
    const found = await listedRecords(tx, of, { after: from, most: PAGE + 1 });
    const shown = found.length > PAGE ? found.slice(0, from ? PAGE : FIRST_OF_LONG) : found;
    const cards = await cardsOf(
      tx,
      shown.map(({ id }) => id),
      actor.organisation.timeZone,
      clock,
    );
    return {
      people: shown.map((row) => ({
        id: row.id,
        name: row.written_name,
        role: [row.title, row.firm].filter(Boolean).join(', '),
        picture: row.picture,
        cards: cards.get(row.id) ?? [],
      })),
      next: found.length > PAGE ? placeOf(shown.at(-1)!) : null,
      matching: found.length <= PAGE && from === null ? found.length : await countListed(tx, of),
      cards: of.within === 'all' ? await countCards(tx) : (await listedCards(tx, of.within)).length,
    };
  });
}

/** The cards of these people, with what a list shows of each. */
async function cardsOf(tx: Tx, people: string[], timeZone: string, clock: Clock): Promise<Map<string, ListedCard[]>> {
  const rows = await listedCards(tx, people);
  const ids = rows.map(({ id }) => id);
  const today = dayOf(clock.now(), timeZone);
  const week = { first: addDays(today, -6), last: today, timeZone };
  const { counted } = await figuresDue(tx, week, ids);
  const figures = ofCardAlone([...(await keptFigures(tx, ids, week.first, week.last)), ...counted]);
  const weeks = new Map(gather(figures, week).cards.map(({ card, ...each }) => [card, each]));
  const numbers = await revisionNumbers(tx, ids);
  const failing = new Map((await failingProofs(tx, ids)).map(({ card_id, finding }) => [card_id, finding]));
  const wild = await countWild(tx, { cards: ids });
  const cards = new Map<string, ListedCard[]>();
  for (const row of rows) {
    const { id, audience, state, record_id } = row;
    const listed: ListedCard = {
      ...{ id, audience, state },
      revision: numbers.get(id) ?? null,
      changed: row.updated_at.toISOString(),
      failing: failing.get(id) ?? null,
      wild: wild.get(id) ?? 0,
      week: weeks.get(id) ?? noFigures(),
    };
    cards.set(record_id, [...(cards.get(record_id) ?? []), listed]);
  }
  return cards;
}
