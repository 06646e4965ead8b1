import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { DELETION } from '@/core/words';
import { listDeleted } from '@/server/services/cards/deletion';
import { DeletedList } from '@/ui/deletion/deleted-list';

export const metadata: Metadata = { title: DELETION.title };

export default async function DeletedPage() {
  const actor = await actorOrSignIn();
  const deleted = await shownOrNotFound(() => listDeleted(actor));
  return <DeletedList deleted={deleted} timeZone={actor.organisation.timeZone} />;
}
