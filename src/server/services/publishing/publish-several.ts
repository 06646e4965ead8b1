import type { CardBehind } from '@/core/shown';
import { channelsOf, composeToday, leavingOf, privacyOf } from '@/core/card';
import { changesSince } from '@/core/revisions';
import { Refusal } from '@/core/errors';
import { lineTypeOf } from '@/core/record/line-type';
import { cardForUpdate, cardsOfRecord } from '@/server/db/cards/cards';
import { handOutsOfCard } from '@/server/db/hand-outs/hand-outs';
import { latestRevision } from '@/server/db/cards/revisions';
import { currentAddresses } from '@/server/db/cards/directory';
import { inTenant } from '@/server/db/pool';
import { record } from '@/server/db/cards/records';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { provenThen, proveToPublish } from './prove-to-publish';
import { publishRow } from './publish-card';

/** The published cards of a record that are behind, in the order they were made. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function cardsBehind(
  actor: Actor,
  recordId: string,
): Promise<{ recordVersion: number; cards: CardBehind[] }> {
  authorise(actor, 'card.read');
  return inTenant(actor, async (tx) => {
    const person = await record(tx, recordId);
    if (!person) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.read', recordId);
    const body = person.body;
    const behind: CardBehind[] = [];
    for (const row of await cardsOfRecord(tx, recordId)) {
      const revision = row.state === 'published' ? await latestRevision(tx, row.id) : undefined;
      if (!revision) continue;
      const composed = composeToday(body, row, actor.organisation.country);
      const before = revision.composition;
      const changes = composed.ok ? changesSince(before, composed.value) : [];
      if (changes.length === 0 && composed.ok) continue;
      const handOuts = await handOutsOfCard(tx, row.id);
      const channels = channelsOf(
        row.lines,
        handOuts.map(({ channel, frozen }) => ({ channel, frozen: frozen !== null })),
      );
      behind.push({
        id: row.id,
        audience: row.audience,
        version: row.version,
        revision: revision.number,
        changes,
        leaving: composed.ok
          ? leavingOf(composed.value, before, channels, (detail) => privacyOf(detail, body, lineTypeOf))
          : [],
        problem: composed.ok ? null : composed.problem,
      });
    }
    return { recordVersion: person.version, cards: behind };
  });
}

/**
 * Publishes several cards of a record in one act, each at the address that it has: all of them or, if one cannot be proven or was
 * changed since it was shown, none; versions are those that were shown. Errors: NOT_FOUND, CARD_CHANGED, RECORD_CHANGED,
 * PROOF_FAILED and the other errors of publishing.
 */
export async function publishSeveral(
  actor: Actor,
  recordId: string,
  { cards: chosen, recordVersion }: { cards: { id: string; version: number }[]; recordVersion?: number },
  clock: Clock,
): Promise<{ published: { id: string; revision: number }[] }> {
  authorise(actor, 'card.publish');
  authoriseFor(actor, 'card.publish', recordId);
  // Always in the same order, so that two who publish the same cards wait for each other and do not lock up.
  const inOrder = [...chosen].sort((a, b) => (a.id < b.id ? -1 : 1));
  const addresses = await inTenant(actor, (tx) =>
    currentAddresses(
      tx,
      inOrder.map(({ id }) => id),
    ),
  );
  const addressOf = (id: string) => {
    const address = addresses.get(id);
    if (!address) throw new Refusal({ code: 'NOT_FOUND' });
    return address;
  };
  const seals = new Map<string, string>();
  return provenThen(
    async () => {
      for (const { id, version } of inOrder)
        seals.set(id, await proveToPublish(actor, id, { address: addressOf(id), version, recordVersion }, clock));
      return '';
    },
    () =>
      inTenant(actor, async (tx) => {
        const published: { id: string; revision: number }[] = [];
        for (const { id, version } of inOrder) {
          const row = await cardForUpdate(tx, id);
          if (row?.record_id !== recordId) throw new Refusal({ code: 'NOT_FOUND' });
          if (row.version !== version) throw new Refusal({ code: 'CARD_CHANGED', version: row.version });
          const { revision } = await publishRow(tx, actor, row, addressOf(id), clock, { seal: seals.get(id)! });
          published.push({ id, revision });
        }
        return { published };
      }),
  );
}
