import { randomUUID } from 'node:crypto';
import { deviceOf } from '@/core/access';
import { orRefuse, Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { cleanLine, readEmail } from '@/core/record';
import { isTimeZone } from '@/core/response';
import { insertOrganisation, insertUser } from '@/server/db/accounts/accounts';
import { violatedCheck, violatedUnique } from '@/server/db/jobs/failures';
import { inTenant } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import { settings } from '@/server/env';
import { mailIsOpen } from '@/server/services/mail/post-mail';
import { recordAudit } from './audit';
import { askToConfirm, mayWriteTo } from './letters';
import { beginSession } from './sessions';
import { hashPassword } from './passwords';

export type NewAccount = {
  name: string;
  email: string;
  password: string;
  organisation?: string;
  country: string;
  timeZone: string;
  userAgent?: string;
};

/**
 * Makes an account of one's own where anybody may, and answers with a session's token. Where mail leaves, a letter asks whoever reads the address to confirm
 * it, and an address that somebody has already is taken all the same: that account is provisional, and they are told. Without mail it is refused.
 * Errors: SIGN_UP_CLOSED, and those of {@link makeAccount}.
 */
export async function signUp(input: NewAccount, clock: Clock): Promise<string> {
  if (settings().SIGN_UP !== 'open') throw new Refusal({ code: 'SIGN_UP_CLOSED' });
  const device = deviceOf(input.userAgent ?? '');
  if (!mailIsOpen()) return beginSession(await makeAccount(input, clock), device, clock);
  const made = await readAccount(input);
  const writes = await mayWriteTo(made.user.email, clock);
  const user = await keepAccount(made, clock, writes).catch((error: unknown) => {
    if (!isInUse(error)) throw error;
    return keepAccount({ ...made, user: { ...made.user, provisional: true } }, clock, writes);
  });
  return beginSession(user, device, clock);
}

/**
 * An account and its organisation (of one, named after the person, unless it has a name of its own). Errors: NAME_MISSING,
 * EMAIL_UNREADABLE, EMAIL_IN_USE, PASSWORD_SHORT, PASSWORD_LONG, PASSWORD_WEAK, TIME_ZONE_UNKNOWN.
 */
export async function makeAccount(input: NewAccount & { mustChangePassword?: boolean }, clock: Clock) {
  const made = await readAccount(input);
  try {
    return await keepAccount(made, clock);
  } catch (error) {
    throw isInUse(error) ? new Refusal({ code: 'EMAIL_IN_USE' }) : error;
  }
}

type Made = {
  user: Parameters<typeof insertUser>[1] & { provisional: boolean };
  own: Parameters<typeof insertOrganisation>[1];
};

const isInUse = (error: unknown): boolean => violatedUnique(error)?.startsWith('users_email') ?? false;

async function readAccount(input: NewAccount & { mustChangePassword?: boolean }): Promise<Made> {
  const name = cleanLine(input.name).text.slice(0, LIMITS.name);
  if (!name) throw new Refusal({ code: 'NAME_MISSING' });
  const email = orRefuse(readEmail(input.email)).toLowerCase();
  if (!isTimeZone(input.timeZone)) throw new Refusal({ code: 'TIME_ZONE_UNKNOWN' });
  const password_hash = await hashPassword(input.password, { name, email, organisation: input.organisation ?? '' });
  const id = randomUUID();
  const user = {
    id: randomUUID(),
    organisation_id: id,
    email,
    password_hash,
    name,
    role: 'owner' as const,
    own_record: null,
    must_change_password: input.mustChangePassword ?? false,
    provisional: false,
  };
  const called = cleanLine(input.organisation ?? '').text.slice(0, LIMITS.name) || name;
  return { user, own: { id, name: called, country: input.country, time_zone: input.timeZone } };
}

async function keepAccount({ user, own }: Made, clock: Clock, writes: boolean = false): Promise<Made['user']> {
  const { id } = own;
  try {
    await inTenant(id, async (tx) => {
      await insertOrganisation(tx, own);
      await insertUser(tx, user);
      await recordAudit(
        tx,
        { organisationId: id, userId: user.id },
        'account.made',
        { kind: 'organisation', id },
        clock,
      );
      if (writes) await askToConfirm(tx, user, clock);
    });
  } catch (error) {
    // Known to this program and not to the database, which tells an organisation's days.
    if (violatedCheck(error) === 'organisations_time_zone_known') throw new Refusal({ code: 'TIME_ZONE_UNKNOWN' });
    throw error;
  }
  return user;
}
