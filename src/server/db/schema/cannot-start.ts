import type { Knex } from 'knex';
import { fingerprintOf } from '@/server/env';

/** The oldest release that is tested: views with the rights of whoever asks, schemas that not everybody writes to. */
const OLDEST = 15;

/** Nothing can be started on this database; the sentence is for whoever runs Heathland, and names no password. */
export class CannotStart extends Error {
  override name = 'CannotStart';
}

/** The database belongs to an installation with another secret: whoever started would lock its processes out. */
export class UnknownSecret extends CannotStart {
  constructor() {
    super(
      'SESSION_SECRET is not the one that this database knows. Start with the one of before, or change it by giving that one as SESSION_SECRET_BEFORE.',
    );
  }
}

/** What PostgreSQL and TLS say, by SQLSTATE or code of Node.js, where somebody has to mend it. */
const SENTENCES: Record<string, string> = {
  '28P01': 'The database refuses the password of DATABASE_URL.',
  '28000':
    'The database does not let the role of DATABASE_URL in: there is no such role, or pg_hba.conf does not allow it.',
  '3D000': 'There is no database of the name that DATABASE_URL has.',
  '42501': 'The role of DATABASE_URL lacks a right in its database, which it must own: ALTER DATABASE … OWNER TO ….',
  DEPTH_ZERO_SELF_SIGNED_CERT: 'The certificate of the database’s server is nobody’s that this machine trusts.',
  SELF_SIGNED_CERT_IN_CHAIN: 'The certificate of the database’s server is nobody’s that this machine trusts.',
  UNABLE_TO_VERIFY_LEAF_SIGNATURE: 'The certificate of the database’s server is nobody’s that this machine trusts.',
  CERT_HAS_EXPIRED: 'The certificate of the database’s server has expired.',
  ERR_TLS_CERT_ALTNAME_INVALID:
    'The certificate of the database’s server is for another name than that in DATABASE_URL.',
};

/** The error as whoever runs Heathland reads it, where it is known; else as it came. */
export function asSentence(error: unknown): unknown {
  const code = typeof error === 'object' && error !== null && 'code' in error ? String(error.code) : '';
  const sentence = SENTENCES[code];
  if (sentence) return new CannotStart(sentence);
  // The driver has no code for a server without TLS.
  if (error instanceof Error && /does not support SSL/.test(error.message))
    return new CannotStart('DATABASE_URL asks for TLS, which the database’s server does not offer.');
  return error;
}

/**
 * Refuses a database that nothing can be made in: too old, of another encoding, or one in which this role lacks a right. Error:
 * {@link CannotStart}.
 */
export async function refuseUnfit(tx: Knex): Promise<void> {
  const { rows } = await tx.raw<{
    rows: { version: number; told: string; encoding: string; roles: boolean; creates: boolean }[];
  }>(
    `SELECT current_setting('server_version_num')::int AS version, current_setting('server_version') AS told,
       current_setting('server_encoding') AS encoding, rolcreaterole OR rolsuper AS roles,
       has_database_privilege(current_database(), 'CREATE') AND has_schema_privilege('public', 'CREATE') AS creates
     FROM pg_roles WHERE rolname = current_user`,
  );
  const { version, told, encoding, roles, creates } = rows[0]!;
  if (version < OLDEST * 10_000)
    throw new CannotStart(`PostgreSQL ${OLDEST} or newer is needed; this is ${told.split(' ')[0]}.`);
  if (encoding !== 'UTF8')
    throw new CannotStart(
      `The database is encoded as ${encoding}; make one with ENCODING 'UTF8' TEMPLATE template0 and use that.`,
    );
  if (!roles) throw new CannotStart('The role of DATABASE_URL may not make roles: ALTER ROLE … CREATEROLE.');
  if (!creates) throw new CannotStart(SENTENCES['42501']!);
}

/** Refuses a database that a newer release has brought further than this one knows. Error: {@link CannotStart}. */
export async function refuseNewer(tx: Knex, known: string[]): Promise<void> {
  if (!(await tx.schema.hasTable('knex_migrations'))) return;
  const newer = (await tx('knex_migrations').orderBy('id').select<{ name: string }[]>('name'))
    .map(({ name }) => name)
    .filter((name) => !known.includes(name));
  if (newer.length > 0)
    throw new CannotStart(
      `A newer release has brought this database up to date (${newer.join(', ')}). Start that one, or restore a backup of before.`,
    );
}

/** Refuses a database that knows other secrets and none of these. Error: {@link UnknownSecret}. */
export async function refuseUnknown(tx: Knex, secret: string, before: string | undefined): Promise<void> {
  if (!(await tx.schema.hasTable('known_secrets'))) return;
  const known = (await tx('known_secrets').select<{ fingerprint: string }[]>('fingerprint')).map(
    (row) => row.fingerprint,
  );
  const given = [secret, before].flatMap((each) => (each ? fingerprintOf(each) : []));
  if (known.length > 0 && !given.some((each) => known.includes(each))) throw new UnknownSecret();
}
