import { reachOf } from '@/core/access';
import { cards } from '@/server/db/cards';
import { handOuts } from '@/server/db/hand-outs';
import { inTenant } from '@/server/db/pool';
import { recordNames } from '@/server/db/records';
import { currentAddresses } from '@/server/db/directory';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';

/** Something to go to: a person, a card or a hand-out. */
export type Found = { kind: 'person' | 'card' | 'hand-out'; name: string; about: string; href: string };

const MOST = 12;

/** What a member may see and whose name, audience, address, placement or code holds every word that was typed. Error: NOT_ALLOWED. */
export async function find(actor: Actor, typed: string): Promise<Found[]> {
  if (reachOf(actor.role, 'card.read') === 'none') return [];
  const reach = authorise(actor, 'card.read');
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean).slice(0, 8);
  if (words.length === 0) return [];
  const fits = (text: string) => words.every((word) => text.toLowerCase().includes(word));
  return inTenant(actor.organisationId, async (tx) => {
    const own = (recordId: string) => reach === 'all' || recordId === actor.ownRecord;
    const people = (await recordNames(tx)).filter(({ id }) => own(id));
    const names = new Map(people.map((row) => [row.id, row.written_name]));
    const all = (await cards(tx)).filter((row) => names.has(row.record_id));
    const addresses = await currentAddresses(
      tx,
      all.map(({ id }) => id),
    );
    const byId = new Map(all.map((row) => [row.id, row]));
    const found: Found[] = [
      ...people
        .filter((row) => fits(row.written_name))
        .map((row) => ({
          kind: 'person' as const,
          name: row.written_name,
          about: 'record',
          href: `/people/${row.id}`,
        })),
      ...all
        .filter((row) => fits(`${names.get(row.record_id)} ${row.audience} ${addresses.get(row.id) ?? ''}`))
        .map((row) => ({
          kind: 'card' as const,
          name: `${names.get(row.record_id)} · ${row.audience}`,
          about: addresses.get(row.id) ?? 'draft',
          href: `/cards/${row.id}`,
        })),
      ...(await handOuts(tx))
        .filter((row) => byId.has(row.card_id) && fits(`${row.placement} ${row.code} ${nameOf(row.card_id)}`))
        .map((row) => ({
          kind: 'hand-out' as const,
          name: row.placement,
          about: `${row.code} · ${nameOf(row.card_id)}`,
          href: `/cards/${row.card_id}/hand-outs`,
        })),
    ];
    return found.slice(0, MOST);

    function nameOf(cardId: string): string {
      const row = byId.get(cardId);
      return row ? `${names.get(row.record_id)} · ${row.audience}` : '';
    }
  });
}
