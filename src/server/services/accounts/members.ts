import type { ShownMember } from '@/core/shown';
import { randomUUID } from 'node:crypto';
import type { Device, Role } from '@/core/access';
import { orRefuse, Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { cleanLine, readEmail } from '@/core/record';
import { LETTERS } from '@/core/words';
import type { Clock } from '@/server/clock';
import {
  countMembers,
  deleteSessionsOf,
  insertUser,
  leftMember,
  member,
  memberForUpdate,
  members,
  ownersForUpdate,
  updateMember,
} from '@/server/db/accounts/accounts';
import { passLeads } from '@/server/db/contacts/leads';
import { invitationsOf, undelivered } from '@/server/db/accounts/invitations';
import { dropLinks } from '@/server/db/accounts/account-links';
import { countAlone } from '@/server/db/locks';
import { violatedUnique } from '@/server/db/jobs/failures';
import { settings } from '@/server/env';
import { inTenant, type Tx } from '@/server/db/pool';
import { record, recordNames } from '@/server/db/cards/records';
import { endLeading } from '@/server/db/roster/teams';
import type { Actor } from './actor';
import { recordAudit } from './audit';
import { authorise } from './authorise';
import { shownInvitation } from './invitations';
import { mailFor } from '@/server/services/mail/post-mail';
import { notify } from './letters';
import { beginSession } from './sessions';
import { hashPassword, isPassword } from './passwords';
import { refuseStale } from './fresh';

/** Members on a page. */
const PAGE = 100;

/** What of the members is looked for: letters of a name or address, from after somebody on. */
export type MembersAsked = { words?: string; after?: string | null };
export type MembersPage = { members: ShownMember[]; next: string | null; present: number };

/** A page of the members of an organisation by name, those who have left last, and how many there are. Error: NOT_ALLOWED. */
export async function listMembers(
  actor: Actor,
  { words = '', after = null }: MembersAsked,
  clock: Clock,
): Promise<MembersPage> {
  authorise(actor, 'member.read');
  return inTenant(actor, async (tx) => {
    const asked = { words: cleanLine(words).text.slice(0, LIMITS.name), after, most: PAGE + 1 };
    const found = await members(tx, actor.organisationId, asked);
    const rows = found.slice(0, PAGE);
    const ids = rows.map(({ id }) => id);
    const invited = new Map((await invitationsOf(tx, ids)).map((row) => [row.user_id, row]));
    const lost = invited.size > 0 ? await undelivered(tx, ids) : new Set<string>();
    const invitationFor = (id: string) => {
      const row = invited.get(id);
      return row ? shownInvitation(row, lost.has(id), clock) : null;
    };
    const own = rows.flatMap(({ own_record }) => own_record ?? []);
    const names = new Map((await recordNames(tx, own)).map((row) => [row.id, row.written_name]));
    const shown = rows.map((row) => ({
      id: row.id,
      name: row.name,
      email: row.email,
      role: row.role,
      ownRecord: row.own_record,
      ownRecordName: row.own_record === null ? null : (names.get(row.own_record) ?? null),
      mustChangePassword: row.must_change_password,
      hasLeft: row.left_at !== null,
      secondFactor: row.totp_since !== null,
      invitation: invitationFor(row.id),
    }));
    return { members: shown, next: found.length > PAGE ? ids.at(-1)! : null, present: await countMembers(tx) };
  });
}

/** A role together with the record that is the member's own. Errors: HOLDER_NEEDS_RECORD, NOT_FOUND. */
async function checkPlace(tx: Tx, place: { role: Role; ownRecord: string | null }): Promise<void> {
  if (place.role === 'holder' && place.ownRecord === null) throw new Refusal({ code: 'HOLDER_NEEDS_RECORD' });
  if (place.ownRecord !== null && !(await record(tx, place.ownRecord))) throw new Refusal({ code: 'NOT_FOUND' });
}

/**
 * Adds a member with a first password, which they must change when they first sign in; where mail leaves, only by whoever confirmed an
 * address of their own, or anybody could give others' addresses an account. Errors: NOT_ALLOWED, EMAIL_UNCONFIRMED, NAME_MISSING,
 * EMAIL_UNREADABLE, EMAIL_IN_USE, SIGN_UP_CLOSED, PASSWORD_SHORT, PASSWORD_LONG, HOLDER_NEEDS_RECORD, NOT_FOUND, TOO_MANY_MEMBERS.
 */
export async function addMember(
  actor: Actor,
  input: { name: string; email: string; role: Role; ownRecord: string | null; password: string },
  clock: Clock,
): Promise<{ id: string }> {
  authorise(actor, 'member.manage');
  refuseStale(actor, clock);
  if (settings().SIGN_UP === 'closed') throw new Refusal({ code: 'SIGN_UP_CLOSED' });
  if (mailFor(actor) === 'unconfirmed') throw new Refusal({ code: 'EMAIL_UNCONFIRMED' });
  const name = cleanLine(input.name).text;
  if (!name) throw new Refusal({ code: 'NAME_MISSING' });
  if (name.length > LIMITS.name) throw new Refusal({ code: 'TEXT_TOO_LONG', limit: LIMITS.name });
  const email = orRefuse(readEmail(input.email)).toLowerCase();
  const { organisation } = actor;
  const password_hash = await hashPassword(input.password, { name, email, organisation: organisation.name });
  const id = randomUUID();
  try {
    return await inTenant(actor, async (tx) => {
      await checkPlace(tx, input);
      await countAlone(tx, actor.organisationId, 'members');
      if ((await countMembers(tx)) >= LIMITS.members)
        throw new Refusal({ code: 'TOO_MANY_MEMBERS', limit: LIMITS.members });
      await insertUser(tx, {
        id,
        organisation_id: actor.organisationId,
        email,
        password_hash,
        name,
        role: input.role,
        own_record: input.ownRecord,
        must_change_password: true,
      });
      await recordAudit(tx, actor, 'member.added', { kind: 'member', id }, clock, { role: input.role });
      return { id };
    });
  } catch (error) {
    throw violatedUnique(error)?.startsWith('users_email') ? new Refusal({ code: 'EMAIL_IN_USE' }) : error;
  }
}

/** A member other than the last owner, locked. Errors: NOT_FOUND, LAST_OWNER when an owner would cease to be one. */
async function changeable(tx: Tx, actor: Actor, id: string, staysOwner: boolean): Promise<void> {
  const owners = await ownersForUpdate(tx, actor.organisationId);
  const row = await memberForUpdate(tx, actor.organisationId, id);
  if (!row) throw new Refusal({ code: 'NOT_FOUND' });
  if (row.role === 'owner' && !staysOwner && owners.length === 1) throw new Refusal({ code: 'LAST_OWNER' });
}

/** Gives a member another role or record. Errors: NOT_ALLOWED, NOT_FOUND, LAST_OWNER, HOLDER_NEEDS_RECORD. */
export async function changeMember(
  actor: Actor,
  id: string,
  input: { role: Role; ownRecord: string | null },
  clock: Clock,
): Promise<void> {
  authorise(actor, 'member.manage');
  refuseStale(actor, clock);
  await inTenant(actor, async (tx) => {
    await changeable(tx, actor, id, input.role === 'owner');
    await checkPlace(tx, input);
    await updateMember(tx, actor.organisationId, id, { role: input.role, own_record: input.ownRecord });
    if (input.role !== 'team leader') await endLeading(tx, id);
    await recordAudit(tx, actor, 'member.changed', { kind: 'member', id }, clock, { role: input.role });
  });
}

/** Sets a member's password anew, to be changed when they sign in; ends their sessions. Errors as {@link addMember}. */
export async function setFirstPassword(actor: Actor, id: string, password: string, clock: Clock): Promise<void> {
  authorise(actor, 'member.manage');
  refuseStale(actor, clock);
  const row = await inTenant(actor, (tx) => member(tx, id));
  if (!row) throw new Refusal({ code: 'NOT_FOUND' });
  const password_hash = await hashPassword(password, { ...row, organisation: actor.organisation.name });
  await inTenant(actor, async (tx) => {
    await changeable(tx, actor, id, true);
    await updateMember(tx, actor.organisationId, id, { password_hash, must_change_password: true });
    await deleteSessionsOf(tx, id, null);
    await recordAudit(tx, actor, 'member.password-set', { kind: 'member', id }, clock);
  });
}

/** Takes a member's sign-in away at once. Their record, cards and codes stay; leads that they shared go to whoever removes them. Errors: NOT_ALLOWED, NOT_FOUND, LAST_OWNER. */
export async function removeMember(actor: Actor, id: string, clock: Clock): Promise<void> {
  authorise(actor, 'member.manage');
  refuseStale(actor, clock);
  await inTenant(actor, async (tx) => {
    await changeable(tx, actor, id, false);
    await updateMember(tx, actor.organisationId, id, { left_at: new Date(clock.now()) });
    await endLeading(tx, id);
    await passLeads(tx, id, actor.userId);
    await deleteSessionsOf(tx, id, null);
    await recordAudit(tx, actor, 'member.removed', { kind: 'member', id }, clock);
  });
}

/**
 * Takes a member back who was removed and is not erased yet, in the place that they had; with a first password, since whoever removed
 * them may have had a reason to end the old one. Errors as {@link addMember}; NOT_FOUND once they are erased.
 */
export async function bringBackMember(actor: Actor, id: string, password: string, clock: Clock): Promise<void> {
  authorise(actor, 'member.manage');
  refuseStale(actor, clock);
  const left = await inTenant(actor, (tx) => leftMember(tx, actor.organisationId, id));
  if (!left) throw new Refusal({ code: 'NOT_FOUND' });
  const password_hash = await hashPassword(password, { ...left, organisation: actor.organisation.name });
  try {
    await inTenant(actor, async (tx) => {
      await countAlone(tx, actor.organisationId, 'members');
      if ((await countMembers(tx)) >= LIMITS.members)
        throw new Refusal({ code: 'TOO_MANY_MEMBERS', limit: LIMITS.members });
      const row = await leftMember(tx, actor.organisationId, id);
      if (!row) throw new Refusal({ code: 'NOT_FOUND' });
      const { role } = row;
      // Their record may be gone meanwhile.
      const own_record = row.own_record && (await record(tx, row.own_record)) ? row.own_record : null;
      await checkPlace(tx, { role, ownRecord: own_record });
      const again = { own_record, password_hash, must_change_password: true, left_at: null };
      await updateMember(tx, actor.organisationId, id, again);
      await recordAudit(tx, actor, 'member.brought-back', { kind: 'member', id }, clock, { role });
    });
  } catch (error) {
    throw violatedUnique(error)?.startsWith('users_email') ? new Refusal({ code: 'EMAIL_IN_USE' }) : error;
  }
}

/**
 * Changes the member's own password and ends all their sessions; answers with the token of a new one. Errors: PASSWORD_WRONG,
 * PASSWORD_SAME, PASSWORD_SHORT, PASSWORD_LONG, PASSWORD_WEAK.
 */
export async function changePassword(
  actor: Actor,
  input: { present: string; next: string; device: Device },
  clock: Clock,
): Promise<{ token: string }> {
  authorise(actor, 'password.change');
  if (input.next === input.present) throw new Refusal({ code: 'PASSWORD_SAME' });
  const row = await inTenant(actor, (tx) => member(tx, actor.userId));
  if (!row || !(await isPassword(row.password_hash, input.present))) throw new Refusal({ code: 'PASSWORD_WRONG' });
  const password_hash = await hashPassword(input.next, { ...row, organisation: actor.organisation.name });
  await inTenant(actor, async (tx) => {
    await updateMember(tx, actor.organisationId, actor.userId, { password_hash, must_change_password: false });
    await deleteSessionsOf(tx, actor.userId, null);
    // Whoever else holds a link into the account may be the reason.
    await dropLinks(tx, actor.userId, ['password', 'move-from', 'move-to']);
    await recordAudit(tx, actor, 'password.changed', { kind: 'member', id: actor.userId }, clock);
    await notify(tx, row, ({ name, when, forgotten }) => LETTERS.passwordChanged(name, when, forgotten), clock);
  });
  return { token: await beginSession(row, input.device, clock) };
}
