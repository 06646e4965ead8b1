import { openedCard, titleOfCard } from '@/app/request/opened-card';
import { CARD } from '@/core/messages';
import { CardTable } from '@/ui/card/card-table';

export const generateMetadata = titleOfCard(CARD.turn.lines);

export default async function CardPage({ params }: { params: Promise<{ card: string }> }) {
  const { actor, card } = await openedCard(params);
  const { country, timeZone } = actor.organisation;
  return <CardTable card={card} country={country} zone={timeZone} key={card.id} />;
}
