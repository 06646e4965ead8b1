import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { reachOf } from '@/core/access';
import { COMPANY } from '@/core/words';
import { listTeams, possibleLeaders } from '@/server/services/roster/teams';
import { CompanyHead } from '@/ui/company/company-head';
import { Teams } from '@/ui/company/teams';

export const metadata: Metadata = { title: COMPANY.turn.teams };

export default async function TeamsPage() {
  const actor = await actorOrSignIn();
  const teams = await shownOrNotFound(() => listTeams(actor));
  const possible = reachOf(actor.role, 'member.manage') === 'all' ? await possibleLeaders(actor) : null;
  return (
    <>
      <CompanyHead actor={actor} turn="teams" />
      <Teams teams={teams} mayChange={reachOf(actor.role, 'team.write') !== 'none'} possible={possible} />
    </>
  );
}
