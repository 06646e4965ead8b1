import type { Change } from '@/core/change';
import { NO_HOUSE } from '@/core/house';
import { inTenant } from '@/server/db/pool';
import { handOutsOfCard } from '@/server/db/hand-outs/hand-outs';
import type { Actor } from '@/server/services/accounts/actor';
import { previewChange } from '@/server/services/changes/plan';
import { askToChange, changeMany } from '@/server/services/changes/run-change';
import { askToUndo, readChanged, undoChange } from '@/server/services/changes/undo-change';
import { saveCard } from '@/server/services/cards/edit-card';
import { openCard } from '@/server/services/cards/open-card';
import { makeHandOut } from '@/server/services/hand-outs/make';
import { makeSignature, signatureTaken } from '@/server/services/hand-outs/signature';
import { readHouse, saveHouse } from '@/server/services/house/house-style';
import { runJob, type RunningJob } from '@/server/services/jobs/run-job';
import { planCard } from '@/server/services/publishing/plans';
import { createRecord } from '@/server/services/records/create-record';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { listCopies } from '@/server/services/wild/list-copies';
import { published } from '../dressed';
import { clock, pageAt, refused } from '../full-card';
import { newActor, useDatabase } from '../place';

useDatabase();
let actor: Actor;
let people: { recordId: string; cardId: string }[];
const ADDRESSES = ['many-0', 'many-1', 'many-2'];
const OWN = '+447700900182';

const pages = () => Promise.all(ADDRESSES.map((address) => pageAt(`/c/${address}`)));
const records = () => people.map(({ recordId }) => recordId);
const look = (change: Change) => previewChange(actor, { records: records(), change });
async function change(wanted: Change) {
  const { job } = await askToChange(actor, { records: records(), change: wanted }, clock);
  await runJob({ job, organisation: actor.organisationId }, changeMany, clock);
  return job;
}
async function undo(job: string) {
  const { job: undoing } = await askToUndo(actor, job, clock);
  await runJob({ job: undoing, organisation: actor.organisationId }, undoChange, clock);
  return (await readChanged(actor, undoing))!;
}

beforeAll(async () => {
  actor = await newActor(clock);
  people = [];
  for (const [at, name] of ['Ilse Varrow', 'Corin Hathersage', 'Tam Ellerby'].entries()) {
    const forWork = { phone: true, email: true };
    const input = { name, phone: '020 7946 0182', email: 'a@tarnhope.example', title: 'Rigger', forWork };
    const made = await createRecord(actor, input, clock);
    people.push(made);
    const { version, body } = await openRecord(actor, made.recordId);
    const own = {
      kind: 'phone' as const,
      id: 'own',
      label: '',
      preferred: false,
      number: OWN,
      uses: ['mobile' as const],
    };
    await saveRecord(actor, made.recordId, version, { ...body, details: [...body.details, own] }, clock);
    await published(actor, made.cardId, ADDRESSES[at]!);
  }
});

test('a title changes for everybody who has it: looked at before, published in one act, copies out there told, undone as a whole', async () => {
  const { id } = await makeSignature(actor, people[0]!.cardId, clock);
  await signatureTaken(actor, id, clock);
  // Somebody has a change under way that nobody has published.
  const card = await openCard(actor, people[2]!.cardId);
  const lines = card.lines.map((line) =>
    line.detail === 'own' ? { ...line, ticks: { ...line.ticks, page: true } } : line,
  );
  await saveCard(actor, card.id, { baseVersion: card.version, lines, audience: card.audience }, clock);
  const wanted: Change = { of: 'title', from: 'Rigger', to: 'Rope splicer' };
  const plan = await look(wanted);
  expect(plan).toMatchObject({ people: 3, cards: 2, published: 2, copies: 1, leftCount: 1 });
  expect(plan.sample[0]).toMatchObject({ was: 'Rigger', is: 'Rope splicer' });
  expect(plan.left[0]).toMatchObject({ person: 'Tam Ellerby', card: { id: card.id } });
  // Nothing was written for looking.
  expect((await pages()).every((page) => page.includes('Rigger'))).toBe(true);

  const job = await change(wanted);
  expect((await pages()).map((page) => page.includes('Rope splicer'))).toEqual([true, true, false]);
  // What waits for its holder did not go out with it.
  expect((await pages())[2]).not.toContain('7700 900182');
  expect(await readChanged(actor, job)).toMatchObject({ changed: 3, leftCount: 1, mayUndo: true });
  expect((await listCopies(actor, { which: 'wild' })).copies.map(({ placement }) => placement)).toEqual([
    'Mail signature',
  ]);
  // Carried out once more it changes nothing.
  expect(await look(wanted)).toMatchObject({ people: 0 });

  // One of them is changed by hand since: that stays.
  const { version, body } = await openRecord(actor, people[1]!.recordId);
  const details = body.details.map((each) => (each.kind === 'title' ? { ...each, text: 'Captain' } : each));
  await saveRecord(actor, people[1]!.recordId, version, { ...body, details }, clock);
  expect(await undo(job)).toMatchObject({ leftCount: 1, left: [{ person: 'Corin Hathersage' }] });
  const titles = await Promise.all(
    records().map(async (id) => (await openRecord(actor, id)).body.details.find(({ kind }) => kind === 'title')),
  );
  expect(titles.map((each) => each?.kind === 'title' && each.text)).toEqual(['Rigger', 'Captain', 'Rigger']);
  expect((await pages()).map((page) => /Rope splicer/.test(page))).toEqual([false, true, false]);
  expect((await listCopies(actor, { which: 'wild' })).copies).toEqual([]);
  await published(actor, people[1]!.cardId, ADDRESSES[1]!);
  await saveCard(actor, card.id, { baseVersion: card.version + 1, lines: card.lines, audience: card.audience }, clock);
});

test('a link comes to everybody’s page once, a second try after a kill publishes what was written, and taking it back takes it away', async () => {
  const wanted: Change = { of: 'link', from: null, to: 'fair.example/autumn', label: 'Autumn fair' };
  const { job } = await askToChange(actor, { records: records(), change: wanted }, clock);
  // It is cut off where it asks for the time: when all are written and none is published, and once more before the revisions are written.
  const cutAt = (call: number) => {
    let calls = 0;
    const now = () => {
      if ((calls += 1) >= call) throw new Error('killed');
      return clock.now();
    };
    const run = (running: RunningJob) => changeMany({ ...running, clock: { ...clock, now } });
    return runJob({ job, organisation: actor.organisationId }, run, clock);
  };
  for (const call of [10, 4]) {
    await expect(cutAt(call)).rejects.toThrow('killed');
    for (const id of records())
      expect((await openRecord(actor, id)).body.details.filter((each) => each.kind === 'link')).toHaveLength(1);
    expect((await pages()).some((page) => page.includes('fair.example'))).toBe(false);
  }
  await runJob({ job, organisation: actor.organisationId }, changeMany, clock);
  expect((await pages()).map((page) => page.split('fair.example/autumn').length > 1)).toEqual([true, true, true]);
  for (const id of records())
    expect((await openRecord(actor, id)).body.details.filter((each) => each.kind === 'link')).toHaveLength(1);
  const revisions = await Promise.all(
    people.map(async ({ cardId }) => (await openCard(actor, cardId)).revision!.number),
  );
  // Undoing is cut off as well, when everybody has their record back and no card is published yet.
  const { job: undoing } = await askToUndo(actor, job, clock);
  const late = { ...clock, now: () => clock.now() };
  const cutUndo = (running: RunningJob) => {
    let calls = 0;
    late.now = () => {
      if ((calls += 1) > 18) throw new Error('killed');
      return clock.now();
    };
    return undoChange({ ...running, clock: late });
  };
  await expect(runJob({ job: undoing, organisation: actor.organisationId }, cutUndo, clock)).rejects.toThrow('killed');
  for (const id of records())
    expect((await openRecord(actor, id)).body.details.filter((each) => each.kind === 'link')).toEqual([]);
  expect((await pages()).every((page) => page.includes('fair.example'))).toBe(true);
  await runJob({ job: undoing, organisation: actor.organisationId }, undoChange, clock);
  expect(await readChanged(actor, undoing)).toMatchObject({ changed: 0, leftCount: 0 });
  expect((await pages()).some((page) => page.includes('fair.example'))).toBe(false);
  for (const id of records())
    expect((await openRecord(actor, id)).body.details.filter((each) => each.kind === 'link')).toEqual([]);
  // Each of them went out once more.
  const now = await Promise.all(people.map(async ({ cardId }) => (await openCard(actor, cardId)).revision!.number));
  expect(now).toEqual(revisions.map((number) => number + 1));
});

test('ticks and layouts change on every card; private numbers only where somebody says so; what is locked stays, with its reason', async () => {
  const off = await change({ of: 'ticks', kind: 'phone', use: 'work', channel: 'page', on: false, privateToo: false });
  expect((await pages()).some((page) => page.includes('20 7946 0182'))).toBe(false);
  await undo(off);
  expect((await pages()).every((page) => page.includes('20 7946 0182'))).toBe(true);
  const all = { of: 'ticks', kind: 'phone', use: null, channel: 'page', on: true } as const;
  expect(await look({ ...all, privateToo: false })).toMatchObject({ people: 0 });
  expect(await look({ ...all, privateToo: true })).toMatchObject({ people: 3, published: 3 });
  await saveHouse(actor, { baseNumber: 0, style: { ...NO_HOUSE, layouts: ['trod', 'cairn'] }, note: '' }, clock);
  expect(await look({ of: 'layout', layout: 'crag' })).toMatchObject({ people: 0, leftCount: 3 });
  const laid = await change({ of: 'layout', layout: 'cairn' });
  const layouts = () => Promise.all(people.map(async ({ cardId }) => (await openCard(actor, cardId)).look.layout));
  expect(await layouts()).toEqual(['cairn', 'cairn', 'cairn']);
  await undo(laid);
  expect(new Set(await layouts()).has('cairn')).toBe(false);
});

test('what is planned to go out later as it was is left and named: it would go out over the change', async () => {
  const plan = {
    publishAt: '2026-12-24T09:00:00.000Z',
    address: ADDRESSES[0]!,
    note: '',
    endsAt: null,
    endsWith: null,
  };
  await planCard(actor, people[0]!.cardId, plan, clock);
  const planned = await look({ of: 'title', from: null, to: 'Planned otherwise' });
  expect(planned).toMatchObject({ people: 3, published: 2, leftCount: 1 });
  expect(planned.left[0]!.finding).toMatchObject({ sentence: expect.stringContaining('planned to go out later') });
});

test('codes are drawn as the house draws them, frozen ones not, and drawn as before where that is undone', async () => {
  await makeHandOut(actor, { cardId: people[0]!.cardId, placement: 'Door', channel: 'code', frozen: true }, clock);
  const style = { ...NO_HOUSE, codes: { ...NO_HOUSE.codes, ink: '#1F3A5F' } };
  await saveHouse(actor, { baseNumber: 1, style, note: '' }, clock);
  const inks = async () => {
    const rows = await inTenant(actor.organisationId, (tx) => handOutsOfCard(tx, people[0]!.cardId));
    return rows
      .filter(({ channel }) => channel === 'code')
      .map(({ frozen, drawn }) => [frozen !== null, drawn?.style.ink]);
  };
  const before = await inks();
  const job = await change({ of: 'codes' });
  expect((await inks()).filter(([frozen]) => !frozen).every(([, ink]) => ink === '#1F3A5F')).toBe(true);
  expect((await inks()).filter(([frozen]) => frozen)).toEqual(before.filter(([frozen]) => frozen));
  await undo(job);
  expect(await inks()).toEqual(before);
});

test('what is the organisation’s stays for whoever has no right to it: holders and team leaders, at one card or many, with the reason', async () => {
  const [mine, mate, other] = people as [(typeof people)[0], (typeof people)[0], (typeof people)[0]];
  const reason = 'Titles come from the personnel office';
  const { number } = await readHouse(actor);
  await saveHouse(actor, { baseNumber: number, style: { ...NO_HOUSE, owned: { title: reason } }, note: '' }, clock);
  const chief: Change = { of: 'title', from: null, to: 'Chief executive' };
  const holder: Actor = { ...actor, role: 'holder', ownRecord: mine.recordId };
  const leader: Actor = { ...holder, role: 'team leader', team: new Set([mate.recordId]) };
  const titleOf = async (id: string) => {
    const title = (await openRecord(actor, id)).body.details.find(({ kind }) => kind === 'title');
    return title?.kind === 'title' ? title.text : null;
  };
  for (const [who, records] of [
    [holder, [mine.recordId]],
    [leader, [mine.recordId, mate.recordId]],
  ] as const) {
    const before = await Promise.all(records.map(titleOf));
    const plan = await previewChange(who, { records: [...records], change: chief });
    expect(plan).toMatchObject({ people: 0, cards: 0, leftCount: records.length });
    expect(JSON.stringify(plan.left[0]!.finding)).toContain(reason);
    // The same where somebody asks without looking, and as the job carries it out.
    const { job } = await askToChange(who, { records: [...records], change: chief }, clock);
    await runJob(
      { job, organisation: actor.organisationId },
      (running) => changeMany({ ...running, actor: who }),
      clock,
    );
    expect(await Promise.all(records.map(titleOf))).toEqual(before);
    expect(await readChanged(actor, job)).toMatchObject({ changed: 0, leftCount: records.length });
  }
  // A colleague who is in no team of theirs is not there at all.
  for (const who of [holder, leader])
    await expect(previewChange(who, { records: [other.recordId], change: chief })).rejects.toMatchObject(
      refused('NOT_FOUND'),
    );
  // What is theirs they change: a link, and the owner changes what is the organisation's.
  const link: Change = { of: 'link', from: null, to: 'ropes.example/open-day', label: '' };
  expect(await previewChange(leader, { records: [mine.recordId, mate.recordId], change: link })).toMatchObject({
    people: 2,
  });
  expect(await previewChange(actor, { records: records(), change: chief })).toMatchObject({ people: 3 });
});

test('nobody changes people of somebody else, or without the right to', async () => {
  const stranger = await newActor(clock);
  const wanted = { records: records(), change: { of: 'title', from: null, to: 'Mine' } as Change };
  await expect(previewChange(stranger, wanted)).rejects.toMatchObject(refused('NOT_FOUND'));
  await expect(askToChange(stranger, wanted, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  const keeper: Actor = { ...actor, role: 'brand keeper' };
  await expect(askToChange(keeper, wanted, clock)).rejects.toMatchObject(refused('NOT_ALLOWED'));
  const read = {
    records: records(),
    change: { of: 'link', from: null, to: 'javascript:alert(1)', label: '' } as Change,
  };
  await expect(previewChange(actor, read)).rejects.toMatchObject(refused('LINK_SCHEME_REFUSED'));
});
