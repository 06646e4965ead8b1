import { changesSince } from '@/core/revisions';
import { isTransient, Refusal, type Problem } from '@/core/errors';
import type { Clock } from '@/server/clock';
import type { ProofOrder } from '@/server/compute';
import { cardsBy, holdCards } from '@/server/db/cards/cards';
import { currentAddresses } from '@/server/db/cards/directory';
import { recordsBy, recordVersions } from '@/server/db/cards/records';
import { latestRevisions, revisionNumbers } from '@/server/db/cards/revisions';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudits } from '@/server/services/accounts/audit';
import { authoriseFor } from '@/server/services/accounts/authorise';
import { overrideOrRefuse } from '@/server/services/house/contrast';
import { housesOf } from '@/server/services/house/house-style';
import { refuseMissingFiles } from '@/server/services/media/block-files';
import { findAmong, type Later } from '@/server/services/media/pictures';
import { writeRevisions } from './publish-card';
import { orderOf, outgoingOf, proveOrder, sealOf, type Outgoing } from './prove-to-publish';

/** A card that is out, as it was seen. */
export type Seen = { cardId: string; version: number };
type Proven = Seen & { recordId: string; address: string; out: Outgoing };

export const endsHere = (error: unknown): error is Refusal => error instanceof Refusal && !isTransient(error.problem);

/**
 * Publishes some cards that are out already, as they were seen: all are read at once, each is proven, all are written at once. One that says
 * what its latest revision says stays. Answers with what kept a card, and with those that somebody saved meanwhile: these are for
 * whoever publishes one at a time.
 */
export async function publishTogether(
  actor: Actor,
  cards: Seen[],
  clock: Clock,
): Promise<{ kept: Map<string, Problem>; outdated: Seen[] }> {
  const kept = new Map<string, Problem>();
  const toProve = await readAll(actor, cards, kept, clock);
  const proven: Proven[] = [];
  for (const { order, ...each } of toProve)
    try {
      await proveOrder(actor, order);
      proven.push(each);
    } catch (error) {
      if (!endsHere(error)) throw error;
      kept.set(each.cardId, error.problem);
    }
  return { kept, outdated: proven.length > 0 ? await writeAll(actor, proven, clock) : [] };
}

/** What would go out of each, with the proof that it needs; those that must stay are named, those that need no revision are left out. */
async function readAll(
  actor: Actor,
  cards: Seen[],
  kept: Map<string, Problem>,
  clock: Clock,
): Promise<(Proven & { order: Later<ProofOrder> })[]> {
  const ids = cards.map(({ cardId }) => cardId);
  return inTenant(actor, async (tx) => {
    const rows = new Map((await cardsBy(tx, ids)).map((row) => [row.id, row]));
    const records = [...new Set([...rows.values()].map(({ record_id }) => record_id))];
    const people = await recordsBy(tx, records);
    const houses = await housesOf(tx, records);
    const latest = await latestRevisions(tx, ids);
    const addresses = await currentAddresses(tx, ids);
    const going: Proven[] = [];
    for (const { cardId, version } of cards)
      try {
        const row = rows.get(cardId);
        const [person, address] = [row && people.get(row.record_id), addresses.get(cardId)];
        if (!row || !person || !address) throw new Refusal({ code: 'NOT_FOUND' });
        authoriseFor(actor, 'card.publish', row.record_id);
        if (row.version !== version) throw new Refusal({ code: 'CARD_CHANGED', version: row.version });
        const out = outgoingOf(actor, row, { person, house: houses(row.record_id), address });
        const before = latest.get(cardId);
        if (before && changesSince(before.composition, out.composition).length === 0) continue;
        await refuseMissingFiles(tx, out.draft);
        await overrideOrRefuse(tx, actor, { kind: 'card', id: cardId }, out.shown.look, false, clock);
        going.push({ cardId, version, recordId: row.record_id, address, out });
      } catch (error) {
        if (!endsHere(error)) throw error;
        kept.set(cardId, error.problem);
      }
    const find = await findAmong(
      tx,
      going.map(({ out }) => out.shown),
    );
    return Promise.all(
      going.map(async (each) => ({
        ...each,
        order: await orderOf(find, actor, each.cardId, each.address, each.out, clock),
      })),
    );
  });
}

/** Writes the revisions of those whose seal still holds; answers with the others. */
const writeAll = (actor: Actor, proven: Proven[], clock: Clock): Promise<Seen[]> =>
  inTenant(actor, async (tx) => {
    const ids = proven.map(({ cardId }) => cardId);
    await holdCards(tx, ids);
    const rows = new Map((await cardsBy(tx, ids)).map((row) => [row.id, row]));
    const records = [...new Set(proven.map(({ recordId }) => recordId))];
    const versions = await recordVersions(tx, records);
    const houses = await housesOf(tx, records);
    const addresses = await currentAddresses(tx, ids);
    const numbers = await revisionNumbers(tx, ids);
    const holds = ({ cardId, recordId, address, out }: Proven): boolean => {
      const row = rows.get(cardId);
      const recordVersion = versions.get(recordId);
      if (row?.state !== 'published' || recordVersion === undefined || addresses.get(cardId) !== address) return false;
      return out.seal === sealOf(actor, row, { recordVersion, house: houses(recordId), address });
    };
    const going = proven.filter(holds).map(({ cardId, out: { composition, shown, draft } }) => ({
      ...{ cardId, composition, shown, draft, note: '', revision: (numbers.get(cardId) ?? 0) + 1 },
    }));
    if (going.length > 0) await writeRevisions(tx, actor, going, new Date(clock.now()));
    const published = going.map(({ cardId, revision }) => ({ id: cardId, data: { revision } }));
    await recordAudits(tx, actor, 'card.published', 'card', published, clock);
    return proven.filter((each) => !holds(each)).map(({ cardId, version }) => ({ cardId, version }));
  });
