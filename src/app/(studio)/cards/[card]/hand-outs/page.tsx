import type { Metadata } from 'next';
import { orNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { systemClock } from '@/server/clock';
import { openCard } from '@/server/services/open-card';
import { readResponse } from '@/server/services/read-response';
import { HAND_OUTS } from '@/core/messages';
import { CardHead } from '@/ui/card/card-head';
import { HandOuts } from '@/ui/hand-outs/hand-outs';

export const metadata: Metadata = { title: HAND_OUTS.page };

export default async function HandOutsPage({ params }: { params: Promise<{ card: string }> }) {
  const actor = await actorOrSignIn();
  const card = await orNotFound((await params).card, (id) => openCard(actor, id));
  const { summary } = await readResponse(actor, { cardId: card.id, days: 90 }, systemClock);
  return (
    <>
      <CardHead card={card} turn="hand-outs" />
      <HandOuts
        cardId={card.id}
        published={card.state === 'published'}
        handOuts={card.handOuts}
        figures={summary.handOuts}
        publicUrl={card.publicUrl}
        address={card.address}
      />
    </>
  );
}
