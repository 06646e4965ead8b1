import type { Newcomer } from './account';
import { rowsOf } from './database';
import type { Figure } from './figure';
import type { Ground } from './scale-rows';

/** The time that 95 of a hundred do not exceed. */
export const percentile95 = (times: number[]): number =>
  [...times].sort((a, b) => a - b)[Math.min(times.length - 1, Math.ceil(times.length * 0.95) - 1)]!;

/** Somebody's organisation with one card that is out, from which the database makes the others. */
export async function ground({ ask, email }: Newcomer, url: string, address: string): Promise<Ground> {
  const { cardId } = await ask<{ cardId: string }>('POST', '/api/records', {
    name: 'First Of The Crowd',
    title: 'Rope engineer',
    firm: 'Heath Works',
    phone: '020 7946 0000',
    email: 'first@crowd.example',
  });
  const { version } = await ask<{ version: number }>('GET', `/api/cards/${cardId}`);
  await ask('POST', `/api/cards/${cardId}/publish`, { baseVersion: version, address });
  const [user] = await rowsOf<{ id: string; organisation_id: string }>(
    url,
    'SELECT id, organisation_id FROM users WHERE email = $1',
    [email],
  );
  return { organisation: user!.organisation_id, user: user!.id, card: cardId };
}

/** Milliseconds until the whole of an answer is there, over loopback. */
export async function timed(
  address: string,
  { session }: Newcomer,
  path: string,
  init: RequestInit = {},
): Promise<number> {
  const began = performance.now();
  const answer = await fetch(`${address}${path}`, { ...init, headers: { ...session, ...init.headers } });
  const text = await answer.text();
  const ms = performance.now() - began;
  if (!answer.ok) throw new Error(`${path} was answered with ${answer.status}: ${text.slice(0, 200)}`);
  return ms;
}

/** How long each took of so many that are done one after the other. */
export async function repeated(times: number, work: (at: number) => Promise<number>): Promise<number[]> {
  const made: number[] = [];
  for (let at = 0; at < times; at += 1) made.push(await work(at));
  return made;
}

/** The figure of what was asked so often: the time that 95 of a hundred do not exceed. */
export const slowest = (name: string, times: number[], atMost: number, beside: string): Figure => ({
  name: `${name}, 95th percentile`,
  value: percentile95(times),
  unit: 'ms',
  must: { atMost },
  beside: `${times.length} times, slowest ${Math.max(...times).toFixed(0)} ms; ${beside}`,
});
