import { hashOf } from '../src/server/services/accounts/passwords';
import { withInstallation } from './archive/installation';
import { asOwner } from './cluster/databases';
import { newPassword } from './new-password';
import { say, Stop } from './stop';

const USAGE = 'account reset-second-factor E-MAIL, account new-password E-MAIL';

/** Ends all sessions of an account, and in the audit trail stands what was done to it. */
const END = `WITH ended AS (DELETE FROM sessions WHERE user_id = $1)
  INSERT INTO audit_trail (organisation_id, at, user_id, act, subject_kind, subject_id)
  SELECT organisation_id, now(), NULL, $2, 'member', id FROM users WHERE id = $1`;

/**
 * What only the operator may do to an account: take a second factor away whose owner has lost phone and recovery codes, and give a new
 * password, which must be changed at the first sign-in, to somebody whom no owner can help.
 */
export const run = ([word, email, ...rest]: string[]): Promise<number> =>
  withInstallation(async (databaseUrl) => {
    if ((word !== 'reset-second-factor' && word !== 'new-password') || !email || rest.length > 0)
      throw new Stop(`Say ./heathland ${USAGE}`);
    const password = newPassword();
    const change =
      word === 'new-password'
        ? { set: 'password_hash = $2, must_change_password = true', values: [await hashOf(password)] }
        : { set: 'totp_secret = NULL, totp_since = NULL, totp_step = 0', values: [] };
    await asOwner(databaseUrl, async (client) => {
      await client.query('BEGIN');
      const { rows } = await client.query<{ id: string }>(
        `UPDATE users SET ${change.set} WHERE email = lower($1) AND left_at IS NULL RETURNING id`,
        [email, ...change.values],
      );
      const [user] = rows;
      if (!user) throw new Stop('Nobody signs in with this address.');
      if (word === 'reset-second-factor')
        await client.query('DELETE FROM recovery_codes WHERE user_id = $1', [user.id]);
      await client.query(END, [user.id, word === 'new-password' ? 'member.password-set' : 'second-factor.reset']);
      await client.query('COMMIT');
    });
    say(
      word === 'new-password'
        ? `The new password is ${password}; it must be changed at the first sign-in. All sessions have ended.`
        : 'The second factor is gone and all sessions have ended; the password lets them in until they set up another.',
    );
    return 0;
  });
