import { openedCard, titleOfCard } from '@/app/request/opened-card';
import { LOOK } from '@/core/words';
import { listLooks } from '@/server/services/house/looks';
import { LookTable } from '@/ui/look/look-table';

export const generateMetadata = titleOfCard(LOOK.page);

export default async function LookPage({ params }: { params: Promise<{ card: string }> }) {
  const { actor, card } = await openedCard(params);
  const kept = await listLooks(actor);
  const { country, timeZone } = actor.organisation;
  return <LookTable card={card} country={country} zone={timeZone} kept={kept} key={card.id} />;
}
