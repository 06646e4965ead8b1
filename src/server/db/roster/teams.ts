import { randomUUID } from 'node:crypto';
import type { Tx } from '../pool';

export type TeamRow = { id: string; name: string; people: number; leaders: { id: string; name: string }[] };

/** All teams, or those that a member leads, with how many people each has and who leads it, by name. */
export const teams = async (tx: Tx, ledBy: string | null = null): Promise<TeamRow[]> => {
  const rows: { id: string; name: string; people: string; leaders: TeamRow['leaders'] }[] = await tx('teams as t')
    .select(
      't.id',
      't.name',
      tx.raw('(SELECT count(*) FROM team_members m WHERE m.team_id = t.id) AS people'),
      tx.raw(
        `(SELECT coalesce(json_agg(json_build_object('id', u.id, 'name', u.name) ORDER BY u.name), '[]') FROM team_leaders l
          JOIN users u ON u.id = l.user_id WHERE l.team_id = t.id AND u.left_at IS NULL AND u.role = 'team leader') AS leaders`,
      ),
    )
    .modify((query) => {
      if (ledBy !== null) void query.whereIn('t.id', tx('team_leaders').where({ user_id: ledBy }).select('team_id'));
    })
    .orderByRaw('lower(t.name)');
  return rows.map(({ people, ...row }) => ({ ...row, people: Number(people) }));
};

/** The records of everybody in the teams that a member leads. */
export const ledRecords = async (tx: Tx, userId: string): Promise<string[]> =>
  (
    await tx('team_members as m')
      .join('team_leaders as l', 'l.team_id', 'm.team_id')
      .where('l.user_id', userId)
      .distinct<{ record_id: string }[]>('m.record_id')
  ).map(({ record_id }) => record_id);

/** A member leads no team any more. */
export const endLeading = (tx: Tx, userId: string) => tx('team_leaders').where({ user_id: userId }).delete();

/** Who leads a team from now on. */
export async function setLeaders(tx: Tx, organisationId: string, teamId: string, users: string[]): Promise<void> {
  await tx('team_leaders').where({ team_id: teamId }).delete();
  if (users.length > 0)
    await tx('team_leaders').insert(
      users.map((user_id) => ({ organisation_id: organisationId, team_id: teamId, user_id })),
    );
}

export const team = async (tx: Tx, id: string): Promise<{ id: string; name: string } | undefined> =>
  tx('teams').where({ id }).first('id', 'name');

export const countTeams = async (tx: Tx): Promise<number> =>
  Number((await tx('teams').count<{ count: string }[]>('* as count'))[0]!.count);

export const insertTeam = (tx: Tx, row: { id: string; organisation_id: string; name: string }) =>
  tx('teams').insert(row);
export const renameTeam = (tx: Tx, id: string, name: string) => tx('teams').where({ id }).update({ name });
export const deleteTeam = (tx: Tx, id: string) => tx('teams').where({ id }).delete();

/** Puts a person into exactly these teams, which are made where there are none of that name. */
export async function setTeams(tx: Tx, organisationId: string, recordId: string, names: string[]): Promise<void> {
  const wanted = [...new Map(names.map((name) => [name.toLowerCase(), name.slice(0, 80)])).values()];
  if (wanted.length > 0)
    await tx.raw(
      `INSERT INTO teams (id, organisation_id, name) SELECT * FROM unnest(?::uuid[], ?::uuid[], ?::text[])
       ON CONFLICT (organisation_id, lower(name)) DO NOTHING`,
      [wanted.map(() => randomUUID()), wanted.map(() => organisationId), wanted],
    );
  await tx('team_members').where({ record_id: recordId }).delete();
  await tx.raw(
    `INSERT INTO team_members (organisation_id, team_id, record_id)
     SELECT organisation_id, id, ?::uuid FROM teams WHERE lower(name) = ANY(?::text[])`,
    [recordId, wanted.map((name) => name.toLowerCase())],
  );
}

/** Adds people to a team, or takes them out. */
export const addToTeam = (tx: Tx, organisationId: string, teamId: string, records: string[]) =>
  tx.raw(
    `INSERT INTO team_members (organisation_id, team_id, record_id) SELECT ?::uuid, ?::uuid, id FROM records WHERE id = ANY(?::uuid[])
     ON CONFLICT DO NOTHING`,
    [organisationId, teamId, records],
  );
export const takeFromTeam = (tx: Tx, teamId: string, records: string[]) =>
  tx('team_members').where({ team_id: teamId }).whereIn('record_id', records).delete();

/** The people of a team. */
export const peopleOfTeam = async (tx: Tx, teamId: string): Promise<string[]> =>
  (await tx('team_members').where({ team_id: teamId }).select<{ record_id: string }[]>('record_id')).map(
    ({ record_id }) => record_id,
  );
