import { randomUUID } from 'node:crypto';
import { setTimeout as pause } from 'node:timers/promises';
import { mayReach } from '@/core/access';
import { isTransient, orRefuse, Refusal, wordingOf, type Problem } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { readEmail, writtenName, type PersonRecord } from '@/core/record';
import type { ShownInvitation } from '@/core/shown';
import { welcomeLetter } from '@/core/words';
import type { Clock } from '@/server/clock';
import { dropLinks } from '@/server/db/accounts/account-links';
import {
  countMembers,
  deleteSessionsOf,
  insertUser,
  leftMember,
  memberForUpdate,
  organisation,
  updateMember,
} from '@/server/db/accounts/accounts';
import {
  dueReminders,
  insertInvitation,
  invitationForUpdate,
  updateInvitation,
  userOfRecord,
  type InvitationRow,
} from '@/server/db/accounts/invitations';
import { cardsOfRecord } from '@/server/db/cards/cards';
import { record, recordNames } from '@/server/db/cards/records';
import { violatedUnique } from '@/server/db/jobs/failures';
import { countAlone } from '@/server/db/locks';
import { inTenant, outsideTenants, type Tx } from '@/server/db/pool';
import { staffById } from '@/server/db/roster/staff';
import { keepMend, mendsOfRecord } from '@/server/db/wild/mends';
import { faultAt, faultIsOver } from '@/server/services/jobs/faults';
import { askForJob } from '@/server/services/jobs/jobs';
import type { RunningJob } from '@/server/services/jobs/run-job';
import { hasRoomForMail, mailFor, mailIsOpen } from '@/server/services/mail/post-mail';
import type { Actor } from './actor';
import { recordAudit } from './audit';
import { authorise } from './authorise';
import { refuseStale } from './fresh';
import { LETTER_SECONDS, linkFor, mayWriteTo, writeTo } from './letters';

const DAY_MS = 86_400_000;
/** So often it is looked whether the outbox has room, in milliseconds. */
const ROOM_MS = 2_000;
/** And so often at most while nothing leaves: where no mail goes out, nobody else's work waits behind this one. */
const MOST_WAITS = 30;
/** So long an invitation holds, and after so long whoever has not come is reminded, once. */
export const HOLDS_MS = 7 * DAY_MS;
const REMINDED_AFTER_MS = 4 * DAY_MS;
/** A password that no hash is of: whoever has chosen none signs in by a code. */
export const NO_PASSWORD = '!';

function refuseInviting(actor: Actor): void {
  authorise(actor, 'member.invite');
  const mail = mailFor(actor);
  if (mail !== 'yes') throw new Refusal({ code: mail === 'closed' ? 'MAIL_CLOSED' : 'EMAIL_UNCONFIRMED' });
}

/**
 * Asks for people to be invited to sign in as holders of their records. Errors: NOT_ALLOWED, NOT_FOUND, MAIL_CLOSED, EMAIL_UNCONFIRMED,
 * PASSWORD_STALE, TOO_MANY_JOBS.
 */
export async function askToInvite(actor: Actor, wanted: string[], clock: Clock): Promise<{ job: string }> {
  refuseInviting(actor);
  refuseStale(actor, clock);
  const records = [...new Set(wanted)];
  for (const id of records) if (!mayReach(actor, 'member.invite', id)) throw new Refusal({ code: 'NOT_FOUND' });
  const job = await inTenant(actor, async (tx) => {
    if ((await recordNames(tx, records)).length < records.length) throw new Refusal({ code: 'NOT_FOUND' });
    const input = { records: records.join(',') };
    return askForJob(tx, actor, { task: 'invite-people', input, total: records.length }, clock);
  });
  return { job };
}

/** The address for work of a person, in the form that signs in; null where there is none. */
function workMail({ details }: PersonRecord): string | null {
  const mails = details.flatMap((each) => (each.kind === 'email' ? each : []));
  const found = mails.find(({ uses }) => uses.includes('work')) ?? mails.find(({ uses }) => uses.length === 0);
  return found ? orRefuse(readEmail(found.address)).toLowerCase() : null;
}

/** Writes a welcome with a new link, which ends the one before. */
async function welcome(
  tx: Tx,
  of: Pick<InvitationRow, 'organisation_id' | 'user_id' | 'language'>,
  to: { name: string; email: string },
  again: boolean,
  clock: Clock,
) {
  const holder = { id: of.user_id, organisation_id: of.organisation_id };
  const firm = (await organisation(tx, of.organisation_id))?.name ?? '';
  const address = await linkFor(tx, holder, 'welcome', to.email, clock);
  const letter = welcomeLetter(of.language, { firm, name: to.name, address, again });
  await writeTo(tx, holder, { name: to.name, address: to.email }, letter, 'welcome', clock);
}

/** Invites one person: an account of theirs that nobody can sign in to but by the link. Answers with what keeps them out, or null. */
async function inviteOne(tx: Tx, actor: Actor, recordId: string, clock: Clock): Promise<Problem | null> {
  const person = await record(tx, recordId);
  const staff = await staffById(tx, recordId);
  if (!person || !staff) return { code: 'NOT_FOUND' };
  if (staff.left_on !== null && staff.left_on === staff.leaves_on) return { code: 'HAS_LEFT' };
  if (await userOfRecord(tx, recordId)) return { code: 'HAS_ACCOUNT' };
  const email = workMail(person.body);
  if (!email) return { code: 'NO_WORK_MAIL' };
  if ((await countMembers(tx)) >= LIMITS.members) return { code: 'TOO_MANY_MEMBERS', limit: LIMITS.members };
  const [first] = await cardsOfRecord(tx, recordId);
  const own = { organisation_id: actor.organisationId, user_id: randomUUID() };
  const name = writtenName(person.body.name);
  await insertUser(tx, {
    ...{ id: own.user_id, organisation_id: own.organisation_id, email, password_hash: NO_PASSWORD, name },
    ...{ role: 'holder' as const, own_record: recordId, must_change_password: false },
  });
  const row = { ...own, record_id: recordId, language: first?.language ?? 'en', invited_by: actor.userId };
  await insertInvitation(tx, { ...row, sent_at: new Date(clock.now()) });
  await welcome(tx, row, { name, email }, false, clock);
  await recordAudit(tx, actor, 'member.invited', { kind: 'member', id: own.user_id }, clock);
  return null;
}

/** Sends invitations one by one; whoever cannot be invited is told with the reason. A second try invites nobody twice. */
export async function invitePeople(running: RunningJob): Promise<Record<string, number>> {
  const { id, actor, input, clock, progress } = running;
  refuseInviting(actor);
  const records = String(input.records).split(',');
  const { organisationId } = actor;
  let [invited, waits] = [0, MOST_WAITS];
  for (const [at, recordId] of records.entries()) {
    await progress(at, records.length);
    // A large company's welcomes leave as the outbox empties; stopping the job ends the wait.
    let hasRoom = await inTenant(organisationId, hasRoomForMail);
    for (; !hasRoom && waits > 0; waits -= 1) {
      await pause(ROOM_MS);
      await progress(at, records.length);
      hasRoom = await inTenant(organisationId, hasRoomForMail);
    }
    if (hasRoom) waits = MOST_WAITS;
    const row = { id: randomUUID(), organisation_id: organisationId, job_id: id, record_id: recordId, card_id: null };
    const left = (problem: Problem) =>
      inTenant(organisationId, (tx) =>
        keepMend(tx, { ...row, was: null, problem: { code: 'WORDED', sentence: wordingOf(problem) } }),
      );
    try {
      const problem = await inTenant(organisationId, async (tx): Promise<Problem | 'known' | null> => {
        if ((await mendsOfRecord(tx, id, recordId)).length > 0) return 'known';
        if (!hasRoom) return { code: 'TOO_MUCH_MAIL', limit: LIMITS.mailsWaiting };
        await countAlone(tx, organisationId, 'members');
        const found = await inviteOne(tx, actor, recordId, clock);
        if (!found) await keepMend(tx, { ...row, was: { invited: true }, problem: null });
        return found;
      });
      if (problem === null) invited += 1;
      else if (problem !== 'known') await left(problem);
    } catch (error) {
      if (violatedUnique(error)?.startsWith('users_email')) await left({ code: 'EMAIL_IN_USE' });
      else if (error instanceof Refusal && !isTransient(error.problem)) await left(error.problem);
      else throw error;
    }
  }
  await progress(records.length, records.length);
  return { invited };
}

const isOpen = ({ accepted_at, withdrawn_at }: InvitationRow): boolean => accepted_at === null && withdrawn_at === null;

/** An invitation as a list shows it; null once it was accepted. Instants are ISO 8601. */
export const shownInvitation = (row: InvitationRow, isLost: boolean, clock: Clock): ShownInvitation | null =>
  row.accepted_at !== null
    ? null
    : {
        sent: row.sent_at.toISOString(),
        times: row.sent,
        reminded: row.reminded_at?.toISOString() ?? null,
        state:
          row.withdrawn_at !== null
            ? 'withdrawn'
            : row.sent_at.getTime() + HOLDS_MS <= clock.now()
              ? 'expired'
              : isLost
                ? 'undelivered'
                : 'waiting',
      };

/** Sends an invitation again, with a new link in the place of the old one; also one that was withdrawn. Errors: NOT_ALLOWED, NOT_FOUND, EMAIL_IN_USE, and those of asking. */
export async function inviteAgain(actor: Actor, userId: string, clock: Clock): Promise<void> {
  refuseInviting(actor);
  try {
    await inTenant(actor, async (tx) => {
      const row = await invitationForUpdate(tx, userId);
      if (!row || row.accepted_at !== null) throw new Refusal({ code: 'NOT_FOUND' });
      const present = await memberForUpdate(tx, actor.organisationId, userId);
      const user = present ?? (await leftMember(tx, actor.organisationId, userId));
      const person = user && (await record(tx, row.record_id));
      if (!user || !person) throw new Refusal({ code: 'NOT_FOUND' });
      // An address that was mended on the record is written to, not the one that nothing reached.
      const email = workMail(person.body) ?? user.email;
      if (!(await mayWriteTo(email, clock))) throw new Refusal({ code: 'TOO_MANY_REQUESTS', seconds: LETTER_SECONDS });
      // Whoever has left the firm is not brought back by a letter.
      const staff = await staffById(tx, row.record_id);
      if (staff?.left_on && staff.left_on === staff.leaves_on) throw new Refusal({ code: 'HAS_LEFT' });
      await updateMember(tx, actor.organisationId, userId, { email, left_at: null, own_record: row.record_id });
      const sent_at = new Date(clock.now());
      await updateInvitation(tx, userId, { sent_at, sent: row.sent + 1, withdrawn_at: null });
      await welcome(tx, row, { name: user.name, email }, true, clock);
      await recordAudit(tx, actor, 'member.invited', { kind: 'member', id: userId }, clock);
    });
  } catch (error) {
    throw violatedUnique(error)?.startsWith('users_email') ? new Refusal({ code: 'EMAIL_IN_USE' }) : error;
  }
}

/** Withdraws an invitation that nobody has taken: its link ends at once. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function withdrawInvitation(actor: Actor, userId: string, clock: Clock): Promise<void> {
  authorise(actor, 'member.invite');
  await inTenant(actor, async (tx) => {
    const row = await invitationForUpdate(tx, userId);
    if (!row || !isOpen(row)) throw new Refusal({ code: 'NOT_FOUND' });
    await dropLinks(tx, userId, ['welcome']);
    await updateInvitation(tx, userId, { withdrawn_at: new Date(clock.now()) });
    await updateMember(tx, actor.organisationId, userId, { left_at: new Date(clock.now()) });
    await deleteSessionsOf(tx, userId, null);
    await recordAudit(tx, actor, 'member.uninvited', { kind: 'member', id: userId }, clock);
  });
}

/** Reminds whoever was invited and has not come, once each; one at fault costs only themselves. */
export async function remindInvited(clock: Clock): Promise<void> {
  if (!mailIsOpen()) return;
  const due = await outsideTenants((db) => dueReminders(db, new Date(clock.now() - REMINDED_AFTER_MS)));
  for (const { organisation_id: organisationId, user_id: userId } of due)
    try {
      await inTenant(organisationId, async (tx) => {
        const row = await invitationForUpdate(tx, userId);
        const user = await memberForUpdate(tx, organisationId, userId);
        if (!row || !isOpen(row) || row.reminded_at !== null || !user) return;
        const at = new Date(clock.now());
        // An invitation that has run out is not sent anew by itself.
        if (row.sent_at.getTime() + HOLDS_MS > clock.now()) {
          await updateInvitation(tx, userId, { reminded_at: at, sent_at: at, sent: row.sent + 1 });
          await welcome(tx, row, { name: user.name, email: user.email }, true, clock);
        } else await updateInvitation(tx, userId, { reminded_at: at });
      });
      await faultIsOver(organisationId, 'invitations', userId);
    } catch (error) {
      await faultAt({ organisationId, sweep: 'invitations', subject: userId, error }, clock);
      // Who cannot be written to at all does not stand before others again and again.
      if (error instanceof Refusal && !isTransient(error.problem))
        await inTenant(organisationId, (tx) => updateInvitation(tx, userId, { reminded_at: new Date(clock.now()) }));
    }
}
