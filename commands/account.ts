import { withInstallation } from './archive/installation';
import { asOwner } from './cluster/databases';
import { say, Stop } from './stop';

/** What only the operator may do to an account: take a second factor away whose owner has lost phone and recovery codes. */
export const run = ([word, email, ...rest]: string[]): Promise<number> =>
  withInstallation(async (databaseUrl) => {
    if (word !== 'reset-second-factor' || !email || rest.length > 0)
      throw new Stop('Say ./heathland account reset-second-factor E-MAIL');
    await asOwner(databaseUrl, async (client) => {
      await client.query('BEGIN');
      const { rows } = await client.query<{ id: string; organisation_id: string }>(
        `UPDATE users SET totp_secret = NULL, totp_since = NULL, totp_step = 0 WHERE email = lower($1) AND left_at IS NULL RETURNING id, organisation_id`,
        [email],
      );
      const [user] = rows;
      if (!user) throw new Stop('Nobody signs in with this address.');
      await client.query('DELETE FROM recovery_codes WHERE user_id = $1', [user.id]);
      await client.query('DELETE FROM sessions WHERE user_id = $1', [user.id]);
      await client.query(
        `INSERT INTO audit_trail (organisation_id, at, user_id, act, subject_kind, subject_id) VALUES ($1, now(), NULL, 'second-factor.reset', 'member', $2)`,
        [user.organisation_id, user.id],
      );
      await client.query('COMMIT');
    });
    say('The second factor is gone and all sessions have ended; the password lets them in until they set up another.');
    return 0;
  });
