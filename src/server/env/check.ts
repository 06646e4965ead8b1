import { createHmac, timingSafeEqual } from 'node:crypto';
import { settings } from './settings';

/** By this header `./heathland check` shows that it has the installation's secret. */
export const CHECK_HEADER = 'x-heathland-check';

/** What the secret makes of a minute; 32 bytes, in hexadecimal digits. */
export const checkToken = (atMs: number, minutesAgo = 0): string =>
  createHmac('sha256', settings().SESSION_SECRET)
    .update(`check ${Math.floor(atMs / 60_000) - minutesAgo}`)
    .digest('hex');

/** Whether somebody with the secret made this, a few minutes ago at most; clocks may differ by as much. */
export function isCheckToken(token: string, atMs: number): boolean {
  const given = Buffer.from(token);
  return [-2, -1, 0, 1, 2].some((minutes) => {
    const wanted = Buffer.from(checkToken(atMs, minutes));
    return given.length === wanted.length && timingSafeEqual(given, wanted);
  });
}

/** A request as it arrives behind whatever stands in front: how many addresses X-Forwarded-For has, and what is said of TLS and host. */
export type Arrived = { forwarded: number; protocol: string; host: string };
