import knex, { type Knex } from 'knex';
import { applicationRole, settings } from '@/server/env';
import { guarded, retried } from './jobs/failures';

export type Db = Knex;
export type Tx = Knex.Transaction;

let pool: Knex | undefined;
let share = 1;

/** A process that needs fewer connections than others says so before its first one. */
export const takeShare = (part: number): void => {
  share = part;
};

/** The application's pool, as its own role. */
export function db(): Knex {
  const { DATABASE_URL, SESSION_SECRET, DATABASE_CONNECTIONS } = settings();
  pool ??= knex({
    client: 'pg',
    // Compiling a query takes longer than any of ours.
    connection: {
      connectionString: applicationRole(DATABASE_URL, SESSION_SECRET).url,
      connectionTimeoutMillis: 2_000,
      options: '-c jit=off',
    },
    pool: { min: 0, max: Math.max(2, Math.ceil(DATABASE_CONNECTIONS * share)) },
    acquireConnectionTimeout: 3_000,
    // Whoever asks hears of a failure; the library's own lines would repeat it outside of our log.
    log: { warn: () => undefined, error: () => undefined, deprecate: () => undefined, debug: () => undefined },
  });
  return pool;
}

/** Whether the database answers this process; fails with what the driver says. */
export const answersNow = async (): Promise<void> => void (await db().raw('SELECT 1'));

export async function closeDb(): Promise<void> {
  const open = pool;
  pool = undefined;
  await open?.destroy();
}

/** Whose rows a transaction sees: those of an organisation; for a person also what is private to them and to nobody else. */
export type Whose = string | { organisationId: string; userId: string };

const settingsOf = (whose: Whose): [organisation: string, user: string] =>
  typeof whose === 'string' ? [whose, ''] : [whose.organisationId, whose.userId];

/**
 * Work in one transaction that sees the rows of one organisation and no other's (row-level security). It is done again where another
 * transaction was in its way.
 */
export const inTenant = <T>(whose: Whose, work: (tx: Tx) => Promise<T>): Promise<T> =>
  guarded(() =>
    retried(() =>
      db().transaction(async (tx) => {
        await tx.raw(
          `SELECT set_config('heathland.organisation', ?, true), set_config('heathland.user', ?, true)`,
          settingsOf(whose),
        );
        return work(tx);
      }),
    ),
  );

/** The same, and what is deleted and not yet erased is seen as well: for bringing it back and for telling of it. */
export const inTenantWithDeleted = <T>(whose: Whose, work: (tx: Tx) => Promise<T>): Promise<T> =>
  inTenant(whose, async (tx) => {
    await tx.raw(`SELECT set_config('heathland.deleted', 'shown', true)`);
    return work(tx);
  });

/** Reading in one snapshot all that is an organisation's, what is deleted and not yet erased with it. */
export const inSnapshot = <T>(whose: Whose, work: (tx: Tx) => Promise<T>): Promise<T> =>
  guarded(() =>
    db().transaction(
      async (tx) => {
        await tx.raw(
          `SELECT set_config('heathland.organisation', ?, true), set_config('heathland.user', ?, true), set_config('heathland.deleted', 'shown', true)`,
          settingsOf(whose),
        );
        return work(tx);
      },
      { isolationLevel: 'repeatable read', readOnly: true },
    ),
  );

/** Work on the tables outside the tenants: users, sessions, attempts, the directory. */
export const outsideTenants = <T>(work: (db: Knex) => Promise<T>): Promise<T> => guarded(() => work(db()));
