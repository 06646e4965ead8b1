import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { reachOf } from '@/core/access';
import { systemClock } from '@/server/clock';
import { countDeleted } from '@/server/services/cards/deletion';
import { countAllOutOfDate } from '@/server/services/wild/list-copies';
import { listPeople } from '@/server/services/records/list-people';
import { PEOPLE } from '@/core/words';
import { People } from '@/ui/people/people';

export const metadata: Metadata = { title: PEOPLE.title };

export default async function PeoplePage() {
  const actor = await actorOrSignIn();
  const first = await shownOrNotFound(() => listPeople(actor, {}, systemClock));
  const deleted = reachOf(actor.role, 'card.delete') === 'none' ? 0 : await countDeleted(actor);
  const wild = reachOf(actor.role, 'hand-out.read') === 'none' ? 0 : await countAllOutOfDate(actor);
  const { country, timeZone } = actor.organisation;
  return (
    <People
      first={first}
      deleted={deleted}
      wild={wild}
      seesPrivacy={reachOf(actor.role, 'privacy.read') !== 'none'}
      mayAdd={reachOf(actor.role, 'record.create') === 'all'}
      country={country}
      zone={timeZone}
      self={{ name: actor.name, email: actor.email }}
    />
  );
}
