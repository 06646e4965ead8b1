import { setTimeout } from 'node:timers/promises';
import { Refusal } from '@/core/errors';
import { log } from '@/server/log';

/** SQLSTATE classes and codes that say that the server is away or about to be: connection, shutdown, starting up, out of connections. */
const OF_SERVER = /^(08...|57P0[1-5]|53300|25006)$/;
const OF_SOCKETS = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOTFOUND', 'EHOSTUNREACH']);
const MESSAGES =
  /connection terminated|timeout (acquiring|exceeded|expired)|connection ended|client has encountered a connection error|not queryable/i;

const codeOf = (error: unknown): string =>
  typeof error === 'object' && error !== null && 'code' in error ? String(error.code) : '';

/** Whether a failure means that the database does not answer, told by SQLSTATE or the socket's own code. */
export function isUnavailable(error: unknown): boolean {
  const code = codeOf(error);
  if (OF_SERVER.test(code) || OF_SOCKETS.has(code)) return true;
  if (error instanceof AggregateError) return error.errors.some(isUnavailable);
  return !code && error instanceof Error && MESSAGES.test(error.message);
}

/** The server does not let this process's role in (SQLSTATE 28000, 28P01): its secret was forgotten, or its role changed by hand. */
const OF_LOGIN = new Set(['28000', '28P01']);
export const hasLostLogin = (error: unknown): boolean => OF_LOGIN.has(codeOf(error));

/** The constraint that an insertion ran into (SQLSTATE 23505), or null. */
export function violatedUnique(error: unknown): string | null {
  if (codeOf(error) !== '23505') return null;
  return (error as { constraint?: string }).constraint ?? '';
}

/** The check that a row did not pass (SQLSTATE 23514), or null. */
export function violatedCheck(error: unknown): string | null {
  if (codeOf(error) !== '23514') return null;
  return (error as { constraint?: string }).constraint ?? '';
}

/** Two transactions waited for each other, or saw each other's rows: one was taken back whole (SQLSTATE 40P01, 40001) and may be tried again. */
const CONFLICT = new Set(['40P01', '40001']);
const MOST_TRIES = 4;

/**
 * Runs a transaction, and again where it was taken back for another's sake, each time after a longer while. Whoever still loses is told to
 * try later. What the work does outside of the database must be the same when it is done twice.
 */
export async function retried<T>(transaction: () => Promise<T>): Promise<T> {
  for (let tries = 1; ; tries += 1)
    try {
      return await transaction();
    } catch (error) {
      if (!CONFLICT.has(codeOf(error))) throw error;
      if (tries >= MOST_TRIES) throw new Refusal({ code: 'TOO_BUSY', seconds: 1 });
      await setTimeout(tries * (10 + Math.random() * 40));
    }
}

const LOST_LOGIN =
  'the database no longer lets this process in: see ./heathland secrets, and start it with a secret that is known';

/** Runs a piece of database work; a database that is absent, or lets this process in no longer, becomes the problem DATABASE_UNAVAILABLE. */
export async function guarded<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (hasLostLogin(error)) log.faultOfMany(error, {}, LOST_LOGIN);
    if (isUnavailable(error) || hasLostLogin(error)) throw new Refusal({ code: 'DATABASE_UNAVAILABLE' });
    // disk_full: PostgreSQL takes the transaction back, so nothing is half done.
    throw codeOf(error) === '53100' ? new Refusal({ code: 'STORE_FULL' }) : error;
  }
}
