import { withInstallation } from './archive/installation';
import { asOwner } from './cluster/databases';
import { Stop } from './stop';

type User = { email: string; role: string; organisation: string; factor: boolean; seen: Date | null };

/** Whoever may sign in: mail address, role, second factor, the last sign of them, organisation, separated by tabs. */
export async function run([verb, ...rest]: string[]): Promise<number> {
  if (verb !== 'list' || rest.length > 0) throw new Stop('Say ./heathland user list');
  return withInstallation(async (url) => {
    const { rows } = await asOwner(url, (client) =>
      client.query<User>(
        `SELECT u.email, u.role, o.name AS organisation, u.totp_since IS NOT NULL AS factor,
           (SELECT max(s.seen_at) FROM sessions s WHERE s.user_id = u.id) AS seen
         FROM users u JOIN organisations o ON o.id = u.organisation_id
         WHERE u.left_at IS NULL AND o.erased_at IS NULL ORDER BY o.name, u.email`,
      ),
    );
    for (const { email, role, organisation, factor, seen } of rows)
      process.stdout.write(
        [email, role, factor ? 'second factor' : '-', seen?.toISOString() ?? '-', organisation].join('\t') + '\n',
      );
    return 0;
  });
}
