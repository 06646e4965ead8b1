import { z } from 'zod';
import { PRIVACIES } from '@/core/card';
import { LIMITS } from '@/core/limits';
import { MENDS, PUBLIC_CHANNELS } from '@/core/shown';

const Asked = z.object({
  kind: z.enum(PRIVACIES).nullable().catch(null),
  on: z.enum(PUBLIC_CHANNELS).nullable().catch(null),
  q: z.string().catch(''),
});

/** What an address asks of the privacy map; what it does not know is as if it were not said. */
export function askedOfMap(query: Record<string, unknown>) {
  const { kind, on, q } = Asked.parse({ kind: null, on: null, q: '', ...query });
  return { privacy: kind, channel: on, typed: q.trim().slice(0, 200) };
}

/** Whom and what a mend is of. */
export const MendInput = z.object({
  records: z.array(z.uuid()).max(LIMITS.contactsAtOnce),
  privacies: z.array(z.enum(PRIVACIES)).max(PRIVACIES.length),
  act: z.enum(MENDS),
});
