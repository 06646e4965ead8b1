import { randomUUID } from 'node:crypto';
import { insertEvents, sortInbox, type EventRow } from '@/server/db/response/events';
import { outsideTenants } from '@/server/db/pool';
import { log } from '@/server/log';
import { metrics } from '@/server/metrics';

/** Whether an event is safely written down, and today's version of its card if so. */
export type Recorded = { recorded: true; version: number | undefined } | { recorded: false };

type Waiting = { row: EventRow; tell: (outcome: Recorded) => void };

/** One statement takes this many; more would only make the first ones wait. */
const LARGEST_BATCH = 400;
/**
 * A commit begins as soon as a group of this size waits, so that the database writes one group while the next one's
 * requests are read; measured with 50 connections, waiting for all of them leaves a quarter of the time unused.
 */
const GROUP = 25;
/** Smaller groups begin at least this far apart: under load fewer and fuller ones, alone none waits. In milliseconds. */
const PACE_MS = 4;
/** Beyond this many waiting the database is not keeping up, and a card shown late is worse than a view not counted. */
const LONGEST_QUEUE = 5_000;

/**
 * Group commit: events of concurrent requests share one statement and one commit. The promise of an event is kept only
 * when its commit has been acknowledged. A failed batch is tried once more under the same id, so that nothing is doubled.
 * One commit at a time: measured, a second in flight only makes both smaller.
 */
export function createEventRecorder(
  write: (commitId: string, rows: EventRow[]) => Promise<Map<string, number>>,
): (row: EventRow) => Promise<Recorded> {
  let waiting: Waiting[] = [];
  let committing = false;
  let resting = false;
  let scheduled = false;
  let began = -PACE_MS;

  async function commit(batch: Waiting[]) {
    const rows = batch.map(({ row }) => row);
    const id = randomUUID();
    const versions = await write(id, rows)
      .catch(() => write(id, rows))
      .catch((error: unknown) => {
        metrics().lostEvents.inc(rows.length);
        log.faultOfMany(error, { events: rows.length }, 'events of recipients could not be written down');
        return null;
      });
    committing = false;
    // The next group is on its way to the database before this one's answers are written.
    pump();
    for (const { row, tell } of batch)
      tell(versions ? { recorded: true, version: versions.get(row.cardId) } : { recorded: false });
  }

  function pump() {
    if (waiting.length === 0 || committing) return;
    const rest = began + PACE_MS - performance.now();
    if (rest > 0.5 && waiting.length < GROUP) {
      if (resting) return;
      resting = true;
      setTimeout(() => {
        resting = false;
        pump();
      }, rest);
      return;
    }
    const batch = waiting.slice(0, LARGEST_BATCH);
    waiting = waiting.slice(LARGEST_BATCH);
    committing = true;
    began = performance.now();
    void commit(batch);
  }

  return (row) =>
    new Promise((tell) => {
      if (waiting.length >= LONGEST_QUEUE) {
        metrics().lostEvents.inc();
        return tell({ recorded: false });
      }
      waiting.push({ row, tell });
      if (waiting.length >= GROUP) return pump();
      if (scheduled) return;
      // Requests that arrived in the same turn of the event loop go together.
      scheduled = true;
      setImmediate(() => {
        scheduled = false;
        pump();
      });
    });
}

/** Above this rate a moment is busy, and below the second limit the inbox may wait for a quiet one. */
const BUSY_PER_SECOND = 300;
const LONGEST_WAIT_MS = 60_000;

let countedAt = 0;
let counted = 0;
let sortedAt = 0;
let recordedSoFar = 0;

export const recordEvent = createEventRecorder((commitId, rows) => {
  recordedSoFar += rows.length;
  return insertEvents(commitId, rows);
});

/**
 * Sorts what came in into the events that reports read, in a quiet moment and at the latest after a minute: at a fair the
 * recipients come first. Reports sort by themselves before they read. `now` in milliseconds.
 */
export async function sortEventsWhenQuiet(now: number): Promise<void> {
  const perSecond = ((recordedSoFar - counted) * 1_000) / Math.max(1, now - countedAt);
  countedAt = now;
  counted = recordedSoFar;
  if (perSecond > BUSY_PER_SECOND && now - sortedAt < LONGEST_WAIT_MS) return;
  sortedAt = now;
  const passedOver = await outsideTenants(sortInbox);
  if (passedOver > 0) log.error({ sweep: 'event inbox', count: passedOver }, 'rows are at fault and were passed over');
}
