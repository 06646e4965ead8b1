import type { Metadata } from 'next';
import { orNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { LOOK } from '@/core/messages';
import { listLooks } from '@/server/services/looks';
import { openCard } from '@/server/services/open-card';
import { LookTable } from '@/ui/look/look-table';

export const metadata: Metadata = { title: LOOK.page };

export default async function LookPage({ params }: { params: Promise<{ card: string }> }) {
  const actor = await actorOrSignIn();
  const card = await orNotFound((await params).card, (id) => openCard(actor, id));
  const kept = await listLooks(actor);
  const { country, timeZone } = actor.organisation;
  return <LookTable card={card} country={country} zone={timeZone} kept={kept} key={card.id} />;
}
