import { Refusal } from '@/core/errors';
import type { Clock } from '@/server/clock';
import { deleteSessionsOf, memberForUpdate, ownersForUpdate, updateMember } from '@/server/db/accounts/accounts';
import { endAllPreviews, endAllSessions, setOrganisationDeleted } from '@/server/db/cards/deletion';
import { touchAllCards } from '@/server/db/cards/directory';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { refuseStale } from '@/server/services/accounts/fresh';

/**
 * Hides a whole organisation at once: each of its cards answers with a note, everybody else is signed out, and an owner can do nothing but
 * bring it back until it is erased. Errors: NOT_ALLOWED, PASSWORD_STALE.
 */
export async function deleteOrganisation(actor: Actor, clock: Clock): Promise<void> {
  authorise(actor, 'organisation.delete');
  refuseStale(actor, clock);
  await hideOrganisation(actor, actor.sessionId, clock);
}

/** The same for whoever runs Heathland, of whom nothing is known; nobody stays signed in. */
export const deleteForOperator = (organisationId: string, clock: Clock): Promise<void> =>
  hideOrganisation({ organisationId, userId: null }, null, clock);

/** `except` is the session that stays. */
const hideOrganisation = (
  by: { organisationId: string; userId: string | null },
  except: string | null,
  clock: Clock,
): Promise<void> =>
  inTenant(by.organisationId, async (tx) => {
    await setOrganisationDeleted(tx, by.organisationId, new Date(clock.now()));
    await touchAllCards(tx, by.organisationId);
    await endAllPreviews(tx);
    await endAllSessions(tx, except);
    const subject = { kind: 'organisation' as const, id: by.organisationId };
    await recordAudit(tx, by, 'organisation.deleted', subject, clock);
  });

/** Brings the organisation back as it was. Error: NOT_ALLOWED. */
export async function bringBackOrganisation(actor: Actor, clock: Clock): Promise<void> {
  authorise(actor, 'organisation.delete');
  await showOrganisation(actor, clock);
}

export const bringBackForOperator = (organisationId: string, clock: Clock): Promise<void> =>
  showOrganisation({ organisationId, userId: null }, clock);

const showOrganisation = (by: { organisationId: string; userId: string | null }, clock: Clock): Promise<void> =>
  inTenant(by.organisationId, async (tx) => {
    await setOrganisationDeleted(tx, by.organisationId, null);
    await touchAllCards(tx, by.organisationId);
    const subject = { kind: 'organisation' as const, id: by.organisationId };
    await recordAudit(tx, by, 'organisation.brought-back', subject, clock);
  });

/**
 * Ends a member's own account: they are signed out everywhere and their name and mail address are erased after the usual time; what
 * belongs to the organisation stays with it. Errors: PASSWORD_STALE, LAST_OWNER.
 */
export async function deleteOwnAccount(actor: Actor, clock: Clock): Promise<void> {
  authorise(actor, 'account.delete');
  refuseStale(actor, clock);
  const { organisationId, userId } = actor;
  await inTenant(organisationId, async (tx) => {
    const row = await memberForUpdate(tx, organisationId, userId);
    const owners = await ownersForUpdate(tx, organisationId);
    if (row?.role === 'owner' && owners.length <= 1) throw new Refusal({ code: 'LAST_OWNER' });
    await updateMember(tx, organisationId, userId, { left_at: new Date(clock.now()) });
    await deleteSessionsOf(tx, userId, null);
    await recordAudit(tx, actor, 'member.left', { kind: 'member', id: userId }, clock);
  });
}
