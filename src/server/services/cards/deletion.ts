import { mayReach } from '@/core/access';
import { LIMITS } from '@/core/limits';
import { Refusal } from '@/core/errors';
import type { Deleted, Stopping, Stops } from '@/core/deletion';
import type { Clock } from '@/server/clock';
import { card, cardForUpdate, cardsOfRecord } from '@/server/db/cards/cards';
import { handOutsOfCard } from '@/server/db/hand-outs/hand-outs';
import {
  countHidden,
  hiddenCard,
  hiddenRecord,
  hiddenRows,
  hideCards,
  hideRecord,
  leadingTo,
  membersOfRecord,
  showCard,
  showRecord,
} from '@/server/db/cards/deletion';
import { touchCard } from '@/server/db/cards/directory';
import { inTenant, inTenantWithDeleted, type Tx } from '@/server/db/pool';
import { record } from '@/server/db/cards/records';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise, authoriseFor } from '@/server/services/accounts/authorise';

/** What is deleted can be brought back for so long (milliseconds), and is erased after that. */
export const BACK_MS = LIMITS.deletedDays * 86_400_000;

const stopping = async (tx: Tx, ids: string[]): Promise<Stopping[]> => {
  const out: Stopping[] = [];
  for (const leading of await leadingTo(tx, ids)) {
    const handOuts = (await handOutsOfCard(tx, leading.id)).map(({ placement, code, frozen }) => ({
      placement,
      code,
      frozen: frozen !== null,
    }));
    out.push({ ...leading, handOuts });
  }
  return out;
};

/** What would stop working, and for whom, if a card were deleted. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function whatStopsWithCard(actor: Actor, id: string): Promise<Stops> {
  authorise(actor, 'card.delete');
  return inTenant(actor, async (tx) => {
    const row = await card(tx, id);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.delete', row.record_id);
    return { cards: await stopping(tx, [id]), members: [] };
  });
}

/** The same of a person with all their cards. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function whatStopsWithPerson(actor: Actor, id: string): Promise<Stops> {
  authorise(actor, 'record.delete');
  return inTenant(actor, async (tx) => {
    if (!(await record(tx, id))) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'record.delete', id);
    const ids = (await cardsOfRecord(tx, id)).map((each) => each.id);
    return { cards: await stopping(tx, ids), members: await membersOfRecord(tx, id) };
  });
}

/**
 * Hides a card at once, from everybody and everywhere; it can be brought back until it is erased after {@link BACK_MS}. Its addresses
 * and codes stay reserved and answer with a note. Errors: NOT_ALLOWED, NOT_FOUND.
 */
export async function deleteCard(actor: Actor, id: string, clock: Clock): Promise<void> {
  authorise(actor, 'card.delete');
  await inTenantWithDeleted(actor, async (tx) => {
    const row = await cardForUpdate(tx, id);
    if (!row || row.deleted_at || !(await isThere(tx, row.record_id))) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.delete', row.record_id);
    await hideCards(tx, [id], new Date(clock.now()));
    if (row.state !== 'draft') await touchCard(tx, id, actor.organisationId);
    await recordAudit(tx, actor, 'card.deleted', { kind: 'card', id }, clock);
  });
}

/** The same with a person and all their cards. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function deletePerson(actor: Actor, id: string, clock: Clock): Promise<void> {
  authorise(actor, 'record.delete');
  await inTenantWithDeleted(actor, async (tx) => {
    if (!(await isThere(tx, id))) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'record.delete', id);
    const shown = (await cardsOfRecord(tx, id)).filter((each) => !each.deleted_at);
    const at = new Date(clock.now());
    // Cards before their record, as everywhere.
    await hideCards(
      tx,
      shown.map((each) => each.id),
      at,
    );
    await hideRecord(tx, id, at);
    for (const each of shown) if (each.state !== 'draft') await touchCard(tx, each.id, actor.organisationId);
    await recordAudit(tx, actor, 'record.deleted', { kind: 'record', id }, clock, { cards: shown.length });
  });
}

const isThere = async (tx: Tx, recordId: string): Promise<boolean> => {
  const row = await record(tx, recordId);
  return row !== undefined && !row.deleted_at;
};

/** What is deleted and can still be brought back, the latest first. Error: NOT_ALLOWED. */
export async function listDeleted(actor: Actor): Promise<Deleted[]> {
  const reach = authorise(actor, 'card.delete');
  const rows = await inTenantWithDeleted(actor, hiddenRows);
  return rows
    .filter((row) => reach === 'all' || (mayReach(actor, 'card.delete', row.record_id) && row.audience !== null))
    .map(({ id, name, audience, deleted_at }) => ({
      kind: audience === null ? ('record' as const) : ('card' as const),
      id,
      name,
      audience,
      deletedAt: deleted_at.toISOString(),
      erasedAt: new Date(deleted_at.getTime() + BACK_MS).toISOString(),
    }));
}

/** How many there are. Error: NOT_ALLOWED. */
export async function countDeleted(actor: Actor): Promise<number> {
  if (authorise(actor, 'card.delete') !== 'all') return (await listDeleted(actor)).length;
  return inTenantWithDeleted(actor, countHidden);
}

/** Brings a deleted card back as it was. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function bringBackCard(actor: Actor, id: string, clock: Clock): Promise<void> {
  authorise(actor, 'card.delete');
  await inTenantWithDeleted(actor, async (tx) => {
    const row = await hiddenCard(tx, id);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'card.delete', row.record_id);
    await showCard(tx, id);
    await touchCard(tx, id, actor.organisationId);
    await recordAudit(tx, actor, 'card.brought-back', { kind: 'card', id }, clock);
  });
}

/** Brings a deleted person back with the cards that went with them. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function bringBackPerson(actor: Actor, id: string, clock: Clock): Promise<void> {
  authorise(actor, 'record.delete');
  await inTenantWithDeleted(actor, async (tx) => {
    const row = await hiddenRecord(tx, id);
    if (!row) throw new Refusal({ code: 'NOT_FOUND' });
    authoriseFor(actor, 'record.delete', id);
    const ids = await showRecord(tx, id);
    for (const each of ids) await touchCard(tx, each, actor.organisationId);
    await recordAudit(tx, actor, 'record.brought-back', { kind: 'record', id }, clock, { cards: ids.length });
  });
}
