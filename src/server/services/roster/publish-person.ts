import { Refusal } from '@/core/errors';
import { card } from '@/server/db/cards/cards';
import { currentAddress } from '@/server/db/cards/directory';
import { planOf } from '@/server/db/cards/plans';
import { inTenant } from '@/server/db/pool';
import type { RosterRow } from '@/server/db/roster/rows';
import { freeAddress } from '@/server/services/publishing/free-address';
import { planCard } from '@/server/services/publishing/plans';
import { publishCard } from '@/server/services/publishing/publish-card';
import { cardsBehind, publishSeveral } from '@/server/services/publishing/publish-several';
import type { Making } from './make-person';

/** So many addresses like a name are tried before one is made with letters of its own. */
const MOST_LIKE = 40;
const TRIES = 5;

/** A new person's card at an address of their name, or planned for later; answers with whether there was anything to do. */
async function publishNew({ actor, clock, options }: Making, cardId: string, name: string): Promise<void> {
  const { publish } = options;
  for (let tries = 1; ; tries += 1) {
    const of = await inTenant(actor, async (tx) => {
      const row = await card(tx, cardId);
      if (!row) throw new Refusal({ code: 'NOT_FOUND' });
      const isOut = row.state !== 'draft' || (typeof publish === 'object' && (await planOf(tx, cardId)) !== undefined);
      const own = await currentAddress(tx, cardId);
      const address = own ?? (await freeAddress(tx, actor.organisationId, name, MOST_LIKE));
      return isOut ? null : { address, version: row.version };
    });
    if (!of) return;
    // Beyond the names that are tried the card's own letters tell it apart.
    const address = tries < TRIES ? of.address : `${of.address.slice(0, 40)}-${cardId.slice(0, 6)}`;
    try {
      if (typeof publish === 'object') {
        const plan = { publishAt: publish.at, address, note: '', endsAt: null, endsWith: null };
        await planCard(actor, cardId, plan, clock);
      } else await publishCard(actor, cardId, { baseVersion: of.version, address, byTheHundred: true }, clock);
      return;
    } catch (error) {
      const taken = error instanceof Refusal && /^ADDRESS_(TAKEN|LOOKS_LIKE_ANOTHER)$/.test(error.problem.code);
      if (!taken || tries >= TRIES) throw error;
    }
  }
}

/** Publishes what a row made or changed: a new card, or those of the person that are out and behind their record. Errors: those of publishing. */
export async function publishPerson(making: Making, row: RosterRow): Promise<void> {
  const { actor, clock, options } = making;
  if (row.outcome === 'made') return publishNew(making, row.card_id!, row.name);
  // What changes of a card that is out goes out with the run, or waits for somebody where the run is planned.
  if (options.publish !== 'now') return;
  const { recordVersion, cards } = await cardsBehind(actor, row.record_id!);
  const ready = cards.filter(({ problem }) => problem === null).map(({ id, version }) => ({ id, version }));
  if (ready.length > 0) await publishSeveral(actor, row.record_id!, { cards: ready, recordVersion }, clock);
}
