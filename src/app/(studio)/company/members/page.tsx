import type { Metadata } from 'next';
import { z } from 'zod';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { reachOf } from '@/core/access';
import { systemClock } from '@/server/clock';
import { readSecondFactor } from '@/server/services/accounts/second-factor';
import { listMembers } from '@/server/services/accounts/members';
import { COMPANY } from '@/core/words';
import { CompanyHead } from '@/ui/company/company-head';
import { Members } from '@/ui/members/members';

export const metadata: Metadata = { title: COMPANY.turn.members };

type Params = { searchParams: Promise<Record<string, string | string[] | undefined>> };

export default async function MembersPage({ searchParams }: Params) {
  const actor = await actorOrSignIn();
  const { q, after } = await searchParams;
  const words = typeof q === 'string' ? q : '';
  const asked = { words, after: typeof after === 'string' && z.uuid().safeParse(after).success ? after : null };
  const page = await shownOrNotFound(() => listMembers(actor, asked, systemClock));
  const factor = await readSecondFactor(actor);
  const manages = reachOf(actor.role, 'member.manage') === 'all';
  return (
    <>
      <CompanyHead actor={actor} turn="members" />
      <Members
        page={page}
        asked={asked}
        manages={manages}
        me={actor.userId}
        required={factor.required}
        mayInvite={reachOf(actor.role, 'member.invite') === 'all'}
        zone={actor.organisation.timeZone}
      />
    </>
  );
}
