import type { Composition, Draft } from '@/core/card';
import { Refusal } from '@/core/errors';
import { card } from '@/server/db/cards/cards';
import { revision, revisionsOf } from '@/server/db/cards/revisions';
import { inTenant, type Tx } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';
import { missingFiles } from '@/server/services/media/block-files';

/** A revision in the list: who published it when, and what they noted. */
export type ListedRevision = {
  number: number;
  publishedAt: string;
  note: string;
  who: string | null;
  restorable: boolean;
};

/** A revision as a whole: what it gave out, the draft behind it, and which of its files are there no more. */
export type OpenedRevision = {
  number: number;
  publishedAt: string;
  composition: Composition;
  draft: Draft | null;
  erased: string[];
};

async function mayRead(tx: Tx, actor: Actor, id: string): Promise<void> {
  const row = await card(tx, id);
  if (!row) throw new Refusal({ code: 'NOT_FOUND' });
  authoriseFor(actor, 'card.read', row.record_id);
}

/** The revisions of a card, the latest first. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function listRevisions(actor: Actor, id: string): Promise<ListedRevision[]> {
  authorise(actor, 'card.read');
  return inTenant(actor, async (tx) => {
    await mayRead(tx, actor, id);
    return (await revisionsOf(tx, id)).map(({ number, published_at, note, who, restorable }) => ({
      number,
      publishedAt: published_at.toISOString(),
      note,
      who,
      restorable,
    }));
  });
}

/** One revision. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function openRevision(actor: Actor, id: string, number: number): Promise<OpenedRevision> {
  authorise(actor, 'card.read');
  return inTenant(actor, async (tx) => {
    await mayRead(tx, actor, id);
    const row = await revision(tx, id, number);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    return {
      number,
      publishedAt: row.published_at.toISOString(),
      composition: row.composition,
      draft: row.draft,
      erased: row.draft ? await missingFiles(tx, row.draft) : [],
    };
  });
}
