import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { Refusal } from '@/core/errors';
import { MOST_ATTEMPTS, type Task } from '@/core/jobs';
import { shownValue } from '@/core/record';
import { readContactFile } from '@/core/vcard';
import { inTenant } from '@/server/db/pool';
import { files } from '@/server/files';
import type { Actor } from '@/server/services/accounts/actor';
import { takeContactFile } from '@/server/services/imports/begin-import';
import { contactStream } from '@/server/services/records/contact-stream';
import { exportContacts } from '@/server/services/records/export-contacts';
import { listPeople } from '@/server/services/records/list-people';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import {
  chooseContact,
  chooseContacts,
  openImport,
  takeImport,
  undoImport,
} from '@/server/services/imports/review-import';
import { runJob } from '@/server/services/jobs/run-job';
import { JOB_TASKS } from '@/workers/tasks';
import { clockAt, newActor, useDatabase } from './place';

useDatabase();
// Thousands of contacts on a machine that others share.
const clock = clockAt('2026-11-25T09:00:00Z');
const card = (...lines: string[]) => ['BEGIN:VCARD', 'VERSION:3.0', ...lines, 'END:VCARD', ''].join('\r\n');

/** Runs a job as the queue would, once. */
async function run(actor: Actor, job: string, task?: (typeof JOB_TASKS)[Task]) {
  const [row] = await inTenant(actor.organisationId, (tx) => tx('jobs').where({ id: job }));
  await runJob({ job, organisation: actor.organisationId }, task ?? JOB_TASKS[row.task as Task], clock);
  return (await inTenant(actor.organisationId, (tx) => tx('jobs').where({ id: job })))[0];
}
async function begin(actor: Actor, text: string) {
  const taken = await takeContactFile(actor, Buffer.from(text), clock, 'book.vcf');
  if (!('import' in taken)) throw new Error('This file is for review.');
  const done = await run(actor, taken.job);
  return { id: taken.import, done };
}
const review = (actor: Actor, id: string) => openImport(actor, id, { verdict: null, from: 0 });
const names = async (actor: Actor) => (await listPeople(actor, {}, clock)).people.map(({ name }) => name).sort();

test('a file with new, known, changed, doubled and broken contacts: reviewed, taken line by line, undone', async () => {
  const actor = await newActor(clock);
  const first = await takeContactFile(
    actor,
    Buffer.from(
      card(
        'FN:Ilse Varrow',
        'TEL;TYPE=WORK:+442079460182',
        'TITLE:Rope inspector',
        'EMAIL:ilse@tarnhope.example',
        'UID:urn:uuid:ilse',
      ),
    ),
    clock,
  );
  const ilse = 'imported' in first ? first.imported.recordId : '';
  const photo = await sharp({ create: { width: 60, height: 60, channels: 3, background: '#864' } })
    .jpeg()
    .toBuffer();
  const { id, done } = await begin(
    actor,
    card('FN:Maud Aldercott', 'TEL:+442079460183', `PHOTO;ENCODING=b;TYPE=JPEG:${photo.toString('base64')}`) +
      card(
        'FN:Ilse Varrow',
        'TEL;TYPE=WORK:+442079460999',
        'TITLE:Lead inspector',
        'URL:https://tarnhope.example',
        'UID:urn:uuid:ilse',
        'X-RANK:3',
      ) +
      card('FN:Ilse Varrow', 'EMAIL:Ilse@Tarnhope.example') +
      card('FN:Maud Aldercott', 'TEL:+442079460183') +
      card('FN:Maud Aldercott', 'TEL:+442079460183', `PHOTO;ENCODING=b;TYPE=JPEG:${photo.toString('base64')}`) +
      'BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Keld Garrowby\r\nno colon here but long enough to be nothing else than a broken line\r\nTEL:+442079460184\r\n',
  );
  expect(done).toMatchObject({ state: 'done', result: { found: 6 } });
  const opened = await review(actor, id);
  expect(opened.state).toBe('ready');
  expect(opened.entries.map(({ name, verdict, take }) => [name, verdict, take])).toEqual([
    ['Maud Aldercott', 'new', true],
    ['Ilse Varrow', 'differs', true],
    ['Ilse Varrow', 'same', false],
    ['Maud Aldercott', 'twice', false],
    ['Maud Aldercott', 'twice', false],
    ['Keld Garrowby', 'new', true],
  ]);
  expect(opened.entries[1]!.differences.map(({ key, now, would, chosen }) => [key, now, would, chosen])).toEqual([
    ['d:d1', '+44 20 7946 0182', '+44 20 7946 0999', false],
    ['d:d2', 'Rope inspector', 'Lead inspector', false],
    ['d:d3', null, 'tarnhope.example', true],
    ['kept', null, '1', true],
  ]);
  expect(opened.entries[5]!.warnings.map(({ code }) => code)).toEqual(['LINE_UNREADABLE', 'END_MISSING']);

  await chooseContact(actor, id, 1, { chosen: ['d:d1', 'd:d3'] });
  await chooseContacts(actor, id, { verdict: 'twice', take: false });
  const { job } = await takeImport(actor, id, clock);
  await expect(takeImport(actor, id, clock)).rejects.toMatchObject({ problem: { code: 'IMPORT_BUSY' } });
  expect(await run(actor, job)).toMatchObject({ state: 'done', result: { made: 2, changed: 1, skipped: 0 } });
  // The queue gives a job twice when a worker dies after its work: nothing is doubled.
  await inTenant(actor.organisationId, (tx) => tx('jobs').where({ id: job }).update({ state: 'running' }));
  expect(await run(actor, job)).toMatchObject({ state: 'done' });
  expect(await names(actor)).toEqual(['Ilse Varrow', 'Keld Garrowby', 'Maud Aldercott']);
  const changed = await openRecord(actor, ilse);
  expect(changed.body.details.map((detail) => shownValue(detail))).toEqual([
    '+44 20 7946 0999',
    'Rope inspector',
    'ilse@tarnhope.example',
    'tarnhope.example',
  ]);
  expect(
    (await listPeople(actor, {}, clock)).people.find(({ name }) => name === 'Maud Aldercott')!.picture,
  ).not.toBeNull();
  const [row] = await inTenant(actor.organisationId, (tx) => tx('imports').where({ id }));
  expect(row.file).toBeNull();

  // Keld was worked on since, so undoing leaves him alone.
  const keld = (await listPeople(actor, {}, clock)).people.find(({ name }) => name === 'Keld Garrowby')!;
  const record = await openRecord(actor, keld.id);
  await saveRecord(actor, keld.id, record.version, { ...record.body, details: [] }, clock);
  const undo = await undoImport(actor, id, clock);
  expect(await run(actor, undo.job)).toMatchObject({ state: 'done', result: { undone: 2, left: 1 } });
  expect(await names(actor)).toEqual(['Ilse Varrow', 'Keld Garrowby']);
  expect((await openRecord(actor, ilse)).body.details.map((detail) => shownValue(detail))).toEqual([
    '+44 20 7946 0182',
    'Rope inspector',
    'ilse@tarnhope.example',
  ]);
  await expect(undoImport(actor, id, clock)).rejects.toMatchObject({ problem: { code: 'IMPORT_ENDED' } });
  const bodies = await inTenant(actor.organisationId, (tx) =>
    tx('import_entries').where({ import_id: id }).select('body'),
  );
  expect(JSON.stringify(bodies)).not.toContain('+4420');
});

test('what fails for a while is tried again; what is refused ends; the file of a stored book is forgotten once taken in', async () => {
  const actor = await newActor(clock);
  const taken = await takeContactFile(actor, Buffer.from(card('FN:A') + card('FN:B')), clock);
  const job = 'job' in taken ? taken.job : '';
  let tries = 0;
  const flaky: (typeof JOB_TASKS)[Task] = async (running) => {
    tries += 1;
    if (tries < 3) throw tries === 1 ? new Error('the network') : new Refusal({ code: 'STORE_UNAVAILABLE' });
    return JOB_TASKS['read-contacts'](running);
  };
  await expect(run(actor, job, flaky)).rejects.toThrow('the network');
  await expect(run(actor, job, flaky)).rejects.toThrow('STORE_UNAVAILABLE');
  expect(await run(actor, job, flaky)).toMatchObject({ state: 'done', attempts: 3, result: { found: 2 } });

  const never = await takeContactFile(actor, Buffer.from(card('FN:C') + card('FN:D')), clock);
  const hopeless = async () => {
    throw new Error('still');
  };
  for (let attempt = 1; attempt < MOST_ATTEMPTS; attempt += 1)
    await expect(run(actor, 'job' in never ? never.job : '', hopeless)).rejects.toThrow('still');
  expect(await run(actor, 'job' in never ? never.job : '', hopeless)).toMatchObject({
    state: 'failed',
    problem: { code: 'UNEXPECTED' },
  });

  const gone = await takeContactFile(actor, Buffer.from(card('FN:E') + card('FN:F')), clock);
  const [row] = await inTenant(actor.organisationId, (tx) =>
    tx('imports').where({ id: 'import' in gone ? gone.import : '' }),
  );
  await files().forget(row.file);
  expect(await run(actor, 'job' in gone ? gone.job : '')).toMatchObject({
    state: 'failed',
    problem: { code: 'NOT_FOUND' },
  });
});

test('the same file of two organisations: taking it in at one leaves it to the other', async () => {
  const [one, other] = [await newActor(clock), await newActor(clock)];
  const text = card('FN:A') + card('FN:B');
  const first = await begin(one, text);
  const second = await begin(other, text);
  for (const [actor, { id }] of [
    [one, first],
    [other, second],
  ] as const) {
    const { job } = await takeImport(actor, id, clock);
    expect(await run(actor, job)).toMatchObject({ state: 'done', result: { made: 2 } });
  }
});

test('no contact file, an empty one, too large a one: refused in words; a jCard and a MeCard come in', async () => {
  const actor = await newActor(clock);
  const refused = (bytes: Buffer, code: string) =>
    expect(takeContactFile(actor, bytes, clock)).rejects.toMatchObject({ problem: { code } });
  await refused(Buffer.from('hello'), 'NOT_A_CONTACT_FILE');
  await refused(Buffer.alloc(0), 'NOT_A_CONTACT_FILE');
  await refused(Buffer.from(card()), 'CONTACT_FILE_EMPTY');
  await refused(Buffer.alloc(30_000_001, 'x'), 'FILE_TOO_LARGE');
  const many = await begin(actor, card('FN:A').repeat(5_001));
  expect(many.done).toMatchObject({ state: 'failed', problem: { code: 'TOO_MANY_CONTACTS', limit: 5_000 } });
  for (const text of ['MECARD:N:Brandreth,Odile;TEL:+447700900456;;', '["vcard",[["fn",{},"text","Nour"]]]'])
    expect(await takeContactFile(actor, Buffer.from(text), clock)).toHaveProperty('imported');
  expect(await names(actor)).toEqual(['Nour', 'Odile Brandreth']);
});

test('an export comes in again as nothing new; a ZIP holds one file each, as unzip finds them', async () => {
  const actor = await newActor(clock);
  const { id } = await begin(
    actor,
    card('FN:Ilse Varrow', 'TEL:+442079460182', 'X-RANK:3', 'NOTE:a; b, c') +
      card('FN:Ilse Varrow', 'TEL:+442079460185') +
      card('FN:Łoś', 'EMAIL:los@tarnhope.example'),
  );
  await run(actor, (await takeImport(actor, id, clock)).job);
  const everybody = (version: '2.1' | '3.0' | '4.0') =>
    exportContacts(actor, { records: 'everybody', cards: [], version }, clock);
  for (const version of ['2.1', '3.0', '4.0'] as const) {
    let text = '';
    for await (const contact of (await everybody(version)).contacts) text += contact.text;
    expect(text).toContain('X-RANK:3');
    const again = await begin(actor, text);
    expect((await review(actor, again.id)).entries.map(({ verdict }) => verdict)).toEqual(['same', 'same', 'same']);
  }
  const folder = mkdtempSync(path.join(tmpdir(), 'heathland-zip-'));
  const zip = path.join(folder, 'contacts.zip');
  writeFileSync(
    zip,
    Buffer.from(await new Response(contactStream((await everybody('3.0')).contacts, true)).arrayBuffer()),
  );
  expect(execFileSync('unzip', ['-Z1', zip], { encoding: 'utf8' }).trim().split('\n')).toEqual([
    'Ilse-Varrow.vcf',
    'Ilse-Varrow-2.vcf',
    'os.vcf',
  ]);
  const one = execFileSync('unzip', ['-p', zip, 'Ilse-Varrow.vcf'], { encoding: 'utf8' });
  expect(readContactFile(one, 'GB').contacts).toHaveLength(1);
  rmSync(folder, { recursive: true });
});
