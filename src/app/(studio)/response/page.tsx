import type { Metadata } from 'next';
import { readPeriod } from '@/app/request/period';
import { actorOrSignIn } from '@/app/request/session';
import { systemClock } from '@/server/clock';
import { readResponse } from '@/server/services/read-response';
import { ResponseReport } from '@/ui/response/response-report';

export const metadata: Metadata = { title: 'Response' };

export default async function ResponsePage({ searchParams }: { searchParams: Promise<{ days?: string }> }) {
  const actor = await actorOrSignIn();
  const days = readPeriod((await searchParams).days);
  const report = await readResponse(actor, { cardId: null, days }, systemClock);
  return (
    <>
      <header className="head">
        <div>
          <h1>Response</h1>
          <p className="sub">{actor.organisation.name}, all cards</p>
        </div>
      </header>
      <ResponseReport report={report} days={days} base="/response" published />
    </>
  );
}
