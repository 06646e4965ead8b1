import { readdirSync, readFileSync } from 'node:fs';
import { ACTIONS, reachOf, ROLES, type Role } from '@/core/access';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { find } from '@/server/services/cards/find';
import { addMember, changeMember, removeMember } from '@/server/services/accounts/members';
import { readAudit } from '@/server/services/accounts/read-audit';
import { actorOfUser } from '@/server/services/accounts/sessions';
import { cancelJob } from '@/server/services/jobs/jobs';
import { openRecord } from '@/server/services/records/edit-record';
import { listPeople } from '@/server/services/records/list-people';
import { readResponse, teamsOfResponse } from '@/server/services/response/read-response';
import { changeTeam, chooseLeaders, listTeams, saveTeam } from '@/server/services/roster/teams';
import { ATTEMPTS, type Attempt } from '../attempts';
import { belongings, clock, FIRST, next, type Belongings } from '../belongings';
import { newActor, useDatabase } from '../place';

useDatabase();

/** These are steps within the others, or answer by what a role reaches without refusing; their own test is below. */
const NOT_REFUSING = [
  'find',
  'authorise',
  'authoriseFor',
  'askForJob',
  'recordAudit',
  'storeWithFirstCard',
  'publishRow',
  'outgoing',
  'outgoingOf',
  'orderOf',
  'proveOrder',
  'sealOf',
  'publishTogether',
  'writeRevisions',
  'recordAudits',
  'refuseOthersFiles',
  'notTheirs',
  'proveToPublish',
  'mayShow',
  'pieceAt',
  'refuseInviting',
  'refuseChange',
  'planSome',
  'publishAsItIs',
  'chooseOffices',
  'movedTo',
  'refuseStale',
  'proofOrder',
  'emptyPlan',
  'planEnd',
  'ownHandOut',
  'ownCode',
  'ownOfChannel',
  'ownPublished',
  'ownContact',
  'overrideOrRefuse',
  'confirmationFor',
  'withheldToday',
  'soughtBy',
  'planMends',
  'nameOfRun',
  'ownedOf',
  'ownRecordOf',
  'usersWithin',
  'reachedLead',
  'within',
  'wantedOf',
  'refuseOwned',
];

test('every service that acts for a member stands in the table of attempts', () => {
  const folder = 'src/server/services';
  const files = readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter((file) => file.endsWith('.ts'));
  const services = files.flatMap((file) =>
    [
      ...readFileSync(`${folder}/${file}`, 'utf8').matchAll(
        /export (?:async )?(?:function |const )(\w+)(?: = \()?\(?\s*(?:tx: Tx,\s*)?actor: /g,
      ),
    ].map((found) => found[1]!),
  );
  expect(services.length).toBeGreaterThan(20);
  expect(services.filter((name) => !(name in ATTEMPTS) && !NOT_REFUSING.includes(name))).toEqual([]);
});

const outcome = async (attempt: Attempt, actor: Actor, target: Belongings): Promise<string> => {
  try {
    await attempt.run(actor, target);
    return 'done';
  } catch (error) {
    return (error as { problem?: { code: string } }).problem?.code ?? String(error);
  }
};

describe('every service as every role', () => {
  let owner: Actor;
  let stranger: Actor;
  const actors = new Map<Role, Actor>();
  const own = new Map<Role, Belongings>();
  let colleague: Belongings;
  /** Somebody in the team that the team leader leads. */
  let mate: Belongings;
  let team: string;

  beforeAll(async () => {
    owner = await newActor(clock);
    stranger = await newActor(clock);
    const member = async (role: Role) => {
      const input = { name: role, email: `${role.replace(' ', '-')}-${next()}@heath.example`, password: FIRST };
      const { id } = await addMember(owner, { ...input, role: 'analyst', ownRecord: null }, clock);
      return id;
    };
    for (const role of ROLES) {
      const id = await member(role);
      const theirs = await belongings(owner, id);
      await changeMember(owner, id, { role, ownRecord: theirs.recordId }, clock);
      await inTenant(owner.organisationId, (tx) => tx('users').where({ id }).update({ must_change_password: false }));
      own.set(role, theirs);
      if (role === 'team leader') {
        mate = await belongings(owner, await member('holder'));
        // There is an end to how many jobs may wait.
        await cancelJob(owner, mate.job, clock);
        team = (await saveTeam(owner, null, 'Ropes', clock)).id;
        await changeTeam(owner, team, { records: [mate.recordId], into: true }, clock);
        await chooseLeaders(owner, team, [id], clock);
      }
      // As if their password had been typed just now.
      actors.set(role, { ...(await actorOfUser(id, owner.organisationId))!, confirmedAt: clock.now() });
    }
    colleague = await belongings(owner, await member('holder'));
  });

  for (const [name, attempt] of Object.entries(ATTEMPTS)) {
    test(`${name} (${attempt.action})`, async () => {
      for (const role of ROLES) {
        const reach = reachOf(role, attempt.action);
        const mine = await outcome(attempt, actors.get(role)!, own.get(role)!);
        expect([role, 'own', mine]).toEqual([role, 'own', reach === 'none' ? 'NOT_ALLOWED' : 'done']);
        if (!attempt.of) continue;
        const theirs = await outcome(attempt, actors.get(role)!, colleague);
        const expected = { all: 'done', team: 'NOT_FOUND', own: 'NOT_FOUND', none: 'NOT_ALLOWED' }[reach];
        expect([role, 'a colleague’s', theirs]).toEqual([role, 'a colleague’s', expected]);
        if (reach !== 'team') continue;
        const ofMate = await outcome(attempt, actors.get(role)!, mate);
        expect([role, 'a team mate’s', ofMate]).toEqual([role, 'a team mate’s', 'done']);
      }
      if (attempt.of) expect(await outcome(attempt, stranger, colleague)).toBe('NOT_FOUND');
      const must = { ...actors.get('owner')!, mustChangePassword: true };
      if (attempt.action !== 'password.change' && attempt.action !== 'session.manage')
        expect(await outcome(attempt, must, colleague)).toBe('PASSWORD_MUST_CHANGE');
      if (!attempt.act) return;
      const trail = await readAudit(owner, { act: attempt.act, userId: null, subjectId: null, before: null });
      expect(trail.lines.length).toBeGreaterThan(0);
    });
  }

  test('go to finds a holder’s own alone, an analyst nothing, a stranger nothing', async () => {
    const found = async (actor: Actor) => (await find(actor, 'ilse')).map(({ href }) => href);
    const holder = own.get('holder')!;
    expect((await found(actors.get('holder')!)).filter((href) => href.startsWith('/people/'))).toEqual([
      `/people/${holder.recordId}`,
    ]);
    expect(await found(actors.get('analyst')!)).toEqual([]);
    expect(await found(stranger)).toEqual([]);
    expect((await found(owner)).length).toBeGreaterThan(5);
  });

  test('a team leader finds, lists and counts their team and nobody else, until the team is another’s', async () => {
    const leader = actors.get('team leader')!;
    const mine = [own.get('team leader')!.recordId, mate.recordId].sort();
    const seen = async (actor: Actor) => (await listPeople(actor, {}, clock)).people.map(({ id }) => id).sort();
    expect(await seen(leader)).toEqual(mine);
    expect((await find(leader, 'ilse')).flatMap(({ href }) => /^\/people\/(.*)/.exec(href)?.[1] ?? []).sort()).toEqual(
      mine,
    );
    expect((await listTeams(leader)).map(({ id, leaders }) => [id, leaders.length])).toEqual([[team, 1]]);
    const other = (await saveTeam(owner, null, 'Slopes', clock)).id;
    await changeTeam(owner, other, { records: [colleague.recordId, mate.recordId], into: true }, clock);
    const figures = { cardId: null, days: 7 } as const;
    expect((await readResponse(leader, { ...figures, team }, clock)).summary).toBeDefined();
    // Of a team that they do not lead they see those whom they reach: the shared one, and no colleague.
    expect(await seen(leader)).toEqual(mine);
    expect((await listPeople(leader, { group: { team: other } }, clock)).people.map(({ id }) => id)).toEqual([
      mate.recordId,
    ]);
    expect(await teamsOfResponse(leader)).toEqual([{ id: team, name: 'Ropes' }]);
    // Whoever is no team leader leads nothing, whatever was chosen before.
    await expect(chooseLeaders(owner, team, [actors.get('holder')!.userId], clock)).rejects.toMatchObject({
      problem: { code: 'NOT_FOUND' },
    });
    await changeMember(owner, leader.userId, { role: 'holder', ownRecord: leader.ownRecord }, clock);
    await changeMember(owner, leader.userId, { role: 'team leader', ownRecord: leader.ownRecord }, clock);
    expect(await seen((await actorOfUser(leader.userId, owner.organisationId))!)).toEqual([leader.ownRecord]);
    await chooseLeaders(owner, team, [leader.userId], clock);
    await changeTeam(owner, team, { records: [mate.recordId], into: false }, clock);
    const now = (await actorOfUser(leader.userId, owner.organisationId))!;
    await expect(openRecord(now, mate.recordId)).rejects.toMatchObject({ problem: { code: 'NOT_FOUND' } });
    // A stranger's team is none.
    await expect(readResponse(stranger, { ...figures, team }, clock)).rejects.toMatchObject({
      problem: { code: 'NOT_FOUND' },
    });
  });

  test('the last owner stays; who has left is signed out and cannot come back', async () => {
    const alone = await newActor(clock);
    const demote = changeMember(alone, alone.userId, { role: 'analyst', ownRecord: null }, clock);
    await expect(demote).rejects.toMatchObject({ problem: { code: 'LAST_OWNER' } });
    const gone = actors.get('brand keeper')!;
    await removeMember(owner, gone.userId, clock);
    expect(await actorOfUser(gone.userId, owner.organisationId)).toBeNull();
  });
});

test('what product.md says of the roles: an analyst sees no details, a holder nobody else’s, the trail is the owner’s', () => {
  const analyst = ACTIONS.filter((action) => reachOf('analyst', action) !== 'none');
  expect(analyst.sort()).toEqual([
    'account.delete',
    'job.read',
    'password.change',
    'response.read',
    'second-factor.manage',
    'session.manage',
  ]);
  expect(ACTIONS.filter((action) => reachOf('holder', action) === 'all')).toEqual([]);
  expect(ROLES.filter((role) => reachOf(role, 'audit.read') !== 'none')).toEqual(['owner']);
  expect(ROLES.filter((role) => reachOf(role, 'card.publish') === 'all')).toEqual(['owner', 'administrator']);
});

test('the audit trail cannot be changed or removed by the application', async () => {
  const actor = await newActor(clock);
  for (const statement of ['UPDATE audit_trail SET act = act', 'DELETE FROM audit_trail'])
    await expect(inTenant(actor.organisationId, (tx) => tx.raw(statement))).rejects.toMatchObject({ code: '42501' });
});
