import type { Metadata } from 'next';
import { cache } from 'react';
import { orNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { systemClock } from '@/server/clock';
import { listOccasions } from '@/server/services/hand-outs/occasions';
import { mailFor } from '@/server/services/mail/post-mail';
import { heirs, openLead } from '@/server/services/replies/open-lead';
import { ownCards } from '@/server/services/replies/send-card';
import { LeadScreen } from '@/ui/leads/lead-screen';

type Params = { params: Promise<{ lead: string }> };

const opened = cache(async (rawId: string) => {
  const actor = await actorOrSignIn();
  return { actor, lead: await orNotFound(rawId, (id) => openLead(actor, id)) };
});

export async function generateMetadata({ params }: Params): Promise<Metadata> {
  return { title: (await opened((await params).lead)).lead.name };
}

export default async function LeadPage({ params }: Params) {
  const { actor, lead } = await opened((await params).lead);
  return (
    <LeadScreen
      key={`${lead.id} ${lead.version}`}
      lead={lead}
      isOwn={lead.owner.id === actor.userId}
      occasions={(await listOccasions(actor, systemClock)).map(({ id, name }) => ({ id, name }))}
      colleagues={await heirs(actor)}
      cards={mailFor(actor) === 'yes' ? await ownCards(actor) : []}
      zone={actor.organisation.timeZone}
    />
  );
}
