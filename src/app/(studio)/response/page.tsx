import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { readPeriod } from '@/app/request/period';
import { actorOrSignIn } from '@/app/request/session';
import { systemClock } from '@/server/clock';
import { readResponse, teamsOfResponse } from '@/server/services/response/read-response';
import { reachOf } from '@/core/access';
import { RESPONSE } from '@/core/words';
import { ResponseReport } from '@/ui/response/response-report';

export const metadata: Metadata = { title: RESPONSE.title };

export default async function ResponsePage({
  searchParams,
}: {
  searchParams: Promise<{ days?: string; team?: string }>;
}) {
  const actor = await actorOrSignIn();
  const asked = await searchParams;
  const days = readPeriod(asked.days);
  const teams = await shownOrNotFound(() => teamsOfResponse(actor));
  const team = teams.find(({ id }) => id === asked.team) ?? null;
  if (asked.team && !team) notFound();
  const input = { cardId: null, days, team: team?.id ?? null };
  const report = await shownOrNotFound(() => readResponse(actor, input, systemClock));
  const { name } = actor.organisation;
  return (
    <>
      <header className="head">
        <div>
          <h1>{RESPONSE.title}</h1>
          <p className="sub">
            {team
              ? RESPONSE.ofTeam(name, team.name)
              : reachOf(actor.role, 'response.read') === 'all'
                ? RESPONSE.allCards(name)
                : RESPONSE.yourCards(name)}
          </p>
        </div>
      </header>
      <ResponseReport report={report} days={days} base="/response" published teams={teams} team={team?.id ?? null} />
    </>
  );
}
