import type { Metadata } from 'next';
import { orNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { openCard } from '@/server/services/open-card';
import { CARD } from '@/core/messages';
import { CardTable } from '@/ui/card/card-table';

export const metadata: Metadata = { title: CARD.page };

export default async function CardPage({ params }: { params: Promise<{ card: string }> }) {
  const actor = await actorOrSignIn();
  const card = await orNotFound((await params).card, (id) => openCard(actor, id));
  const { country, timeZone } = actor.organisation;
  return <CardTable card={card} country={country} zone={timeZone} key={card.id} />;
}
