import type { Knex } from 'knex';
import pg from 'pg';
import type { EventKind } from '@/core/response';
import { applicationRole, settings } from '@/server/env';
import type { Tx } from '../pool';

/** A recipient's act as it comes in. `visitor` is a hash of the day in hexadecimal, or null; `at` milliseconds, UTC. */
export type EventRow = {
  organisationId: string;
  cardId: string;
  handOutId: string | null;
  /** The card's revision that was given; null where that is not known. */
  revision: number | null;
  kind: EventKind;
  line: string | null;
  visitor: string | null;
  at: number;
};

let writers: pg.Pool | undefined;

/** Connections of their own, so that a long report never makes a recipient wait. */
function writersPool(): pg.Pool {
  const { DATABASE_URL, SESSION_SECRET } = settings();
  if (!writers) {
    writers = new pg.Pool({
      connectionString: applicationRole(DATABASE_URL, SESSION_SECRET).url,
      max: 2,
      connectionTimeoutMillis: 1_500,
      query_timeout: 3_000,
    });
    // An idle connection that breaks is dropped by the pool; the next write opens another.
    writers.on('error', () => undefined);
  }
  return writers;
}

export async function closeEventWriters(): Promise<void> {
  const open = writers;
  writers = undefined;
  await open?.end();
}

const INSERT = 'SELECT card_id, version FROM record_events($1, $2)';

/**
 * Writes events in one row and one commit, and answers with today's version of each card concerned. A commit of the same
 * id that is there already is left as it is, so that a write whose answer was lost may be tried again.
 */
export async function insertEvents(commitId: string, rows: EventRow[]): Promise<Map<string, number>> {
  // By their card, each as short as can be: whatever is written here, a recipient waits for.
  const byCard = new Map<string, { organisation: string; card: string; events: unknown[] }>();
  for (const { organisationId, cardId, handOutId, revision, kind, line, visitor, at } of rows) {
    let group = byCard.get(cardId);
    // A card that two organisations claim is for the database to refuse.
    const key = group && group.organisation !== organisationId ? `${organisationId} ${cardId}` : cardId;
    if (key !== cardId) group = byCard.get(key);
    if (!group) byCard.set(key, (group = { organisation: organisationId, card: cardId, events: [] }));
    group.events.push([handOutId, kind, line, visitor, at, revision]);
  }
  const { rows: versions } = await writersPool().query<{ card_id: string; version: number }>({
    name: 'insert-events',
    text: INSERT,
    values: [commitId, JSON.stringify([...byCard.values()])],
  });
  return new Map(versions.map((row) => [row.card_id, row.version]));
}

/** Group commits that one statement sorts; some thousand events. */
const SORTED_AT_ONCE = 500;

/** Sorts everything that came in so far into the events that reports read; answers how many commits were at fault and passed over. */
export async function sortInbox(db: Knex): Promise<number> {
  let passedOver = 0;
  for (let moved = SORTED_AT_ONCE; moved === SORTED_AT_ONCE;) {
    const { rows } = await db.raw<{ rows: { moved: number; passed_over: number }[] }>(
      'SELECT * FROM sort_event_inbox(?)',
      [SORTED_AT_ONCE],
    );
    moved = rows[0]?.moved ?? 0;
    passedOver += rows[0]?.passed_over ?? 0;
  }
  return passedOver;
}

/** The day's secret of an organisation: made by the first who asks, the same for all who ask later. */
export async function visitorSecret(tx: Tx, organisationId: string, day: string, fresh: Buffer): Promise<Buffer> {
  await tx('visitor_secrets')
    .insert({ organisation_id: organisationId, day, secret: fresh })
    .onConflict(['organisation_id', 'day'])
    .ignore();
  const row: { secret: Buffer } = await tx('visitor_secrets')
    .where({ organisation_id: organisationId, day })
    .first('secret');
  return row.secret;
}
