import type { Tx } from './pool';

/**
 * Holds others who count the same until this transaction ends, so that two who come at once do not both find room for the last one.
 * Locks are taken in this order: rows first, then what is counted.
 */
export const countAlone = (tx: Tx, organisationId: string, what: string): Promise<unknown> =>
  tx.raw('SELECT pg_advisory_xact_lock(hashtextextended(?, 0))', [`${organisationId} ${what}`]);
