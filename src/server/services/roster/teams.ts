import { randomUUID } from 'node:crypto';
import { Refusal } from '@/core/errors';
import { LIMITS } from '@/core/limits';
import { cleanLine } from '@/core/record';
import { membersOfRoles } from '@/server/db/accounts/accounts';
import { violatedUnique } from '@/server/db/jobs/failures';
import { inTenant } from '@/server/db/pool';
import {
  addToTeam,
  countTeams,
  deleteTeam,
  insertTeam,
  renameTeam,
  setLeaders,
  takeFromTeam,
  team,
  teams,
  type TeamRow,
} from '@/server/db/roster/teams';
import type { Clock } from '@/server/clock';
import type { Actor } from '@/server/services/accounts/actor';
import { recordAudit } from '@/server/services/accounts/audit';
import { authorise } from '@/server/services/accounts/authorise';
import { refuseStale } from '@/server/services/accounts/fresh';

const nameOf = (typed: string): string => {
  const name = cleanLine(typed).text.slice(0, 80);
  if (!name) throw new Refusal({ code: 'INPUT', field: 'name' });
  return name;
};

/** All teams, or those that the member leads, with how many people each has and who leads it. Error: NOT_ALLOWED. */
export async function listTeams(actor: Actor): Promise<TeamRow[]> {
  const reach = authorise(actor, 'team.read');
  return inTenant(actor, (tx) => teams(tx, reach === 'all' ? null : actor.userId));
}

/** Has these members lead a team, and nobody else. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function chooseLeaders(actor: Actor, id: string, users: string[], clock: Clock): Promise<void> {
  authorise(actor, 'member.manage');
  refuseStale(actor, clock);
  const chosen = [...new Set(users)];
  await inTenant(actor, async (tx) => {
    const leaders = new Set((await membersOfRoles(tx, ['team leader'])).map((row) => row.id));
    if (!(await team(tx, id)) || chosen.some((each) => !leaders.has(each))) throw new Refusal({ code: 'NOT_FOUND' });
    await setLeaders(tx, actor.organisationId, id, chosen);
    await recordAudit(tx, actor, 'team.changed', { kind: 'team', id }, clock, { leaders: chosen.length });
  });
}

/** Members who could lead a team. Error: NOT_ALLOWED. */
export async function possibleLeaders(actor: Actor): Promise<{ id: string; name: string }[]> {
  authorise(actor, 'member.manage');
  return inTenant(actor, (tx) => membersOfRoles(tx, ['team leader']));
}

/** Makes a team, or gives one another name. Errors: NOT_ALLOWED, NOT_FOUND, TEAMS_FULL, TEAM_THERE. */
export async function saveTeam(actor: Actor, id: string | null, typed: string, clock: Clock): Promise<{ id: string }> {
  authorise(actor, 'team.write');
  const name = nameOf(typed);
  try {
    return await inTenant(actor, async (tx) => {
      const made = id ?? randomUUID();
      if (id === null) {
        if ((await countTeams(tx)) >= LIMITS.teams) throw new Refusal({ code: 'TEAMS_FULL', limit: LIMITS.teams });
        await insertTeam(tx, { id: made, organisation_id: actor.organisationId, name });
      } else if ((await renameTeam(tx, id, name)) === 0) throw new Refusal({ code: 'NOT_FOUND' });
      await recordAudit(tx, actor, 'team.changed', { kind: 'team', id: made }, clock);
      return { id: made };
    });
  } catch (error) {
    throw violatedUnique(error)?.startsWith('teams_name') ? new Refusal({ code: 'TEAM_THERE' }) : error;
  }
}

/** Removes a team; its people stay. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function removeTeam(actor: Actor, id: string, clock: Clock): Promise<void> {
  authorise(actor, 'team.write');
  await inTenant(actor, async (tx) => {
    if ((await deleteTeam(tx, id)) === 0) throw new Refusal({ code: 'NOT_FOUND' });
    await recordAudit(tx, actor, 'team.changed', { kind: 'team', id }, clock);
  });
}

/** Puts people into a team, or takes them out of it. Errors: NOT_ALLOWED, NOT_FOUND. */
export async function changeTeam(
  actor: Actor,
  id: string,
  { records, into }: { records: string[]; into: boolean },
  clock: Clock,
): Promise<void> {
  authorise(actor, 'team.write');
  await inTenant(actor, async (tx) => {
    if (!(await team(tx, id))) throw new Refusal({ code: 'NOT_FOUND' });
    if (into) await addToTeam(tx, actor.organisationId, id, records);
    else await takeFromTeam(tx, id, records);
    await recordAudit(tx, actor, 'team.changed', { kind: 'team', id }, clock, { people: records.length });
  });
}
