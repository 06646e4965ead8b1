import { openedCard, titleOfCard } from '@/app/request/opened-card';
import { reachOf } from '@/core/access';
import { CARD } from '@/core/words';
import { CardTable } from '@/ui/card/card-table';

export const generateMetadata = titleOfCard(CARD.turn.lines);

type Props = { params: Promise<{ card: string }>; searchParams: Promise<{ publish?: string }> };

export default async function CardPage({ params, searchParams }: Props) {
  const { actor, card } = await openedCard(params);
  const { country, timeZone } = actor.organisation;
  const publishing = (await searchParams).publish !== undefined && card.state === 'draft';
  return (
    <CardTable
      card={card}
      country={country}
      zone={timeZone}
      publishing={publishing}
      mayDelete={reachOf(actor.role, 'card.delete') !== 'none'}
      key={card.id}
    />
  );
}
