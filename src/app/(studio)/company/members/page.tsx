import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { reachOf } from '@/core/access';
import { systemClock } from '@/server/clock';
import { readSecondFactor } from '@/server/services/accounts/second-factor';
import { listMembers } from '@/server/services/accounts/members';
import { COMPANY } from '@/core/words';
import { CompanyHead } from '@/ui/company/company-head';
import { Members } from '@/ui/company/members';

export const metadata: Metadata = { title: COMPANY.turn.members };

export default async function MembersPage() {
  const actor = await actorOrSignIn();
  const members = await shownOrNotFound(() => listMembers(actor, systemClock));
  const factor = await readSecondFactor(actor);
  const manages = reachOf(actor.role, 'member.manage') === 'all';
  return (
    <>
      <CompanyHead actor={actor} turn="members" />
      <Members
        members={members}
        manages={manages}
        me={actor.userId}
        required={factor.required}
        mayInvite={reachOf(actor.role, 'member.invite') === 'all'}
        zone={actor.organisation.timeZone}
      />
    </>
  );
}
