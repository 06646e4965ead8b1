import type { Look } from '@/core/look';
import type { Actor } from '@/server/services/accounts/actor';
import { createRecord } from '@/server/services/records/create-record';
import { saveCard } from '@/server/services/cards/edit-card';
import { openCard } from '@/server/services/cards/open-card';
import { publishCard } from '@/server/services/publishing/publish-card';
import { clock } from './full-card';

/** Saves a card in another look; answers with its version. */
export async function saved(actor: Actor, cardId: string, look: Partial<Look>, more: object = {}): Promise<number> {
  const card = await openCard(actor, cardId);
  const input = { baseVersion: card.version, lines: card.lines, audience: card.audience };
  return (await saveCard(actor, cardId, { ...input, look: { ...card.look, ...look }, ...more }, clock)).version;
}
export const published = async (actor: Actor, cardId: string, address: string, look: Partial<Look> = {}, more = {}) =>
  publishCard(actor, cardId, { baseVersion: await saved(actor, cardId, look, more), address }, clock);

export async function person(actor: Actor, name = 'Ilse Varrow') {
  return createRecord(actor, { name, phone: '020 7946 0182', email: 'ilse@tarnhope.example' }, clock);
}
