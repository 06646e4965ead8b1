import type { Metadata } from 'next';
import { redirect } from 'next/navigation';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { INVITE } from '@/core/words';
import { readMine } from '@/server/services/cards/mine';
import { MineSheet } from '@/ui/people/mine';

export const metadata: Metadata = { title: INVITE.mine.title };

/** Whoever has a record of their own begins with their card. */
export default async function MinePage() {
  const actor = await actorOrSignIn();
  const mine = await shownOrNotFound(() => readMine(actor));
  if (!mine) redirect('/people');
  return <MineSheet mine={mine} />;
}
