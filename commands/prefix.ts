import type { Client } from 'pg';
import { readAddress, skeletonOf } from '../src/core/address';
import { wordingOf } from '../src/core/errors';
import { withInstallation } from './archive/installation';
import { asOwner } from './cluster/databases';
import { say, Stop } from './stop';

/** An organisation by its id, or by its name where no other has the same. */
async function organisationOf(client: Client, named: string): Promise<{ id: string; name: string }> {
  const { rows } = await client.query<{ id: string; name: string }>(
    'SELECT id, name FROM organisations WHERE id::text = lower($1) OR name = $1',
    [named],
  );
  if (rows.length !== 1)
    throw new Stop(
      rows.length === 0 ? `There is no organisation “${named}”.` : `Several are called “${named}”: name one by its id.`,
    );
  return rows[0]!;
}

/**
 * Gives an organisation the beginning of its new addresses, its only one; an earlier one of its own stays reserved for it. Nobody else's
 * address may begin so already, or look as if.
 */
export async function allowPrefix(
  client: Client,
  typed: string,
  named: string,
): Promise<{ prefix: string; name: string }> {
  const read = readAddress(typed);
  if (!read.ok) throw new Stop(wordingOf(read.problem));
  const prefix = read.value;
  const { id, name } = await organisationOf(client, named);
  await client.query('BEGIN');
  try {
    await client.query(`SELECT pg_advisory_xact_lock(hashtext('heathland prefixes'))`);
    const { rowCount: taken } = await client.query(
      `SELECT FROM directory_prefixes WHERE organisation_id <> $2 AND (prefix = $1 OR starts_with($1 || '-', prefix || '-') OR starts_with(prefix || '-', $1 || '-'))
       UNION ALL
       SELECT FROM directory_addresses WHERE organisation_id <> $2 AND (starts_with(name || '-', $1 || '-') OR starts_with(skeleton || '-', $3 || '-'))`,
      [prefix, id, skeletonOf(prefix)],
    );
    if (taken)
      throw new Stop(`Addresses of somebody else begin with “${prefix}” already, or look as if. Nothing was changed.`);
    await client.query('UPDATE directory_prefixes SET is_current = false WHERE organisation_id = $1', [id]);
    await client.query(
      'INSERT INTO directory_prefixes (prefix, organisation_id, is_current) VALUES ($1, $2, true) ON CONFLICT (prefix) DO UPDATE SET is_current = true',
      [prefix, id],
    );
    await client.query('DELETE FROM prefix_requests WHERE organisation_id = $1', [id]);
    await client.query(
      `INSERT INTO audit_trail (organisation_id, at, user_id, act, subject_kind, subject_id) VALUES ($1::uuid, now(), NULL, 'prefix.set', 'organisation', $1::uuid::text)`,
      [id],
    );
    await client.query('COMMIT');
  } catch (error) {
    await client.query('ROLLBACK');
    throw error;
  }
  return { prefix, name };
}

/** The beginnings of addresses that were asked for and given; `allow` gives one, `refuse` drops a request. */
export const run = ([word, ...rest]: string[]): Promise<number> =>
  withInstallation((databaseUrl) =>
    asOwner(databaseUrl, async (client) => {
      if (word === 'allow' && rest.length === 2) {
        const { prefix, name } = await allowPrefix(client, rest[0]!, rest[1]!);
        say(`New addresses of ${name} begin with “${prefix}”.`);
        return 0;
      }
      if (word === 'refuse' && rest.length === 1) {
        const { id, name } = await organisationOf(client, rest[0]!);
        await client.query('DELETE FROM prefix_requests WHERE organisation_id = $1', [id]);
        say(`The request of ${name} is gone.`);
        return 0;
      }
      if (word !== undefined)
        throw new Stop('Say ./heathland prefix, prefix allow PREFIX ORGANISATION, or prefix refuse ORGANISATION');
      const { rows } = await client.query<{ prefix: string; state: string; name: string; id: string }>(
        `SELECT prefix, 'asked for' AS state, o.name, o.id FROM prefix_requests JOIN organisations o ON o.id = organisation_id
         UNION ALL SELECT prefix, CASE WHEN is_current THEN 'given' ELSE 'reserved' END, o.name, o.id
         FROM directory_prefixes JOIN organisations o ON o.id = organisation_id ORDER BY 2, 1`,
      );
      for (const { prefix, state, name, id } of rows) say(`${state.padEnd(10)} ${prefix.padEnd(24)} ${name} (${id})`);
      if (rows.length === 0) say('No beginning of addresses was asked for or given.');
      return 0;
    }),
  );
