import type { Metadata } from 'next';
import { orNotFound } from '@/app/request/page-or-not-found';
import { readPeriod } from '@/app/request/period';
import { actorOrSignIn } from '@/app/request/session';
import { systemClock } from '@/server/clock';
import { openCard } from '@/server/services/open-card';
import { readResponse } from '@/server/services/read-response';
import { RESPONSE } from '@/core/messages';
import { CardHead } from '@/ui/card/card-head';
import { ResponseReport } from '@/ui/response/response-report';

export const metadata: Metadata = { title: RESPONSE.title };

export default async function CardResponsePage({
  params,
  searchParams,
}: {
  params: Promise<{ card: string }>;
  searchParams: Promise<{ days?: string }>;
}) {
  const actor = await actorOrSignIn();
  const days = readPeriod((await searchParams).days);
  const card = await orNotFound((await params).card, (id) => openCard(actor, id));
  const report = await readResponse(actor, { cardId: card.id, days }, systemClock);
  return (
    <>
      <CardHead card={card} turn="response" />
      <ResponseReport
        report={report}
        days={days}
        base={`/cards/${card.id}/response`}
        published={card.state === 'published'}
      />
    </>
  );
}
