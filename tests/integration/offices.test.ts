import { addressLine, addressOf, officeLine, readOfficeLine, type HouseLine, type OfficeSlot } from '@/core/house';
import { FIRST_OPTIONS } from '@/core/roster';
import type { Actor } from '@/server/services/accounts/actor';
import { makeHandOut } from '@/server/services/hand-outs/make';
import { listOffices, moveToOffice, officeOf, removeOffice, saveOffice } from '@/server/services/house/offices';
import { runJob } from '@/server/services/jobs/run-job';
import { loadPreview, makePreview } from '@/server/services/publishing/preview-card';
import { createCard } from '@/server/services/cards/create-card';
import { listPeople } from '@/server/services/records/list-people';
import { createRecord } from '@/server/services/records/create-record';
import { beginRun, giveSheet, readColumns } from '@/server/services/roster/begin-run';
import { openRun } from '@/server/services/roster/open-run';
import { startRun } from '@/server/services/roster/run-roster';
import { undoRun } from '@/server/services/roster/undo-roster';
import { listCopies } from '@/server/services/wild/list-copies';
import { JOB_TASKS } from '@/workers/tasks';
import { person, published } from './dressed';
import { clock, pageAt, refused } from './full-card';
import { newActor, useDatabase } from './place';

useDatabase();

/** An office with these lines, in a street of its own. */
function linesOf(street: string, phone: string, said: Partial<Record<OfficeSlot, string>> = {}): HouseLine[] {
  const address = { ...addressOf(undefined), street, locality: 'Brackwater', postcode: 'BW2 6LD' };
  const typed = Object.entries({ phone, ...said }) as [OfficeSlot, string][];
  return [
    addressLine(address, undefined)!,
    ...typed.flatMap(([slot, text]) => {
      const read = readOfficeLine(slot, text, { country: 'GB', zone: 'Europe/London', before: undefined });
      return read.ok && read.value ? [read.value] : [];
    }),
  ];
}

let actor: Actor;
let ilse: { cardId: string; recordId: string };
let corin: { cardId: string; recordId: string };
let brack: string;
const done = async (job: string | null, task: keyof typeof JOB_TASKS) =>
  job && runJob({ job, organisation: actor.organisationId }, JOB_TASKS[task], clock);

beforeAll(async () => {
  actor = await newActor(clock);
  ilse = await person(actor);
  corin = await person(actor, 'Corin Hathersage');
  const lines = linesOf('17 Pylon Row', '01632 960300', { hours: 'Mon–Fri 8–17', legal: 'Registered in England' });
  brack = (await saveOffice(actor, null, { base: 0, name: 'Brackwater', lines }, clock)).id;
});

test('an office moves by one edit: its people’s pages, contact files and previews say it at once, nobody else’s, no card is written, proofs follow', async () => {
  await moveToOffice(actor, brack, [ilse.recordId], clock);
  await published(actor, ilse.cardId, 'at-brack');
  await published(actor, corin.cardId, 'at-none');
  const { url } = await makePreview(actor, ilse.cardId, clock);
  const previewed = async () =>
    JSON.stringify((await loadPreview(new URL(url).pathname.split('/').at(-1)!, clock))!.composition.lines);
  expect(await pageAt('/c/at-brack')).toContain('17 Pylon Row');
  expect(await pageAt('/c/at-brack')).toContain('Registered in England');
  const file = await pageAt('/c/at-brack.vcf');
  // RFC 6350, 6.3.1: post office box, extended, street, locality, region, code, country.
  expect(file).toMatch(/^ADR[^:]*:;;17 Pylon Row;Brackwater;;BW2 6LD;/m);
  // Words of the law and hours are for reading.
  expect(file).not.toContain('Registered');
  expect(await pageAt('/c/at-none')).not.toContain('Pylon Row');
  expect(await previewed()).toContain('17 Pylon Row');
  // A frozen code, out there with the old address.
  const frozen = { cardId: ilse.cardId, placement: 'Cabin door', channel: 'code' as const, frozen: true };
  await makeHandOut(actor, frozen, clock);
  expect((await listOffices(actor)).map(({ people, copies }) => [people, copies])).toEqual([[1, 1]]);
  expect((await listCopies(actor, { which: 'wild' })).copies).toEqual([]);

  const lines = linesOf('3 Mill Lane', '01632 960301');
  const saved = await saveOffice(actor, brack, { base: 1, name: 'Brackwater', lines }, clock);
  expect(saved).toMatchObject({ number: 2, cards: 1 });
  const html = await pageAt('/c/at-brack');
  expect(html).toContain('3 Mill Lane');
  expect(html).not.toMatch(/Pylon Row|Registered/);
  expect(await pageAt('/c/at-brack.vcf')).toContain('3 Mill Lane');
  expect(await previewed()).toContain('3 Mill Lane');
  const { copies } = await listCopies(actor, { which: 'wild' });
  const values = copies.flatMap((copy) => copy.values.filter(({ old }) => old));
  expect(values.find(({ was }) => was.includes('Pylon'))?.now).toContain('3 Mill Lane');
  await done(saved.job, 'prove-cards');
  expect((await listOffices(actor))[0]!.job).toMatchObject({ state: 'done', done: 1, total: 1 });
  // What was saved over is told to whoever has not seen it.
  await expect(saveOffice(actor, brack, { base: 1, name: 'Brackwater', lines: [] }, clock)).rejects.toMatchObject(
    refused('OFFICE_CHANGED'),
  );
});

test('a card may leave out what an office adds, people move between offices, and an office that is removed leaves nothing on their cards', async () => {
  await published(actor, ilse.cardId, 'at-brack', { hides: [officeLine('phone')] });
  expect(await pageAt('/c/at-brack')).not.toContain('960301');
  const skell = await saveOffice(
    actor,
    null,
    { base: 0, name: 'Skell', lines: linesOf('2 Yard', '01632 960100') },
    clock,
  );
  await expect(saveOffice(actor, null, { base: 0, name: 'SKELL', lines: [] }, clock)).rejects.toMatchObject(
    refused('OFFICE_THERE'),
  );
  await moveToOffice(actor, skell.id, [ilse.recordId], clock);
  expect(await pageAt('/c/at-brack')).toContain('2 Yard');
  expect((await listPeople(actor, { group: { office: skell.id } }, clock)).people.map(({ name }) => name)).toEqual([
    'Ilse Varrow',
  ]);
  // A second card of hers has it too, without anybody doing anything.
  const { cardId } = await createCard(actor, { recordId: ilse.recordId, audience: 'Fair', isPrivate: false }, clock);
  await published(actor, cardId, 'at-fair');
  expect(await pageAt('/c/at-fair')).toContain('+44 1632 960100');
  const stranger = await newActor(clock);
  await expect(moveToOffice(stranger, skell.id, [ilse.recordId], clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  await expect(removeOffice(stranger, skell.id, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  await moveToOffice(stranger, null, [ilse.recordId], clock);
  expect(await officeOf(actor, ilse.recordId)).toMatchObject({ name: 'Skell' });
  await removeOffice(actor, skell.id, clock);
  expect(await officeOf(actor, ilse.recordId)).toBeNull();
  for (const address of ['/c/at-brack', '/c/at-fair']) expect(await pageAt(address)).not.toContain('2 Yard');
});

test('a sheet names offices: an unknown one is told beside its cell, who moves shows the other one, and undoing moves back', async () => {
  const forWork = { phone: true, email: true };
  const maud = { name: 'Maud Tern', phone: '020 7946 0100', email: 'maud@tarnhope.example', forWork };
  const { cardId } = await createRecord(actor, maud, clock);
  const run = async (rows: string[]) => {
    const bytes = Buffer.from(['Staff number;Last name;First name;Email;Standort', ...rows].join('\n'));
    const read = await readColumns(actor, bytes, { sheet: 0, headings: null });
    expect(read.columns.at(-1)!.field).toBe('office');
    const columns = read.columns.map(({ heading, field }) => ({ heading, field }));
    const place = { sheet: read.sheet, headingRow: read.headingRow };
    const options = { ...FIRST_OPTIONS, publish: 'now' as const };
    const asked = { name: 'Autumn', cardId, columns, place, options, keepAs: null };
    const { id } = await beginRun(actor, asked, clock);
    await done((await giveSheet(actor, id, bytes, clock)).job, 'review-roster');
    const seen = await openRun(actor, id, { verdict: null, words: '', from: 0 });
    return { id, rows: seen.rows, carryOut: async () => done((await startRun(actor, id, clock)).job, 'run-roster') };
  };
  await saveOffice(
    actor,
    null,
    { base: 0, name: 'Arne Head', lines: linesOf('The Winding House', '01632 960200') },
    clock,
  );
  const first = await run([
    'T1;Quern;Tobias;t.quern@tarnhope.example;brackwater',
    'T2;Lorne;Ysolde;y@tarnhope.example;Moon',
  ]);
  expect(first.rows.map(({ verdict, remarks }) => [verdict, remarks])).toEqual([
    ['new', []],
    ['error', [{ field: 'office', code: 'no office' }]],
  ]);
  await first.carryOut();
  const made = (await openRun(actor, first.id, { verdict: null, words: '', from: 0 })).rows[0]!;
  expect(await officeOf(actor, made.record!)).toMatchObject({ name: 'Brackwater' });
  expect(made.problem).toBeNull();
  expect(await pageAt('/c/tobias-quern')).toContain('3 Mill Lane');
  const next = await run(['T1;Quern;Tobias;t.quern@tarnhope.example;Arne Head']);
  expect(next.rows[0]!.changes).toEqual([{ of: 'office', was: 'Brackwater', is: 'Arne Head' }]);
  await next.carryOut();
  expect(await pageAt('/c/tobias-quern')).toContain('The Winding House');
  await done((await undoRun(actor, next.id, clock)).job, 'undo-roster');
  expect(await pageAt('/c/tobias-quern')).toContain('3 Mill Lane');
});
