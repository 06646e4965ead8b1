import { randomUUID } from 'node:crypto';
import sharp from 'sharp';
import { FIRST_OPTIONS, type RunState } from '@/core/roster';
import { inTenant } from '@/server/db/pool';
import { keepMapping, insertRun } from '@/server/db/roster/runs';
import { insertRows, writeJudged } from '@/server/db/roster/rows';
import { writeOffice } from '@/server/db/house/offices';
import { insertTeam } from '@/server/db/roster/teams';
import type { Actor } from '@/server/services/accounts/actor';
import { cancelJob } from '@/server/services/jobs/jobs';
import { beginRun, giveSheet, listMappings, readColumns, removeMapping } from '@/server/services/roster/begin-run';
import {
  decideRow,
  dropRun,
  listRuns,
  mendRows,
  openRun,
  readPattern,
  setOptions,
  takeAll,
  usualPattern,
} from '@/server/services/roster/open-run';
import { cropPicture, givePicture, matchRunPictures, picturesOfRun } from '@/server/services/roster/pictures';
import { startRun } from '@/server/services/roster/run-roster';
import { emptySheet, rowsWithRemarks } from '@/server/services/roster/sheets';
import { listOffices, moveToOffice, officeOf, removeOffice, saveOffice } from '@/server/services/house/offices';
import { teamsOfResponse } from '@/server/services/response/read-response';
import {
  changeTeam,
  chooseLeaders,
  listTeams,
  possibleLeaders,
  removeTeam,
  saveTeam,
} from '@/server/services/roster/teams';
import { undoRun } from '@/server/services/roster/undo-roster';
import type { Attempt } from './attempts';
import { clock, next } from './belongings';

const SHEET = Buffer.from('Staff number;Last name\n17;Ros\n');
const columns = [
  { heading: 'Staff number', field: 'staff number' as const },
  { heading: 'Last name', field: 'family' as const },
];

/** A run that is there whoever may see it, with a row of somebody new. */
async function runOf(
  { organisationId: organisation_id, userId: user_id }: Actor,
  cardId: string,
  state: RunState = 'ready',
) {
  const id = randomUUID();
  const at = new Date(clock.now());
  await inTenant(organisation_id, async (tx) => {
    await insertRun(tx, {
      ...{
        id,
        organisation_id,
        user_id,
        name: 'Autumn',
        card_id: cardId,
        columns,
        state,
        created_at: at,
        updated_at: at,
      },
      ...{ place: { sheet: 0, headingRow: 1 }, options: FIRST_OPTIONS },
    });
    await insertRows(tx, { organisation_id, run_id: id }, [
      { at: 2, cells: { 'staff number': `A${next()}`, family: 'Ros' } },
    ]);
    const row = {
      key: null,
      name: 'Ros',
      verdict: 'new' as const,
      remarks: [],
      changes: [],
      record_id: null,
      picture: null,
    };
    await writeJudged(tx, id, [{ at: 2, ...row, take: true }]);
  });
  return id;
}
const teamOf = async ({ organisationId: organisation_id }: Actor) => {
  const id = randomUUID();
  await inTenant(organisation_id, (tx) => insertTeam(tx, { id, organisation_id, name: `Ropes ${next()}` }));
  return id;
};
const officeFor = async ({ organisationId: organisation_id, userId }: Actor) => {
  const id = randomUUID();
  const version = { number: 1, lines: [], saved_by: userId, saved_at: new Date(clock.now()) };
  await inTenant(organisation_id, (tx) =>
    writeOffice(tx, { id, organisation_id, name: `Office ${next()}`, ...version }),
  );
  return id;
};
const stopped = async (actor: Actor, asked: Promise<{ job: string | null }>) => {
  const { job } = await asked;
  if (job) await cancelJob(actor, job, clock);
};
const CROP = { x: 0.5, y: 0.5, side: 0.5, turn: 0, focus: { x: 0.5, y: 0.5 } };
const portrait = () =>
  sharp({ create: { width: 40, height: 60, channels: 3, background: { r: next() % 256, g: 9, b: 90 } } })
    .jpeg()
    .toBuffer();

/** Attempts at sheets of staff, at teams and at offices. */
export const ROSTER_ATTEMPTS: Record<string, Attempt> = {
  readColumns: { action: 'roster.run', run: (actor) => readColumns(actor, SHEET, { sheet: 0, headings: null }) },
  beginRun: {
    action: 'roster.run',
    act: 'roster.begun',
    run: (actor, { cardId }) => {
      const how = { columns, place: { sheet: 0, headingRow: 1 }, options: FIRST_OPTIONS, keepAs: null };
      return beginRun(actor, { name: 'Autumn', cardId, ...how }, clock);
    },
  },
  giveSheet: {
    action: 'roster.run',
    act: 'job.asked',
    run: async (actor, { cardId }) => stopped(actor, giveSheet(actor, await runOf(actor, cardId), SHEET, clock)),
  },
  listMappings: { action: 'roster.run', run: (actor) => listMappings(actor) },
  removeMapping: {
    action: 'roster.run',
    run: async (actor) => {
      const row = { id: randomUUID(), organisation_id: actor.organisationId, name: `Export ${next()}`, columns };
      await inTenant(actor.organisationId, (tx) => keepMapping(tx, { ...row, updated_at: new Date(clock.now()) }));
      await removeMapping(actor, row.id);
    },
  },
  listRuns: { action: 'roster.run', run: (actor) => listRuns(actor) },
  openRun: {
    action: 'roster.run',
    run: async (actor, { cardId }) => openRun(actor, await runOf(actor, cardId), { verdict: null, words: '', from: 0 }),
  },
  mendRows: {
    action: 'roster.run',
    run: async (actor, { cardId }) =>
      mendRows(actor, await runOf(actor, cardId), { rows: [2], field: 'family', find: null, text: 'Tern' }, clock),
  },
  decideRow: {
    action: 'roster.run',
    run: async (actor, { cardId }) => decideRow(actor, await runOf(actor, cardId), 2, { take: false }, clock),
  },
  takeAll: {
    action: 'roster.run',
    run: async (actor, { cardId }) => takeAll(actor, await runOf(actor, cardId), 'new', false),
  },
  setOptions: {
    action: 'roster.run',
    run: async (actor, { cardId }) =>
      stopped(actor, setOptions(actor, await runOf(actor, cardId), FIRST_OPTIONS, clock)),
  },
  dropRun: { action: 'roster.run', run: async (actor, { cardId }) => dropRun(actor, await runOf(actor, cardId)) },
  readPattern: { action: 'roster.run', run: (actor, { cardId }) => readPattern(actor, cardId) },
  usualPattern: { action: 'roster.run', run: (actor) => usualPattern(actor) },
  emptySheet: { action: 'roster.run', run: (actor, { cardId }) => emptySheet(actor, cardId) },
  rowsWithRemarks: {
    action: 'roster.run',
    run: async (actor, { cardId }) => rowsWithRemarks(actor, await runOf(actor, cardId), 'csv'),
  },
  givePicture: {
    action: 'roster.run',
    run: async (actor, { cardId }) => givePicture(actor, await runOf(actor, cardId), 'ros.jpg', await portrait()),
  },
  cropPicture: {
    action: 'roster.run',
    run: async (actor, { cardId }) => {
      const id = await runOf(actor, cardId);
      await givePicture(actor, id, 'ros.jpg', await portrait());
      await cropPicture(actor, id, 'ros.jpg', CROP);
    },
  },
  matchRunPictures: {
    action: 'roster.run',
    run: async (actor, { cardId }) => matchRunPictures(actor, await runOf(actor, cardId), clock),
  },
  picturesOfRun: {
    action: 'roster.run',
    run: async (actor, { cardId }) => picturesOfRun(actor, await runOf(actor, cardId)),
  },
  startRun: {
    action: 'roster.run',
    act: 'job.asked',
    run: async (actor, { cardId }) => stopped(actor, startRun(actor, await runOf(actor, cardId), clock)),
  },
  undoRun: {
    action: 'roster.run',
    act: 'job.asked',
    run: async (actor, { cardId }) => stopped(actor, undoRun(actor, await runOf(actor, cardId, 'done'), clock)),
  },
  listOffices: { action: 'house.write', run: (actor) => listOffices(actor) },
  officeOf: { action: 'record.read', run: (actor, { recordId }) => officeOf(actor, recordId) },
  saveOffice: {
    action: 'house.write',
    act: 'office.saved',
    run: (actor) => saveOffice(actor, null, { base: 0, name: `Office ${next()}`, lines: [] }, clock),
  },
  removeOffice: {
    action: 'house.write',
    act: 'office.removed',
    run: async (actor) => removeOffice(actor, await officeFor(actor), clock),
  },
  moveToOffice: {
    action: 'team.write',
    act: 'office.peopled',
    run: async (actor, { recordId }) => stopped(actor, moveToOffice(actor, await officeFor(actor), [recordId], clock)),
  },
  listTeams: { action: 'team.read', run: (actor) => listTeams(actor) },
  saveTeam: {
    action: 'team.write',
    act: 'team.changed',
    run: (actor) => saveTeam(actor, null, `Team ${next()}`, clock),
  },
  removeTeam: {
    action: 'team.write',
    act: 'team.changed',
    run: async (actor) => removeTeam(actor, await teamOf(actor), clock),
  },
  chooseLeaders: {
    action: 'member.manage',
    act: 'team.changed',
    run: async (actor) => chooseLeaders(actor, await teamOf(actor), [], clock),
  },
  possibleLeaders: { action: 'member.manage', run: (actor) => possibleLeaders(actor) },
  teamsOfResponse: { action: 'response.read', run: (actor) => teamsOfResponse(actor) },
  changeTeam: {
    action: 'team.write',
    act: 'team.changed',
    run: async (actor, { recordId }) =>
      changeTeam(actor, await teamOf(actor), { records: [recordId], into: true }, clock),
  },
};
