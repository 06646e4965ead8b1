import { addDays, createTally, startOfDay, type DayFigures } from '@/core/response';
import type { Clock } from '@/server/clock';
import { dueResponseDays, eventsOf, keepFigures, responseDays, type ResponseDay } from '@/server/db/response/response';
import { inTenant, outsideTenants, type Tx } from '@/server/db/pool';
import { clearFault } from '@/server/db/faults';
import { faultAt } from '@/server/services/jobs/faults';

/** Counts the events of some local days, of all cards that are shown or of these. */
export async function countDays(
  tx: Tx,
  days: string[],
  timeZone: string,
  cardIds: string[] | null,
): Promise<DayFigures[]> {
  let today = '';
  const tally = createTally(() => today);
  for (const day of days) {
    today = day;
    const [from, to] = [day, addDays(day, 1)].map((each) => new Date(startOfDay(each, timeZone))) as [Date, Date];
    for await (const events of eventsOf(tx, from, to, cardIds)) tally.add(events);
  }
  return tally.rows();
}

/** The days of a period, and of those that are due, of all cards that are shown or of these, the figures as they are now. */
export async function figuresDue(
  tx: Tx,
  period: { first: string; last: string; timeZone: string },
  cardIds: string[] | null,
): Promise<{ days: ResponseDay[]; counted: DayFigures[] }> {
  const days = await responseDays(tx, period.first, period.last);
  const due = days.filter((row) => row.due).map(({ day }) => day);
  return { days, counted: await countDays(tx, due, period.timeZone, cardIds) };
}

/** So many days are counted at a turn, so that a long past leaves room for other work. */
const AT_A_TURN = 200;
const SWEEP = 'figures';

/** Counts the days that are over and writes their figures down; one at fault costs only itself. */
export async function keepDueFigures(clock: Clock): Promise<void> {
  const due = await outsideTenants((db) => dueResponseDays(db, new Date(clock.now()), AT_A_TURN));
  for (const { organisation_id: organisation, day, time_zone: timeZone } of due)
    try {
      await inTenant(organisation, async (tx) => {
        const [row] = await responseDays(tx, day, day);
        if (!row?.due) return;
        const rows = await countDays(tx, [day], timeZone, null);
        await keepFigures(tx, { organisation_id: organisation, day, touched: row.touched }, rows);
        await clearFault(tx, SWEEP, day);
      });
    } catch (error) {
      await faultAt({ organisationId: organisation, sweep: SWEEP, subject: day, error }, clock);
    }
}
