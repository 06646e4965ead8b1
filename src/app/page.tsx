import { redirect } from 'next/navigation';
import { actorOrSignIn } from '@/app/request/session';
import { reachOf } from '@/core/access';

/** The first section that the member's role includes; a holder begins with their own card. */
export default async function Home() {
  const { role, ownRecord } = await actorOrSignIn();
  if (role === 'holder' && ownRecord !== null) redirect('/mine');
  redirect(reachOf(role, 'record.read') === 'none' ? '/response' : '/people');
}
