import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { readPeriod } from '@/app/request/period';
import { actorOrSignIn } from '@/app/request/session';
import { systemClock } from '@/server/clock';
import { readResponse } from '@/server/services/response/read-response';
import { RESPONSE } from '@/core/words';
import { ResponseReport } from '@/ui/response/response-report';

export const metadata: Metadata = { title: RESPONSE.title };

export default async function ResponsePage({ searchParams }: { searchParams: Promise<{ days?: string }> }) {
  const actor = await actorOrSignIn();
  const days = readPeriod((await searchParams).days);
  const report = await shownOrNotFound(() => readResponse(actor, { cardId: null, days }, systemClock));
  return (
    <>
      <header className="head">
        <div>
          <h1>{RESPONSE.title}</h1>
          <p className="sub">{RESPONSE.allCards(actor.organisation.name)}</p>
        </div>
      </header>
      <ResponseReport report={report} days={days} base="/response" published />
    </>
  );
}
