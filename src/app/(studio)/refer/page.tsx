import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { REFER } from '@/core/words';
import { listContacts } from '@/server/services/contacts/contacts';
import { ReferList } from '@/ui/refer/refer-list';

export const metadata: Metadata = { title: REFER.title };

export default async function ReferPage() {
  const actor = await actorOrSignIn();
  const contacts = await shownOrNotFound(() => listContacts(actor));
  const { country, timeZone } = actor.organisation;
  return <ReferList contacts={contacts} country={country} zone={timeZone} />;
}
