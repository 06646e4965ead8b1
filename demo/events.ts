import { createHash } from 'node:crypto';
import { addDays, dayOf, startOfDay } from '@/core/response';
import { recordEvent } from '@/server/intake/record-event';
import { chanceFrom, poisson } from './chance';

/** A published card and where recipients come from: hand-outs by placement, and the short address alone. */
export type Audience = {
  organisationId: string;
  cardId: string;
  lines: string[];
  /** Visits a day on weekdays and on days of the fair, and how often a visitor saves. */
  doors: { handOutId: string | null; usual: number; atFair: number; saves: number }[];
};

const DAYS = 90;
/** The trade fair ran from a Wednesday to a Friday, about three weeks ago. */
function fairDays(today: string): Set<string> {
  const about = addDays(today, -22);
  const weekday = new Date(`${about}T12:00:00Z`).getUTCDay();
  const wednesday = addDays(about, 3 - weekday);
  return new Set([wednesday, addDays(wednesday, 1), addDays(wednesday, 2)]);
}
/** When recipients look: by hour of the day, most in the morning and afternoon. */
const HOURS = [0, 0, 0, 0, 0, 0, 1, 3, 7, 10, 11, 9, 6, 8, 10, 9, 7, 5, 4, 3, 2, 2, 1, 0];
const TIME_ZONE = 'Europe/London';

/** Records 90 days of what recipients did, the same acts every time, ending now. Answers with how many. */
export async function recordDemoEvents(audiences: Audience[], now: number): Promise<number> {
  const chance = chanceFrom(20_261);
  const today = dayOf(now, TIME_ZONE);
  const fair = fairDays(today);
  const pending: Promise<unknown>[] = [];
  const hours = HOURS.flatMap((weight, hour) => Array<number>(weight).fill(hour));
  for (let ago = DAYS - 1; ago >= 0; ago -= 1) {
    const day = addDays(today, -ago);
    const weekday = new Date(`${day}T12:00:00Z`).getUTCDay();
    const midnight = startOfDay(day, TIME_ZONE);
    audiences.forEach((audience, which) =>
      audience.doors.forEach((door, at) => {
        const mean = fair.has(day) ? door.atFair : door.usual * (weekday === 0 || weekday === 6 ? 0.3 : 1);
        const visits = poisson(mean, chance);
        for (let visit = 0; visit < visits; visit += 1) {
          const hour = hours[Math.floor(chance() * hours.length)]!;
          const start = midnight + hour * 3_600_000 + Math.floor(chance() * 3_600_000);
          const hidden = chance() < 0.04;
          const visitor = hidden
            ? null
            : createHash('sha256').update(`${day} ${which} ${at} ${visit}`).digest('hex').slice(0, 32);
          const add = (kind: 'view' | 'save' | 'tap' | 'bot', after: number, line: string | null = null) => {
            if (start + after > now) return;
            const own = {
              ...{ organisationId: audience.organisationId, cardId: audience.cardId },
              ...{ handOutId: door.handOutId, revision: 1 },
            };
            pending.push(
              recordEvent({
                ...own,
                kind,
                line,
                visitor: kind === 'bot' ? null : visitor,
                at: start + after,
              }),
            );
          };
          if (chance() < 0.09) {
            add('bot', 0);
            continue;
          }
          add('view', 0);
          if (chance() < 0.15) add('view', 40_000 + chance() * 600_000);
          if (chance() < 0.06) add('view', 2.5 * 3_600_000);
          if (chance() < door.saves) add('save', 8_000 + chance() * 30_000);
          if (chance() < 0.22)
            add('tap', 5_000 + chance() * 40_000, audience.lines[Math.floor(chance() * audience.lines.length)] ?? null);
        }
      }),
    );
    await Promise.all(pending);
  }
  return pending.length;
}
