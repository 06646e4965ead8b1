import { writeLetter } from '@/core/letter';
import { startOfDay } from '@/core/response';
import { LEAD_LETTERS } from '@/core/words';
import type { Clock } from '@/server/clock';
import { memberForUpdate, organisation, setEveningMail, wantsEveningMail } from '@/server/db/accounts/accounts';
import { beginEvening, cameSince, dueEvenings, type EveningDue } from '@/server/db/contacts/leads';
import { inTenant, outsideTenants } from '@/server/db/pool';
import { settings } from '@/server/env';
import type { Actor } from '@/server/services/accounts/actor';
import { authorise } from '@/server/services/accounts/authorise';
import { faultAt, faultIsOver } from '@/server/services/jobs/faults';
import { mailIsOpen, postMail } from '@/server/services/mail/post-mail';

/** From this hour on, where their organisation is, people are told who came. */
const HOUR = 18;
const MOST_TOLD = 60;
const HOLDS_MS = 86_400_000;

async function tell(due: EveningDue, clock: Clock): Promise<void> {
  const { organisation_id: organisationId, user_id: userId, day } = due;
  await inTenant({ organisationId, userId }, async (tx) => {
    const owner = await organisation(tx, organisationId);
    const user = await memberForUpdate(tx, organisationId, userId);
    if (!owner || !user || !(await beginEvening(tx, due))) return;
    const came = await cameSince(tx, userId, new Date(startOfDay(day, owner.time_zone)), MOST_TOLD + 1_000);
    if (came.length === 0) return;
    const address = `${settings().BASE_URL}/leads`;
    const letter = writeLetter(
      LEAD_LETTERS.evening(user.name, came.slice(0, MOST_TOLD), {
        address,
        more: Math.max(0, came.length - MOST_TOLD),
      }),
    );
    const common = { organisationId, userId, kind: 'evening', urgent: false, holdsMs: HOLDS_MS };
    await postMail(tx, { ...common, to: { name: user.name, address: user.email }, letter }, clock);
  });
}

/** Tells everybody to whom somebody came today who that was, once; one at fault costs only themselves. */
export async function tellOfTheDay(clock: Clock): Promise<void> {
  if (!mailIsOpen()) return;
  for (const due of await outsideTenants((db) => dueEvenings(db, new Date(clock.now()), HOUR)))
    try {
      await tell(due, clock);
      await faultIsOver(due.organisation_id, 'evening', due.user_id);
    } catch (error) {
      await faultAt({ organisationId: due.organisation_id, sweep: 'evening', subject: due.user_id, error }, clock);
    }
}

/** Whether the member is told in the evening who came. Error: NOT_ALLOWED. */
export function eveningMail(actor: Actor): Promise<boolean> {
  authorise(actor, 'lead.keep');
  return inTenant(actor, (tx) => wantsEveningMail(tx, actor.userId));
}

/** Error: NOT_ALLOWED. */
export async function chooseEveningMail(actor: Actor, on: boolean): Promise<void> {
  authorise(actor, 'lead.keep');
  await inTenant(actor, (tx) => setEveningMail(tx, actor.userId, on));
}
