import iconv from 'node:buffer';
import sharp from 'sharp';
import writeXlsx from 'write-excel-file/node';
import type { RunOptions } from '@/core/roster';
import { FIRST_OPTIONS } from '@/core/roster';
import { NO_HOUSE } from '@/core/house';
import { LIMITS } from '@/core/limits';
import { inTenant } from '@/server/db/pool';
import { sweep } from '@/server/services/jobs/sweeps';
import type { Actor } from '@/server/services/accounts/actor';
import { addMember } from '@/server/services/accounts/members';
import { actorOfUser } from '@/server/services/accounts/sessions';
import { saveCard } from '@/server/services/cards/edit-card';
import { openCard } from '@/server/services/cards/open-card';
import { adoptWording } from '@/server/services/cards/adopt-wording';
import { saveHouse } from '@/server/services/house/house-style';
import { runJob } from '@/server/services/jobs/run-job';
import { createRecord } from '@/server/services/records/create-record';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { beginRun, giveSheet, readColumns } from '@/server/services/roster/begin-run';
import { decideRow, mendRows, openRun, setOptions, takeAll } from '@/server/services/roster/open-run';
import { givePicture, matchRunPictures } from '@/server/services/roster/pictures';
import { startRun } from '@/server/services/roster/run-roster';
import { undoRun } from '@/server/services/roster/undo-roster';
import { JOB_TASKS } from '@/workers/tasks';
import { ask, clock, pageAt, refused } from '../full-card';
import { newActor, useDatabase } from '../place';

useDatabase();

let maud: Actor;
let cardId: string;

const carryOut = async (job: string, task: keyof typeof JOB_TASKS) =>
  runJob({ job, organisation: maud.organisationId }, JOB_TASKS[task], clock);
const all = { verdict: null, words: '', from: 0 };

/** A sheet up to its review, as the screens do it. */
async function review(bytes: Buffer, options: Partial<RunOptions> = {}, keepAs: string | null = null) {
  const read = await readColumns(maud, bytes, { sheet: 0, headings: null });
  const columns = read.columns.map(({ heading, field }) => ({ heading, field }));
  const place = { sheet: read.sheet, headingRow: read.headingRow };
  const asked = { name: 'Autumn', cardId, columns, place, options: { ...FIRST_OPTIONS, ...options }, keepAs };
  const { id } = await beginRun(maud, asked, clock);
  await carryOut((await giveSheet(maud, id, bytes, clock)).job, 'review-roster');
  return { id, read };
}
const verdicts = async (id: string) =>
  Object.fromEntries((await openRun(maud, id, all)).run.counts.map(({ verdict, found }) => [verdict, found]));
const run = async (id: string) => {
  await carryOut((await startRun(maud, id, clock)).job, 'run-roster');
  return openRun(maud, id, all);
};
const rowNamed = async (id: string, name: string) =>
  (await openRun(maud, id, all)).rows.find((row) => row.name === name)!;

/** As a personnel system in Germany exports it: semicolons, Windows-1252, German headings, with columns that are nobody's business. */
const latin = (text: string) => iconv.transcode(Buffer.from(text), 'utf8', 'latin1');
const AUTUMN = [
  'Personalliste Herbst;;;;;;;;',
  'Personal-Nr.;Nachname;Vorname;Funktion;Abteilung;Telefon;Handy;E-Mail;Gehalt;Geburtsdatum',
  '0041;Müller;Uta;Seilmeisterin;Betrieb;020 7946 0141;07700 900141;uta.mueller@tarnhope.example;61.200,00;03.04.1981',
  '0042;Brandt;Keld;Prüfer;Betrieb;20 7946 0142;;keld.brandt@tarnhope.example;58.000,00;01.02.1990',
  '0043;Weiß;Ilse;Ärztin;Rettung;4,42079E+11;;ilse.weiss@tarnhope.example;70.100,00;05.06.1979',
].join('\r\n');

beforeAll(async () => {
  maud = { ...(await newActor(clock)), confirmedAt: clock.now() };
  const { recordId, cardId: made } = await createRecord(
    maud,
    {
      ...{ name: 'Maud Tern', phone: '020 7946 0100', email: 'maud@tarnhope.example', title: 'Head of people' },
      ...{ firm: 'Tarnhope Cableways', forWork: { phone: true, email: true } },
    },
    clock,
  );
  cardId = made;
  // The pattern also shows a mobile, which is ticked on purpose on this card alone.
  const { version, body } = await openRecord(maud, recordId);
  const mobile = {
    kind: 'phone' as const,
    id: 'mob',
    label: '',
    preferred: false,
    number: '+447700900100',
    uses: ['mobile' as const],
  };
  await saveRecord(maud, recordId, version, { ...body, details: [...body.details, mobile] }, clock);
  const card = await openCard(maud, cardId);
  const lines = card.lines.map((line) =>
    line.detail === 'mob' ? { ...line, ticks: { ...line.ticks, page: true } } : line,
  );
  await saveCard(maud, cardId, { baseVersion: card.version, lines, audience: 'Staff' }, clock);
});

test('an export as it is: headings known, what is not mapped is nowhere kept, a lost zero added, a rounded number stopped and mended in place, run, undone', async () => {
  const { id, read } = await review(latin(AUTUMN), { publish: 'now' });
  expect(read.columns.map(({ field }) => field)).toEqual([
    ...['staff number', 'family', 'given', 'title', 'department', 'phone', 'own mobile', 'email', null, null],
  ]);
  expect(await verdicts(id)).toEqual({ new: 2, error: 1 });
  expect((await rowNamed(id, 'Keld Brandt')).remarks).toEqual([{ field: 'phone', code: 'zero added' }]);
  const broken = await rowNamed(id, 'Ilse Weiß');
  expect(broken).toMatchObject({ at: 5, take: false, remarks: [{ field: 'phone', code: 'scientific' }] });
  // A salary and a birthday are in no row of the database.
  const kept = await inTenant(maud.organisationId, (tx) =>
    tx('roster_rows').select(tx.raw('roster_rows::text AS row')),
  );
  expect(JSON.stringify(kept)).not.toMatch(/61\.200|1981/);
  await mendRows(maud, id, { rows: [5], field: 'phone', find: null, text: '020 7946 0143' }, clock);
  expect(await verdicts(id)).toEqual({ new: 3 });
  const { rows, run: after } = await run(id);
  expect(after.state).toBe('done');
  expect(rows.map(({ outcome, published, problem }) => [outcome, published, problem])).toEqual([
    ...Array.from({ length: 3 }, () => ['made', true, null]),
  ]);
  // As on the pattern, but for what is private.
  const { address } = await openCard(maud, rows[0]!.card!);
  const page = await pageAt(`/c/${address}`);
  expect(page).toMatch(/Uta Müller.*Seilmeisterin/s);
  expect(page).toContain('+442079460141');
  expect(page).not.toContain('7700900141');
  const again = await review(latin(AUTUMN));
  expect(await verdicts(again.id)).toEqual({ same: 2, error: 1 });
  await expect(startRun(maud, again.id, clock)).rejects.toMatchObject(refused('NOTHING_CHOSEN'));
  await carryOut((await undoRun(maud, id, clock)).job, 'undo-roster');
  expect((await openRun(maud, id, all)).rows.every(({ undone }) => undone)).toBe(true);
  expect((await ask(`/c/${address}`)).status).not.toBe(200);
  expect(await verdicts((await review(latin(AUTUMN))).id)).toEqual({ new: 2, error: 1 });
});

const HEADINGS = [
  'Staff number',
  'First name',
  'Last name',
  'Job title',
  'Work phone',
  'Email',
  'Mobile',
  'Team',
  'Leaving date',
  'Photo',
];
const sheet = (...rows: string[][]) =>
  Buffer.from([HEADINGS, ...rows].map((row) => row.join('\t')).join('\n'), 'utf16le');
const person = (at: number, more: Partial<Record<(typeof HEADINGS)[number], string>> = {}) => {
  const usual: Record<string, string> = {
    ...{ 'Staff number': `T${at}`, 'First name': 'Keld', 'Last name': `Ros${at}`, 'Job title': 'Rope inspector' },
    ...{ 'Work phone': `020 7946 0${200 + at}`, Email: `keld.${at}@tarnhope.example`, Mobile: '', Team: 'Ropes' },
  };
  return HEADINGS.map((heading) => ({ ...usual, ...more })[heading] ?? '');
};

test('a month later: who joins, changes and leaves; what a holder changed of their own stays; who made herself chief executive is refused', async () => {
  const owned = { name: 'From the sheet', title: 'From the sheet' };
  await saveHouse(maud, { baseNumber: 0, style: { ...NO_HOUSE, owned }, note: '' }, clock);
  const first = await run(
    (await review(sheet(person(1), person(2, { Mobile: '07700 900202' }), person(3)), { publish: 'now' })).id,
  );
  const [one, two, three] = first.rows;
  const { id: user } = await addMember(
    maud,
    {
      name: 'Keld Ros2',
      email: 'keld.2@tarnhope.example',
      password: 'first password 1',
      role: 'holder',
      ownRecord: two!.record,
    },
    clock,
  );
  const holder: Actor = { ...(await actorOfUser(user, maud.organisationId))!, mustChangePassword: false };
  // By every way in: the record, a wording, a line of the card's own adopted.
  const held = await openRecord(holder, two!.record!);
  const chief = held.body.details.map((each) => (each.kind === 'title' ? { ...each, text: 'Chief executive' } : each));
  const theirs = saveRecord(holder, two!.record!, held.version, { ...held.body, details: chief }, clock);
  await expect(theirs).rejects.toMatchObject({ problem: { code: 'OWNED', kind: 'title', reason: 'From the sheet' } });
  const card = await openCard(holder, two!.card!);
  const title = held.body.details.find(({ kind }) => kind === 'title')!.id;
  const worded = card.lines.map((line) => (line.detail === title ? { ...line, wording: 'Chief executive' } : line));
  const asked = { baseVersion: card.version, audience: card.audience };
  await expect(saveCard(holder, two!.card!, { ...asked, lines: worded }, clock)).rejects.toMatchObject(
    refused('OWNED'),
  );
  // A wording that an administrator gave is not theirs to put into the record either.
  await saveCard(maud, two!.card!, { ...asked, lines: worded }, clock);
  const adopted = adoptWording(holder, two!.card!, { baseVersion: card.version + 1, line: title }, clock);
  await expect(adopted).rejects.toMatchObject(refused('OWNED'));
  // Their own mobile is theirs, and stays where the next sheet still has the old one.
  const own = held.body.details.map((each) =>
    each.kind === 'phone' && each.uses.includes('mobile') ? { ...each, number: '+447700900299' } : each,
  );
  await saveRecord(holder, two!.record!, held.version, { ...held.body, details: own }, clock);
  clock.set('2026-12-01T09:00:00Z');
  const december = sheet(
    person(1, { 'Job title': 'Chief rope inspector' }),
    person(2, { Mobile: '07700 900202', 'Leaving date': '31.12.2026' }),
    person(4),
  );
  const { id } = await review(december, { publish: 'now', complete: 'company', instead: one!.card });
  expect(await verdicts(id)).toEqual({ new: 1, changed: 1, leaving: 2 });
  expect((await rowNamed(id, 'Keld Ros1')).changes).toEqual([
    { of: 'title', was: 'Rope inspector', is: 'Chief rope inspector' },
  ]);
  expect((await rowNamed(id, 'Keld Ros2')).remarks).toEqual([{ field: null, code: 'kept' }]);
  // Whom the sheet no longer has leaves only once somebody says so.
  expect(await rowNamed(id, 'Keld Ros3')).toMatchObject({ record: three!.record, take: false, verdict: 'leaving' });
  await takeAll(maud, id, 'leaving', true);
  await run(id);
  expect(await pageAt(`/c/${(await openCard(maud, one!.card!)).address}`)).toContain('Chief rope inspector');
  const state = async (of: string) => (await openCard(maud, of)).state;
  expect([await state(two!.card!), await state(three!.card!)]).toEqual(['published', 'resting']);
  const resting = await openCard(maud, three!.card!);
  expect(resting.instead).toBe(one!.card);
  expect((await openRecord(maud, two!.record!)).body.details).toEqual(own);
  // On the last day sign-in ends as well.
  clock.set('2026-12-31T09:00:00Z');
  await sweep(['leavers'], clock);
  expect(await state(two!.card!)).toBe('resting');
  expect(await actorOfUser(user, maud.organisationId)).toBeNull();
  await carryOut((await undoRun(maud, id, clock)).job, 'undo-roster');
  expect([await state(two!.card!), await state(three!.card!)]).toEqual(['published', 'published']);
  expect(await pageAt(`/c/${(await openCard(maud, one!.card!)).address}`)).not.toContain('Chief rope inspector');
});

test('namesakes, doubles and somebody else under a known number wait for somebody; pictures find whose they are, head and all', async () => {
  const { id } = await review(
    sheet(
      person(1, { 'Last name': 'Garrick', Email: 'garrick@tarnhope.example' }),
      person(7, { 'Staff number': 'T70', 'Last name': 'Ros2', Email: 'other@tarnhope.example' }),
      person(8),
      person(8, { 'Last name': 'Twice' }),
      person(9, { Photo: 'IMG_0009.jpg' }),
    ),
  );
  expect(await verdicts(id)).toEqual({ check: 2, error: 2, new: 1 });
  expect((await rowNamed(id, 'Keld Garrick')).remarks).toEqual([{ field: 'family', code: 'another person' }]);
  expect((await rowNamed(id, 'Keld Ros2')).remarks).toEqual([{ field: null, code: 'namesake' }]);
  expect((await rowNamed(id, 'Keld Twice')).remarks).toMatchObject([{ code: 'key twice', with: [4, 5] }]);
  await decideRow(maud, id, 2, { decision: 'known' }, clock);
  await decideRow(maud, id, 3, { decision: 'new' }, clock);
  await mendRows(maud, id, { rows: [5], field: 'staff number', find: null, text: 'T81' }, clock);
  await mendRows(maud, id, { rows: [5], field: 'email', find: 'keld.8', text: 'twice' }, clock);
  expect(await verdicts(id)).toEqual({ changed: 1, new: 4 });
  // A face in the upper half: red above, blue below.
  const photo = await sharp({ create: { width: 400, height: 800, channels: 3, background: '#0000ff' } })
    .composite([
      { input: { create: { width: 400, height: 400, channels: 3, background: '#ff0000' } }, top: 0, left: 0 },
    ])
    .jpeg()
    .toBuffer();
  await givePicture(maud, id, 'holiday/IMG_0009.JPG', photo);
  // Black and white, as portraits are.
  const grey = await sharp(photo).greyscale().toColourspace('b-w').jpeg().toBuffer();
  expect((await sharp(grey).metadata()).channels).toBe(1);
  expect(await givePicture(maud, id, 'ros8 keld.jpg', grey)).toEqual({ problem: null });
  await givePicture(maud, id, 'nobody.jpg', photo);
  expect((await givePicture(maud, id, 'T81.jpg', Buffer.from('no picture'))).problem).toMatchObject({
    code: 'PICTURE_UNREADABLE',
  });
  expect(await matchRunPictures(maud, id, clock)).toEqual({ matched: 2, files: 4 });
  const { rows } = await run(id);
  expect(rows.filter(({ outcome }) => outcome === 'made')).toHaveLength(4);
  const body = (await openRecord(maud, rows.find(({ name }) => name === 'Keld Ros9')!.record!)).body;
  const face = body.details.find(({ kind }) => kind === 'photo');
  const { files } = await import('@/server/files');
  const { dominant } = await sharp((await files().get((face as { picture: string }).picture))!).stats();
  expect(dominant).toMatchObject({ b: 8 });
});

test('a photo day: a sheet of staff numbers alone, with new pictures of whoever is known; of nobody else it makes a card', async () => {
  const before = await review(sheet(person(31), person(32)));
  await run(before.id);
  const { id } = await review(Buffer.from('Staff number\nT31\nT32\nT99\n'));
  const photo = await sharp({ create: { width: 300, height: 500, channels: 3, background: '#00aa00' } })
    .jpeg()
    .toBuffer();
  await givePicture(maud, id, 'T31.jpg', photo);
  expect(await matchRunPictures(maud, id, clock)).toEqual({ matched: 1, files: 1 });
  const { rows } = await openRun(maud, id, all);
  expect(rows.map(({ name, verdict, changes }) => [name, verdict, changes.map(({ of }) => of)])).toEqual([
    [expect.stringContaining('Keld'), 'changed', ['picture']],
    [expect.stringContaining('Keld'), 'same', []],
    ['T99', 'error', []],
  ]);
  const { rows: done } = await run(id);
  const { body } = await openRecord(maud, done.find(({ outcome }) => outcome === 'changed')!.record!);
  expect(body.details.map(({ kind }) => kind)).toContain('photo');
});

test('two who run the same sheet at once, over people who are being edited, make everybody once', async () => {
  const rows = sheet(person(21), person(22), person(23), person(24));
  const [one, other] = [await review(rows), await review(rows)];
  expect([await verdicts(one.id), await verdicts(other.id)]).toEqual([{ new: 4 }, { new: 4 }]);
  const runs = await Promise.all([one, other].map(({ id }) => run(id)));
  const outcomes = runs.flatMap(({ rows: each }) => each.map(({ outcome }) => outcome));
  expect(outcomes.filter((each) => each === 'made')).toHaveLength(4);
  expect(outcomes.filter((each) => each === 'as it was' || each === 'made')).toHaveLength(8);
  const made = runs.flatMap(({ rows: each }) => each).filter(({ outcome }) => outcome === 'made');
  // Somebody types into every record while the next sheet is carried out.
  const next = await review(sheet(...[21, 22, 23, 24].map((at) => person(at, { 'Job title': 'Rope splicer' }))));
  const typing = made.map(async ({ record }) => {
    for (let at = 0; at < 6; at += 1) {
      const { version, body } = await openRecord(maud, record!);
      const note = { kind: 'note' as const, id: `n${at}`, label: '', preferred: false, text: `Seen ${at}` };
      const details = [...body.details, note];
      await saveRecord(maud, record!, version, { ...body, details }, clock).catch((error: unknown) =>
        expect(error).toMatchObject(refused('RECORD_CHANGED')),
      );
    }
  });
  const [{ rows: after }] = await Promise.all([run(next.id), ...typing]);
  expect(after.map(({ outcome }) => outcome)).toEqual(Array(4).fill('changed'));
  for (const { record } of after)
    expect((await openRecord(maud, record!)).body.details).toContainEqual(
      expect.objectContaining({ text: 'Rope splicer' }),
    );
});

test.each<[string, () => Promise<Buffer> | Buffer, string]>([
  ['an empty file', () => Buffer.alloc(0), 'SHEET_EMPTY'],
  ['headings and no row', () => Buffer.from('Staff number;Name\n'), 'SHEET_EMPTY'],
  [
    'a picture',
    () =>
      sharp({ create: { width: 9, height: 9, channels: 3, background: '#fff' } })
        .png()
        .toBuffer(),
    'NOT_A_SHEET',
  ],
  ['the form of before 2007', () => Buffer.from('d0cf11e0a1b11ae1', 'hex'), 'SHEET_OLD'],
  ['an archive that is no workbook', () => Buffer.from('504b0506' + '0'.repeat(36), 'hex'), 'NOT_A_SHEET'],
  ['a workbook cut off', async () => (await workbook([['a']])).subarray(0, 900), 'SHEET_UNREADABLE'],
  ['100,000 rows', () => Buffer.from(`Staff number;Name\n${'1;A\n'.repeat(100_000)}`), 'TOO_MANY_ROWS'],
  ['no key', () => Buffer.from('First name;Last name\nKeld;Ros\n'), 'NO_KEY_COLUMN'],
])('%s is told', async (_, bytes, code) => {
  await expect(Promise.resolve(bytes()).then((made) => review(made))).rejects.toMatchObject(refused(code));
});

type Value = string | number | Date | null;
async function workbook(rows: Value[][], more: object = {}): Promise<Buffer> {
  const cells = rows.map((row) =>
    row.map((value) =>
      value === null
        ? null
        : { value, type: value.constructor as never, ...(value instanceof Date ? { format: 'dd.mm.yyyy' } : {}) },
    ),
  );
  return (writeXlsx as unknown as (of: unknown, how: object) => { toBuffer: () => Promise<Buffer> })(
    cells,
    more,
  ).toBuffer();
}

test('a workbook of another program: numbers, dates, day numbers and two sheets', async () => {
  const { id } = await review(
    await workbook([
      ['Staff no', 'Name', 'Email', 'Phone', 'Joining date', 'Last day'],
      [17, 'Ros, Keld', 'keld.17@tarnhope.example', 442079460117, new Date('2020-02-01T00:00:00Z'), 46400],
    ]),
  );
  const { rows } = await openRun(maud, id, all);
  expect(rows).toMatchObject([
    {
      name: 'Keld Ros',
      verdict: 'new',
      remarks: [
        { field: 'leaves', code: 'day number' },
        { field: 'phone', code: 'zero added' },
      ],
    },
  ]);
  const after = await run(id);
  const [kept] = await inTenant(maud.organisationId, (tx) =>
    tx('records')
      .where({ id: after.rows[0]!.record })
      .select('staff_number', tx.raw('joins_on::text'), tx.raw('leaves_on::text')),
  );
  // 46,400 days after 30 December 1899 (LibreOffice: =DATE(1899;12;30)+46400).
  expect(kept).toEqual({ staff_number: '17', joins_on: '2020-02-01', leaves_on: '2027-01-13' });
  expect(LIMITS.rosterRows).toBeGreaterThan(5_000);
  await setOptions(maud, id, FIRST_OPTIONS, clock).catch((error: unknown) =>
    expect(error).toMatchObject(refused('RUN_ENDED')),
  );
});
