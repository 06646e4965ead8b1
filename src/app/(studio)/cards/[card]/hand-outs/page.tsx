import { openedCard, titleOfCard } from '@/app/request/opened-card';
import { systemClock } from '@/server/clock';
import { readLastUses } from '@/server/services/response/last-uses';
import { readResponse } from '@/server/services/response/read-response';
import { applyHouseStyle } from '@/core/house';
import { HAND_OUTS } from '@/core/words';
import { mailFor } from '@/server/services/mail/post-mail';
import { CardHead } from '@/ui/card/card-head';
import { HandOuts } from '@/ui/hand-outs/hand-outs';

export const generateMetadata = titleOfCard(HAND_OUTS.page);

export default async function HandOutsPage({ params }: { params: Promise<{ card: string }> }) {
  const { actor, card } = await openedCard(params);
  const { summary } = await readResponse(actor, { cardId: card.id, days: 90 }, systemClock);
  return (
    <>
      <CardHead card={card} turn="hand-outs" />
      <HandOuts
        cardId={card.id}
        published={card.state === 'published'}
        handOuts={card.handOuts}
        figures={summary.handOuts}
        lastUses={await readLastUses(actor, card.id)}
        publicUrl={card.publicUrl}
        address={card.address}
        composition={card.revision && applyHouseStyle(card.revision.composition, card.house)}
        record={card.record}
        mail={mailFor(actor)}
      />
    </>
  );
}
