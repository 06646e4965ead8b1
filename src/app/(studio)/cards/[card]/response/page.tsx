import { openedCard, titleOfCard } from '@/app/request/opened-card';
import { readPeriod } from '@/app/request/period';
import { systemClock } from '@/server/clock';
import { readResponse } from '@/server/services/response/read-response';
import { RESPONSE } from '@/core/words';
import { CardHead } from '@/ui/card/card-head';
import { ResponseReport } from '@/ui/response/response-report';

export const generateMetadata = titleOfCard(RESPONSE.title);

export default async function CardResponsePage({
  params,
  searchParams,
}: {
  params: Promise<{ card: string }>;
  searchParams: Promise<{ days?: string }>;
}) {
  const days = readPeriod((await searchParams).days);
  const { actor, card } = await openedCard(params);
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
