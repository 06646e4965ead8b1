import type { Metadata } from 'next';
import { orNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { PRIVACY } from '@/core/words';
import { systemClock } from '@/server/clock';
import { publicAbout } from '@/server/services/wild/privacy-map';
import { dayIn } from '@/ui/studio/instant';
import { PublicAboutSheet } from '@/ui/privacy/public-about';

export const metadata: Metadata = { title: PRIVACY.aboutTitle };

export default async function PublicAboutPage({ params }: { params: Promise<{ record: string }> }) {
  const actor = await actorOrSignIn();
  const about = await orNotFound((await params).record, (id) => publicAbout(actor, id));
  const { name, timeZone } = actor.organisation;
  const today = dayIn(timeZone, systemClock.now());
  return <PublicAboutSheet about={about} mine={actor.ownRecord === about.id} organisation={name} today={today} />;
}
