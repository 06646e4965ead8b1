import { changesSince, compose, CompositionSchema, reconcile, type Change } from '@/core/card';
import { Refusal, type Problem } from '@/core/errors';
import { RecordSchema } from '@/core/record';
import { cardForUpdate, cardsOfRecord, latestRevision } from '@/server/db/cards';
import { currentAddress } from '@/server/db/directory';
import { inTenant } from '@/server/db/pool';
import { record } from '@/server/db/records';
import type { Clock } from '@/server/clock';
import type { Actor } from './actor';
import { authorise, authoriseFor } from './authorise';
import { publishRow } from './publish-card';

/** A published card that no longer says what its record and lines say, with what publishing it would change. */
export type CardBehind = {
  id: string;
  audience: string;
  version: number;
  revision: number;
  changes: Change[];
  problem: Problem | null;
};

/** The published cards of a record that are behind, in the order they were made. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function cardsBehind(actor: Actor, recordId: string): Promise<CardBehind[]> {
  authorise(actor, 'card.read');
  return inTenant(actor.organisationId, async (tx) => {
    const person = await record(tx, recordId);
    if (!person) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.read', recordId);
    const body = RecordSchema.parse(person.body);
    const behind: CardBehind[] = [];
    for (const row of await cardsOfRecord(tx, recordId)) {
      const revision = row.state === 'published' ? await latestRevision(tx, row.id) : undefined;
      if (!revision) continue;
      const composed = compose(body, reconcile(row.lines, body), actor.organisation.country, row.language, row);
      const changes = composed.ok ? changesSince(CompositionSchema.parse(revision.composition), composed.value) : [];
      if (changes.length === 0 && composed.ok) continue;
      behind.push({
        id: row.id,
        audience: row.audience,
        version: row.version,
        revision: revision.number,
        changes,
        problem: composed.ok ? null : composed.problem,
      });
    }
    return behind;
  });
}

/**
 * Publishes several cards of a record in one act, each at the address that it has: all of them or, if one cannot be proven or was
 * changed since it was shown, none. Errors: NOT_FOUND, CARD_CHANGED, PROOF_FAILED and the other errors of publishing.
 */
export async function publishSeveral(
  actor: Actor,
  recordId: string,
  chosen: { id: string; version: number }[],
  clock: Clock,
): Promise<{ published: { id: string; revision: number }[] }> {
  authorise(actor, 'card.publish');
  return inTenant(actor.organisationId, async (tx) => {
    authoriseFor(actor, 'card.publish', recordId);
    const published: { id: string; revision: number }[] = [];
    // Always in the same order, so that two who publish the same cards wait for each other and do not lock up.
    for (const { id, version } of [...chosen].sort((a, b) => (a.id < b.id ? -1 : 1))) {
      const row = await cardForUpdate(tx, id);
      const address = row?.record_id === recordId ? await currentAddress(tx, id) : undefined;
      if (!row || !address) throw new Refusal({ code: 'NOT_FOUND' });
      if (row.version !== version) throw new Refusal({ code: 'CARD_CHANGED', version: row.version });
      const { revision } = await publishRow(tx, actor, row, address, clock);
      published.push({ id, revision });
    }
    return { published };
  });
}
