import { randomUUID } from 'node:crypto';
import { deviceOf } from '@/core/access';
import { orRefuse, Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { cleanLine, readEmail } from '@/core/record';
import { isTimeZone } from '@/core/response';
import { insertOrganisation, insertUser } from '@/server/db/accounts';
import { violatedCheck, violatedUnique } from '@/server/db/failures';
import { inTenant } from '@/server/db/pool';
import type { Clock } from '@/server/clock';
import { settings } from '@/server/env';
import { recordAudit } from './audit';
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
 * Makes an account of one's own where anybody may, and answers with a session's token. Errors: SIGN_UP_CLOSED, and those of
 * {@link makeAccount}.
 */
export async function signUp(input: NewAccount, clock: Clock): Promise<string> {
  if (settings().SIGN_UP !== 'open') throw new Refusal({ code: 'SIGN_UP_CLOSED' });
  return beginSession(await makeAccount(input, clock), deviceOf(input.userAgent ?? ''), clock);
}

/**
 * An account and its organisation (of one, named after the person, unless it has a name of its own). Errors: NAME_MISSING,
 * EMAIL_UNREADABLE, EMAIL_IN_USE, PASSWORD_SHORT, PASSWORD_LONG, PASSWORD_WEAK, TIME_ZONE_UNKNOWN.
 */
export async function makeAccount(input: NewAccount & { mustChangePassword?: boolean }, clock: Clock) {
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
  };
  try {
    await inTenant(id, async (tx) => {
      await insertOrganisation(tx, {
        id,
        name: cleanLine(input.organisation ?? '').text.slice(0, LIMITS.name) || name,
        country: input.country,
        time_zone: input.timeZone,
      });
      await insertUser(tx, user);
      const who = { organisationId: id, userId: user.id };
      await recordAudit(tx, who, 'account.made', { kind: 'organisation', id }, clock);
    });
  } catch (error) {
    // Known to this program and not to the database, which tells an organisation's days.
    if (violatedCheck(error) === 'organisations_time_zone_known') throw new Refusal({ code: 'TIME_ZONE_UNKNOWN' });
    throw violatedUnique(error)?.startsWith('users_email') ? new Refusal({ code: 'EMAIL_IN_USE' }) : error;
  }
  return user;
}
