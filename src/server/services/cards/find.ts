import { reachOf, recordsWithin } from '@/core/access';
import { findByWords, wordsOf } from '@/server/db/cards/find';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';

/** Something to go to: a person, a card or a hand-out. */
export type Found = { kind: 'person' | 'card' | 'hand-out'; name: string; about: string; href: string };

const MOST = 12;

/**
 * What a member may see and whose name, title, firm, audience, address, placement or code holds every word that was typed.
 * Error: NOT_ALLOWED.
 */
export async function find(actor: Actor, typed: string): Promise<Found[]> {
  if (reachOf(actor.role, 'card.read') === 'none') return [];
  authorise(actor, 'card.read');
  const words = wordsOf(typed);
  if (words.length === 0) return [];
  const rows = await inTenant(actor, (tx) => findByWords(tx, words, recordsWithin(actor, 'card.read'), MOST));
  return rows.map(({ kind, id, card_id, name, about }) => {
    if (kind === 'person') return { kind, name, about: 'record', href: `/people/${id}` };
    if (kind === 'card') return { kind, name, about: about || 'draft', href: `/cards/${id}` };
    return { kind, name, about, href: `/cards/${card_id}/hand-outs` };
  });
}
