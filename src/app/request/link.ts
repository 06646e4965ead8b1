import { headers } from 'next/headers';
import { networkOf } from '@/core/access';
import { Refusal, type Problem } from '@/core/errors';
import { systemClock } from '@/server/clock';
import { limitRate } from '@/server/services/accounts/limit-rate';

/** What a link of a letter leads to, or why it leads nowhere; opening it changes nothing, since programs open links before people do. */
export async function opened<T>(
  read: () => Promise<T>,
): Promise<{ held: T; problem: null } | { held: null; problem: Problem }> {
  try {
    await limitRate('link', networkOf((await headers()).get('x-heathland-address') ?? 'unknown'), systemClock);
    return { held: await read(), problem: null };
  } catch (error) {
    if (error instanceof Refusal) return { held: null, problem: error.problem };
    throw error;
  }
}
