import { systemClock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { publishCard } from '@/server/services/publishing/publish-card';
import { createRecord } from '@/server/services/records/create-record';
import { changeTeam, saveTeam } from '@/server/services/roster/teams';

/** Teams of Tarnhope Cableways, by family names. */
const TEAMS: Record<string, string[]> = {
  Engineers: ['Pellew', 'Brockbank', 'Inchcape'],
  Ropes: ['Varrow', 'Aldercott', 'Holloway'],
};
/** The team that has a desk, whose card stands for whoever answers there. */
const WITH_DESK = 'Engineers';

/** Makes the teams with a desk in one of them; answers with the ids of the teams. */
export async function addTeams(actor: Actor, recordOf: Map<string, string>): Promise<Map<string, string>> {
  const typed = { kind: 'org' as const, name: 'Parts desk', phone: '+44 1632 960199', email: 'parts@tarnhope.example' };
  const forWork = { phone: true, email: true };
  const firm = actor.organisation.name;
  const desk = await createRecord(actor, { ...typed, title: 'Spares for every line', firm, forWork }, systemClock);
  await publishCard(actor, desk.cardId, { baseVersion: 1, address: 'parts-desk' }, systemClock);
  const ids = new Map<string, string>();
  for (const [name, families] of Object.entries(TEAMS)) {
    const { id } = await saveTeam(actor, null, name, systemClock);
    const people = families.flatMap((family) => recordOf.get(family) ?? []);
    const records = name === WITH_DESK ? [...people, desk.recordId] : people;
    await changeTeam(actor, id, { records, into: true }, systemClock);
    ids.set(name, id);
  }
  return ids;
}
