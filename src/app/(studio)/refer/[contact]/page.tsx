import type { Metadata } from 'next';
import { cache } from 'react';
import { orNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { systemClock } from '@/server/clock';
import { openContact } from '@/server/services/contacts/contacts';
import { mailFor } from '@/server/services/mail/post-mail';
import { ReferScreen } from '@/ui/refer/refer-screen';

type Params = { params: Promise<{ contact: string }> };

const opened = cache(async (rawId: string) => {
  const actor = await actorOrSignIn();
  return { actor, contact: await orNotFound(rawId, (id) => openContact(actor, id, systemClock)) };
});

export async function generateMetadata({ params }: Params): Promise<Metadata> {
  return { title: (await opened((await params).contact)).contact.name };
}

export default async function ReferOnePage({ params }: Params) {
  const { actor, contact } = await opened((await params).contact);
  const { country, timeZone } = actor.organisation;
  return <ReferScreen opened={contact} country={country} zone={timeZone} mail={mailFor(actor)} key={contact.id} />;
}
