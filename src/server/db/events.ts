import pg from 'pg';
import type { EventKind } from '@/core/response';
import { applicationRole, settings } from '@/server/env';
import type { Tx } from './pool';

/** A recipient's act as it is written down. `visitor` is a hash of the day or null; `at` milliseconds, UTC. */
export type EventRow = {
  id: string;
  organisationId: string;
  cardId: string;
  handOutId: string | null;
  kind: EventKind;
  line: string | null;
  visitor: Buffer | null;
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

const INSERT = `
  WITH added AS (
    INSERT INTO events (id, organisation_id, card_id, hand_out_id, kind, line, visitor, occurred_at)
    SELECT * FROM unnest($1::uuid[], $2::uuid[], $3::uuid[], $4::uuid[], $5::text[], $6::text[], $7::bytea[], $8::timestamptz[])
    ON CONFLICT DO NOTHING
  )
  SELECT card_id, version FROM directory_cards WHERE card_id = ANY($9::uuid[])`;

/**
 * Writes events in one statement and one commit, and answers with today's version of each card concerned. An event whose
 * id is there already is left as it is, so that a write may be tried again.
 */
export async function insertEvents(rows: EventRow[]): Promise<Map<string, number>> {
  const { rows: versions } = await writersPool().query<{ card_id: string; version: number }>({
    name: 'insert-events',
    text: INSERT,
    values: [
      rows.map((row) => row.id),
      rows.map((row) => row.organisationId),
      rows.map((row) => row.cardId),
      rows.map((row) => row.handOutId),
      rows.map((row) => row.kind),
      rows.map((row) => row.line),
      rows.map((row) => row.visitor),
      rows.map((row) => new Date(row.at).toISOString()),
      [...new Set(rows.map((row) => row.cardId))],
    ],
  });
  return new Map(versions.map((row) => [row.card_id, row.version]));
}

type ReadEvent = {
  kind: EventKind;
  card_id: string;
  hand_out_id: string | null;
  visitor: Buffer | null;
  occurred_at: Date;
};

/** The events of a period, of one card or of the whole organisation. */
export const eventsBetween = async (tx: Tx, from: Date, to: Date, cardId: string | null): Promise<ReadEvent[]> =>
  tx('events')
    .where('occurred_at', '>=', from)
    .where('occurred_at', '<', to)
    .modify((query) => cardId && query.where({ card_id: cardId }))
    .select('kind', 'card_id', 'hand_out_id', 'visitor', 'occurred_at');

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
