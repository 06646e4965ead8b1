import type { Metadata } from 'next';
import { leadsAsked } from '@/app/request/leads';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { reachOf } from '@/core/access';
import { LEADS } from '@/core/words';
import { systemClock } from '@/server/clock';
import { listOccasions } from '@/server/services/hand-outs/occasions';
import { dueToday, leadTopics, listLeads, occasionToday } from '@/server/services/replies/list-leads';
import { mailIsOpen } from '@/server/services/mail/post-mail';
import { eveningMail } from '@/server/services/replies/evening';
import { Leads } from '@/ui/leads/leads';

export const metadata: Metadata = { title: LEADS.title };

type Params = { searchParams: Promise<Record<string, string | string[] | undefined>> };

export default async function LeadsPage({ searchParams }: Params) {
  const actor = await actorOrSignIn();
  const given = await searchParams;
  const asked = leadsAsked((name) => (typeof given[name] === 'string' ? given[name] : null));
  const first = await shownOrNotFound(() => listLeads(actor, asked, systemClock));
  const { country, timeZone } = actor.organisation;
  return (
    <Leads
      key={JSON.stringify(asked)}
      first={first}
      asked={asked}
      {...await dueToday(actor, systemClock)}
      evening={mailIsOpen() ? await eveningMail(actor) : null}
      here={asked.occasion ? await occasionToday(actor, asked.occasion, systemClock) : null}
      topics={await leadTopics(actor)}
      occasions={(await listOccasions(actor, systemClock)).map(({ id, name }) => ({ id, name }))}
      seesOthers={reachOf(actor.role, 'lead.keep') !== 'own' && !actor.alone}
      country={country}
      zone={timeZone}
    />
  );
}
