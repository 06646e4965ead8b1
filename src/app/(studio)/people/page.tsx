import type { Metadata } from 'next';
import { actorOrSignIn } from '@/app/request/session';
import { systemClock } from '@/server/clock';
import { listPeople } from '@/server/services/list-people';
import { People } from '@/ui/people/people';

export const metadata: Metadata = { title: 'People' };

export default async function PeoplePage() {
  const actor = await actorOrSignIn();
  return <People people={await listPeople(actor, systemClock)} />;
}
