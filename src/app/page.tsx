import { redirect } from 'next/navigation';
import { actorOrSignIn } from '@/app/request/session';
import { reachOf } from '@/core/access';

/** The first section that the member's role includes. */
export default async function Home() {
  const { role } = await actorOrSignIn();
  redirect(reachOf(role, 'record.read') === 'none' ? '/response' : '/people');
}
