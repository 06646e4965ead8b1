import { z } from 'zod';
import type { Group } from '@/server/services/records/list-people';

const Id = z.uuid().nullable().catch(null);

/** The people that an address narrows a list to; what it does not know is as if it were not said. `said` reads a parameter of it. */
export function groupOf(said: (name: 'team' | 'office' | 'run') => string | null | undefined): Group | null {
  const [team, office, run] = (['team', 'office', 'run'] as const).map((name) => Id.parse(said(name) ?? null));
  return team ? { team } : office ? { office } : run ? { run } : null;
}
