import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { reachOf } from '@/core/access';
import { INVITE } from '@/core/words';
import { systemClock } from '@/server/clock';
import { readMine } from '@/server/services/cards/mine';
import { dueToday } from '@/server/services/replies/list-leads';
import { DueList } from '@/ui/leads/due-list';
import { MineSheet } from '@/ui/people/mine';

export const metadata: Metadata = { title: INVITE.mine.title };

/** Whoever has a record of their own begins with their card. */
export default async function MinePage() {
  const actor = await actorOrSignIn();
  const mine = await shownOrNotFound(() => readMine(actor));
  if (!mine) redirect('/people');
  const toDo = reachOf(actor.role, 'lead.keep') === 'none' ? null : await dueToday(actor, systemClock);
  return (
    <>
      {toDo && toDo.due.length > 0 && <DueList due={toDo.due} today={toDo.today} zone={actor.organisation.timeZone} />}
      <MineSheet mine={mine} />
    </>
  );
}
