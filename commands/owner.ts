import { parseArgs } from 'node:util';
import { Refusal, wordingOf } from '../src/core/errors';
import { systemClock } from '../src/server/clock';
import { withInstallation } from './archive/installation';
import { asOwner } from './cluster/databases';
import { newPassword } from './new-password';
import { say, Stop } from './stop';

const USAGE =
  'owner add E-MAIL --name NAME [--organisation NAME] [--country GB] [--time-zone Europe/London], owner reset E-MAIL';

/**
 * The first owner of an organisation, made by whoever runs Heathland, with a password that must be changed at the first sign-in; `reset`
 * lets an owner in again whom nobody else can help: a new password, and no second factor.
 */
export async function run(args: string[]): Promise<number> {
  const { values, positionals } = readArgs(args);
  const [verb, email, ...rest] = positionals;
  if (!email || rest.length > 0) throw new Stop(`Say ./heathland ${USAGE}`);
  if (verb === 'add') return withInstallation(() => add(email, values));
  if (verb === 'reset' && Object.keys(values).length === 0) return withInstallation((url) => reset(url, email));
  throw new Stop(`Say ./heathland ${USAGE}`);
}

const TEXT = { type: 'string' } as const;

function readArgs(args: string[]) {
  try {
    const options = { name: TEXT, organisation: TEXT, country: TEXT, 'time-zone': TEXT };
    return parseArgs({ args, allowPositionals: true, options });
  } catch {
    throw new Stop(`Say ./heathland ${USAGE}`);
  }
}

async function add(email: string, given: Partial<Record<string, string>>): Promise<number> {
  const { makeAccount } = await import('../src/server/services/accounts/sign-up');
  const { getCountries } = await import('../src/core/record');
  const country = (given.country ?? 'GB').toUpperCase();
  if (!given.name) throw new Stop(`Say whose account it is: ./heathland owner add ${email} --name "…"`);
  if (!getCountries().some((known) => known === country)) throw new Stop(`“${country}” is no country (ISO 3166-1).`);
  const password = newPassword();
  const account = {
    ...{ name: given.name, email, password, organisation: given.organisation, country },
    ...{ timeZone: given['time-zone'] ?? 'Europe/London', mustChangePassword: true },
  };
  const { organisation_id } = await makeAccount(account, systemClock).catch((error: unknown) => {
    throw error instanceof Refusal ? new Stop(wordingOf(error.problem)) : error;
  });
  say(`Made the organisation ${organisation_id}, and ${email} as its owner.`);
  say(`The first password is ${password}; it must be changed at the first sign-in.`);
  return 0;
}

/** An owner's new password, no second factor and no session any more, and in the audit trail that it was done. */
const RESET = `WITH owner AS (
    UPDATE users SET password_hash = $2, must_change_password = true, totp_secret = NULL, totp_since = NULL, totp_step = 0
    WHERE email = lower($1) AND role = 'owner' AND left_at IS NULL RETURNING id, organisation_id
  ), codes AS (DELETE FROM recovery_codes WHERE user_id IN (SELECT id FROM owner)),
  ended AS (DELETE FROM sessions WHERE user_id IN (SELECT id FROM owner)),
  told AS (INSERT INTO audit_trail (organisation_id, at, user_id, act, subject_kind, subject_id)
    SELECT organisation_id, now(), NULL, act, 'member', id FROM owner, unnest(ARRAY['member.password-set', 'second-factor.reset']) act)
  SELECT id FROM owner`;

async function reset(url: string, email: string): Promise<number> {
  const { hashOf } = await import('../src/server/services/accounts/passwords');
  const password = newPassword();
  const hash = await hashOf(password);
  const { rowCount } = await asOwner(url, (client) => client.query(RESET, [email, hash]));
  if (!rowCount) throw new Stop('No owner signs in with this address.');
  say(`The new password is ${password}; it must be changed at the first sign-in.`);
  say('The second factor is gone, and all sessions have ended.');
  return 0;
}
