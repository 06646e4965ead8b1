import type { Metadata } from 'next';
import { shownOrNotFound } from '@/app/request/page-or-not-found';
import { actorOrSignIn } from '@/app/request/session';
import { ROSTER } from '@/core/words';
import { systemClock } from '@/server/clock';
import { listMappings } from '@/server/services/roster/begin-run';
import { listRuns, usualPattern } from '@/server/services/roster/open-run';
import { Runs } from '@/ui/roster/runs';
import { dayIn } from '@/ui/studio/instant';

export const metadata: Metadata = { title: ROSTER.title };

export default async function RosterPage() {
  const actor = await actorOrSignIn();
  const [runs, mappings, pattern] = await shownOrNotFound(() =>
    Promise.all([listRuns(actor), listMappings(actor), usualPattern(actor)]),
  );
  const { timeZone } = actor.organisation;
  return (
    <Runs
      runs={runs}
      mappings={mappings.map(({ id, name }) => ({ id, name }))}
      pattern={pattern}
      today={dayIn(timeZone, systemClock.now())}
      zone={timeZone}
    />
  );
}
