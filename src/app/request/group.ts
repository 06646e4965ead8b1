import { z } from 'zod';
import type { Group } from '@/server/services/records/list-people';

const Id = z.uuid().nullable().catch(null);

/** The people that an address narrows a list to; what it does not know is as if it were not said. */
export function groupOf(team: string | null | undefined, run: string | null | undefined): Group | null {
  const [ofTeam, ofRun] = [Id.parse(team ?? null), Id.parse(run ?? null)];
  return ofTeam ? { team: ofTeam } : ofRun ? { run: ofRun } : null;
}
