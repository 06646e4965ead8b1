import { addDays, dayOf, startOfDay, summarise, type Figures } from '@/core/response';
import type { CardState } from '@/core/card';
import type { Detail } from '@/core/record';
import { cards } from '@/server/db/cards';
import { revisionNumbers } from '@/server/db/revisions';
import { currentAddresses } from '@/server/db/directory';
import { eventsBetween, sortInbox } from '@/server/db/events';
import { failingProofs } from '@/server/db/house';
import { inTenant, outsideTenants } from '@/server/db/pool';
import { recordNames, records } from '@/server/db/records';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { toResponseEvent } from '@/server/services/response/read-response';

export type CardOfPerson = {
  id: string;
  audience: string;
  state: CardState;
  revision: number | null;
  address: string | null;
  changed: string;
  /** What keeps it from passing its proof under the house style that was saved since; null where nothing does. */
  failing: string | null;
  /** Figures of the last seven days. */
  week: Figures;
};
export type Person = { id: string; name: string; role: string; picture: string | null; cards: CardOfPerson[] };

const textOf = (details: Detail[], kind: 'title' | 'organisation'): string => {
  const found = details.find((detail) => detail.kind === kind);
  return found ? ('text' in found ? found.text : 'name' in found ? found.name : '') : '';
};

/** Names alone, for choosing somebody. Error: NOT_ALLOWED. */
export async function listPeopleNames(actor: Actor): Promise<{ id: string; name: string }[]> {
  const reach = authorise(actor, 'record.read');
  const rows = await inTenant(actor.organisationId, recordNames);
  return rows
    .filter(({ id }) => reach === 'all' || id === actor.ownRecord)
    .map((row) => ({ id: row.id, name: row.written_name }));
}

/** Everybody of the organisation, for a holder themselves alone, with their cards and the figures of the last seven days. */
export async function listPeople(actor: Actor, clock: Clock): Promise<Person[]> {
  const reach = authorise(actor, 'record.read');
  const { timeZone } = actor.organisation;
  const today = dayOf(clock.now(), timeZone);
  const period = { first: addDays(today, -6), last: today, timeZone };
  await outsideTenants(sortInbox);
  return inTenant(actor.organisationId, async (tx) => {
    const own = (id: string) => reach === 'all' || id === actor.ownRecord;
    const everybody = (await records(tx)).filter((person) => own(person.id));
    const all = (await cards(tx)).filter((card) => own(card.record_id));
    const [numbers, addresses, events] = [
      await revisionNumbers(tx),
      await currentAddresses(
        tx,
        all.map((card) => card.id),
      ),
      await eventsBetween(
        tx,
        new Date(startOfDay(period.first, timeZone)),
        new Date(startOfDay(addDays(today, 1), timeZone)),
        all.map((card) => card.id),
      ),
    ];
    const failing = new Map((await failingProofs(tx)).map(({ card_id, finding }) => [card_id, finding]));
    const weeks = new Map(
      summarise(events.map(toResponseEvent), period).cards.map(({ card, ...figures }) => [card, figures]),
    );
    const none = { views: 0, visits: 0, visitors: 0, saves: 0, taps: 0 };
    return everybody.map((person) => {
      const photo = person.body.details.find((detail) => detail.kind === 'photo');
      return {
        id: person.id,
        name: person.written_name,
        role: [textOf(person.body.details, 'title'), textOf(person.body.details, 'organisation')]
          .filter(Boolean)
          .join(', '),
        picture: photo?.kind === 'photo' ? photo.picture : null,
        cards: all
          .filter((card) => card.record_id === person.id)
          .map((card) => ({
            id: card.id,
            audience: card.audience,
            state: card.state,
            revision: numbers.get(card.id) ?? null,
            address: addresses.get(card.id) ?? null,
            changed: card.updated_at.toISOString(),
            failing: failing.get(card.id) ?? null,
            week: weeks.get(card.id) ?? none,
          })),
      };
    });
  });
}
