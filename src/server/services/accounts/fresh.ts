import { FRESH_MS } from '@/core/access';
import { Refusal } from '@/core/errors';
import type { Clock } from '@/server/clock';
import { confirmSession, memberForUpdate } from '@/server/db/accounts/accounts';
import { inTenant } from '@/server/db/pool';
import type { Actor } from './actor';
import { authorise } from './authorise';
import { limitRate } from './limit-rate';
import { isPassword } from './passwords';

/** Refuses what whoever finds an open studio must not do: the password was typed too long ago. Error: PASSWORD_STALE. */
export function refuseStale(actor: Actor, clock: Clock): void {
  if (clock.now() - actor.confirmedAt > FRESH_MS) throw new Refusal({ code: 'PASSWORD_STALE' });
}

/** Whether what needs a fresh password may be done now. Error: PASSWORD_STALE. */
export async function readFresh(actor: Actor, clock: Clock): Promise<void> {
  authorise(actor, 'session.manage');
  refuseStale(actor, clock);
}

/** Types the password once more for this session. Errors: PASSWORD_WRONG, TOO_MANY_REQUESTS. */
export async function confirmPassword(actor: Actor, password: string, clock: Clock): Promise<void> {
  authorise(actor, 'session.manage');
  await limitRate('sign-in to an account', `${actor.userId} confirms`, clock);
  const row = await inTenant(actor, (tx) => memberForUpdate(tx, actor.organisationId, actor.userId));
  if (!(await isPassword(row?.password_hash ?? null, password))) throw new Refusal({ code: 'PASSWORD_WRONG' });
  await inTenant(actor, (tx) => confirmSession(tx, actor.sessionId, new Date(clock.now())));
}
