import { timeZoneNames } from '@/server/db/accounts/accounts';
import { outsideTenants } from '@/server/db/pool';

let known: Promise<string[]> | undefined;

/** The time zones that both this program and the database know, by the names of the IANA data, in their order. */
export function timeZones(): Promise<string[]> {
  known ??= outsideTenants(timeZoneNames).then((names) => {
    const there = new Set(names);
    return ['UTC', ...Intl.supportedValuesOf('timeZone').filter((zone) => there.has(zone))];
  });
  known.catch(() => (known = undefined));
  return known;
}
