import type { Metadata } from 'next';
import { groupOf } from '@/app/request/group';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { reachOf } from '@/core/access';
import { systemClock } from '@/server/clock';
import { countDeleted } from '@/server/services/cards/deletion';
import { countAllOutOfDate } from '@/server/services/wild/list-copies';
import type { Actor } from '@/server/services/accounts/actor';
import { chooseOffices } from '@/server/services/house/offices';
import { listPeople, type Group } from '@/server/services/records/list-people';
import { nameOfRun } from '@/server/services/roster/open-run';
import { listTeams } from '@/server/services/roster/teams';
import { PEOPLE } from '@/core/words';
import { dueToday } from '@/server/services/replies/list-leads';
import { DueList } from '@/ui/leads/due-list';
import { People } from '@/ui/people/people';

export const metadata: Metadata = { title: PEOPLE.title };

type Params = { searchParams: Promise<Record<string, string | string[] | undefined>> };

/** What the list is narrowed to, as its address says it, and in words. */
async function namedGroup(actor: Actor, group: Group | null, known: { id: string; name: string }[]) {
  if (!group) return null;
  const [kind, id] = Object.entries(group)[0]!;
  const name = kind === 'run' ? await nameOfRun(actor, id) : known.find((each) => each.id === id)?.name;
  return { asked: `${kind}=${id}`, name: name ?? PEOPLE.gone };
}

export default async function PeoplePage({ searchParams }: Params) {
  const actor = await actorOrSignIn();
  const asked = await searchParams;
  const text = (value: string | string[] | undefined) => (typeof value === 'string' ? value : null);
  const group = groupOf((name) => text(asked[name]));
  const first = await shownOrNotFound(() => listPeople(actor, { group }, systemClock));
  const teams = reachOf(actor.role, 'team.read') === 'none' ? [] : await listTeams(actor);
  const offices = await chooseOffices(actor);
  const deleted = reachOf(actor.role, 'card.delete') === 'none' ? 0 : await countDeleted(actor);
  const wild = reachOf(actor.role, 'hand-out.read') === 'none' ? 0 : await countAllOutOfDate(actor);
  const { country, timeZone } = actor.organisation;
  const toDo = reachOf(actor.role, 'lead.keep') === 'none' ? null : await dueToday(actor, systemClock);
  return (
    <>
      {toDo && toDo.due.length > 0 && <DueList due={toDo.due} today={toDo.today} zone={timeZone} />}
      <People
        key={JSON.stringify(group)}
        first={first}
        teams={teams}
        offices={offices}
        mayTeam={reachOf(actor.role, 'team.write') !== 'none'}
        mayChange={['all', 'team'].includes(reachOf(actor.role, 'record.write'))}
        group={await namedGroup(actor, group, [...teams, ...offices])}
        deleted={deleted}
        wild={wild}
        seesPrivacy={reachOf(actor.role, 'privacy.read') !== 'none'}
        mayAdd={reachOf(actor.role, 'record.create') === 'all'}
        country={country}
        zone={timeZone}
        self={{ name: actor.name, email: actor.email }}
      />
    </>
  );
}
