import { createHmac } from 'node:crypto';
import { RATES, windowOf, type RateKind } from '@/core/limits';
import { Refusal } from '@/core/errors';
import type { Clock } from '@/server/clock';
import { countRequest, forgetEndedWindows } from '@/server/db/accounts/rates';
import { outsideTenants, type Db } from '@/server/db/pool';
import { settings } from '@/server/env';

/** Only a keyed hash of who asks is kept, and only as long as the window. */
const keyOf = (kind: RateKind, asker: string) =>
  createHmac('sha256', settings().SESSION_SECRET).update(`${kind} ${asker}`).digest();

/**
 * Counts a request of a kind by `asker` (an address, a person or an organisation, as the table of rates says) over all
 * processes, and refuses it beyond its rate. Error: TOO_MANY_REQUESTS with the seconds to wait.
 */
export const limitRate = (kind: RateKind, asker: string, clock: Clock): Promise<void> =>
  outsideTenants((db) => limitRateIn(db, kind, asker, clock));

/** The same within a transaction: what is taken back with it was not counted. */
export async function limitRateIn(db: Db, kind: RateKind, asker: string, clock: Clock): Promise<void> {
  const { start, secondsLeft } = windowOf(kind, clock.now());
  const ends = new Date(start + RATES[kind].seconds * 1_000);
  const count = await countRequest(db, keyOf(kind, asker), ends);
  if (count > RATES[kind].count) throw new Refusal({ code: 'TOO_MANY_REQUESTS', seconds: secondsLeft });
}

/** Counts a request and answers with how many there were in its window, and whether that is beyond its rate. */
export async function countOf(
  kind: RateKind,
  asker: string,
  clock: Clock,
): Promise<{ count: number; beyond: boolean }> {
  const ends = new Date(windowOf(kind, clock.now()).start + RATES[kind].seconds * 1_000);
  const count = await outsideTenants((db) => countRequest(db, keyOf(kind, asker), ends));
  return { count, beyond: count > RATES[kind].count };
}

/** What is counted of an asker within another statement: under which key, and until when. */
export const rateKey = (kind: RateKind, asker: string, clock: Clock): { key: string; ends: Date } => ({
  key: keyOf(kind, asker).toString('hex'),
  ends: new Date(windowOf(kind, clock.now()).start + RATES[kind].seconds * 1_000),
});

export const forgetEndedRates = (clock: Clock): Promise<unknown> =>
  outsideTenants((db) => forgetEndedWindows(db, new Date(clock.now())));
