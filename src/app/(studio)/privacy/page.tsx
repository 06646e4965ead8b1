import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { askedOfMap } from '@/app/request/privacy';
import { actorOrSignIn } from '@/app/request/session';
import { reachOf } from '@/core/access';
import { PRIVACY } from '@/core/words';
import { systemClock } from '@/server/clock';
import { privacyMap } from '@/server/services/wild/privacy-map';
import { dayIn } from '@/ui/studio/instant';
import { PrivacyMapScreen } from '@/ui/privacy/map-screen';

export const metadata: Metadata = { title: PRIVACY.title };

type Params = { searchParams: Promise<Record<string, string | string[] | undefined>> };

export default async function PrivacyPage({ searchParams }: Params) {
  const actor = await actorOrSignIn();
  const asked = askedOfMap(await searchParams);
  const first = await shownOrNotFound(() => privacyMap(actor, asked));
  const { name, timeZone } = actor.organisation;
  return (
    <PrivacyMapScreen
      key={JSON.stringify([asked, first.exposed, first.waiting])}
      first={first}
      asked={asked}
      organisation={name}
      today={dayIn(timeZone, systemClock.now())}
      mayMend={reachOf(actor.role, 'card.publish') !== 'none'}
    />
  );
}
