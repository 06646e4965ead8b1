import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { FIRST_OPTIONS } from '@/core/roster';
import type { Actor } from '@/server/services/accounts/actor';
import { saveOffice } from '@/server/services/house/offices';
import { runJob } from '@/server/services/jobs/run-job';
import { createRecord } from '@/server/services/records/create-record';
import { openRecord } from '@/server/services/records/edit-record';
import { beginRun, giveSheet, readColumns } from '@/server/services/roster/begin-run';
import { openRun } from '@/server/services/roster/open-run';
import { startRun } from '@/server/services/roster/run-roster';
import { emptySheet, rowsWithRemarks } from '@/server/services/roster/sheets';
import { JOB_TASKS } from '@/workers/tasks';
import { clock } from './full-card';
import { newActor, useDatabase } from './place';

useDatabase();
const folder = mkdtempSync(path.join(tmpdir(), 'heathland-office-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
let actor: Actor;
let cardId: string;
const all = { verdict: null, words: '', from: 0 };

/** A workbook opened, filled and saved by Debian's LibreOffice, which has nothing of ours in it. */
function filled(bytes: Buffer, rows: Record<string, string>[]) {
  const [source, target] = ['in', 'out'].map((name) => path.join(folder, `${name}-${rows.length}.xlsx`)) as [
    string,
    string,
  ];
  writeFileSync(source, bytes);
  const order = ['tests/fixtures/fill-sheet.py', source, target, JSON.stringify(rows), path.join(folder, 'profile')];
  const { status, stdout, stderr } = spawnSync('/usr/bin/python3', order, { encoding: 'utf8', timeout: 90_000 });
  if (status !== 0) throw new Error(stderr);
  const told = JSON.parse(stdout) as { sheets: string[]; headings: string[]; lists: string[] };
  return { told, bytes: readFileSync(target) };
}
async function review(bytes: Buffer) {
  const read = await readColumns(actor, bytes, { sheet: 0, headings: null });
  const columns = read.columns.map(({ heading, field }) => ({ heading, field }));
  const place = { sheet: read.sheet, headingRow: read.headingRow };
  const { id } = await beginRun(
    actor,
    { name: 'Winter', cardId, columns, place, options: FIRST_OPTIONS, keepAs: null },
    clock,
  );
  const { job } = await giveSheet(actor, id, bytes, clock);
  await runJob({ job, organisation: actor.organisationId }, JOB_TASKS['review-roster'], clock);
  return { id, columns, ...(await openRun(actor, id, all)) };
}

beforeAll(async () => {
  actor = await newActor(clock);
  const forWork = { phone: true, email: true };
  const maud = { name: 'Maud Tern', phone: '020 7946 0100', email: 'maud@tarnhope.example', title: 'Rigger', forWork };
  ({ cardId } = await createRecord(actor, { ...maud, firm: 'Tarnhope Cableways' }, clock));
  await saveOffice(actor, null, { base: 0, name: 'Brackwater', lines: [] }, clock);
});

test('our empty sheet opens in LibreOffice with its lists, is filled and saved there, and that file runs: zeros, days and umlauts as they were typed', async () => {
  const ours = await emptySheet(actor, cardId);
  const { told, bytes } = filled(ours.bytes, [
    {
      ...{ 'Staff number (needed)': '0042', 'First name (needed)': 'Uta', 'Last name (needed)': 'Müller-Weiß' },
      ...{ 'Work phone (needed)': '020 7946 0142', 'Work email (needed)': 'uta@tarnhope.example' },
      ...{ 'Job title (needed)': 'Rigger', 'Office (optional)': 'Brackwater', 'Joining date (optional)': '2026-12-01' },
    },
    {
      ...{ 'Staff number (needed)': '0043', 'First name (needed)': 'Keld', 'Last name (needed)': 'Brandt' },
      ...{
        'Work phone (needed)': '02079460143',
        'Work email (needed)': 'keld@tarnhope.example',
        'Job title (needed)': 'Prüfer',
      },
    },
  ]);
  expect(told.sheets).toEqual(['Staff', 'How to fill in']);
  expect(told.lists).toEqual(expect.arrayContaining(['Job title (needed)', 'Office (optional)']));
  const { id, rows, columns } = await review(bytes);
  // Every heading of ours is known again, needed or not.
  expect(columns.filter(({ field }) => field === null)).toEqual([]);
  expect(
    rows.map(({ verdict, remarks }) => [
      verdict,
      remarks.filter(({ code }) => code !== 'zero added' && code !== 'day number'),
    ]),
  ).toEqual([
    ['new', []],
    ['new', []],
  ]);
  const { job } = await startRun(actor, id, clock);
  await runJob({ job, organisation: actor.organisationId }, JOB_TASKS['run-roster'], clock);
  const { rows: done } = await openRun(actor, id, all);
  const people = await Promise.all(done.map(async ({ record }) => (await openRecord(actor, record!)).body));
  expect(people.map(({ name }) => `${name.given} ${name.family}`)).toEqual(['Uta Müller-Weiß', 'Keld Brandt']);
  expect(people.map(({ details }) => details.find(({ kind }) => kind === 'phone'))).toMatchObject([
    { number: '+442079460142' },
    { number: '+442079460143' },
  ]);
  // The rows with their remarks are a workbook as well.
  const back = filled((await rowsWithRemarks(actor, id, 'xlsx')).bytes, []);
  expect(back.told.headings.slice(0, 2)).toEqual(['Row', 'Staff number (needed)']);
  // The same file again changes nothing.
  expect((await review(bytes)).rows.map(({ verdict }) => verdict)).toEqual(['same', 'same']);
});
