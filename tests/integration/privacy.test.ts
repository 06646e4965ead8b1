import { lineOf, PAGE_AND_FILE, type Channel } from '@/core/card';
import type { PersonRecord } from '@/core/record';
import type { MendAct } from '@/core/shown';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { saveCard } from '@/server/services/cards/edit-card';
import { openCard } from '@/server/services/cards/open-card';
import { makeHandOut } from '@/server/services/hand-outs/make';
import { runJob } from '@/server/services/jobs/run-job';
import { readJob } from '@/server/services/jobs/jobs';
import { planCard } from '@/server/services/publishing/plans';
import { publishCard } from '@/server/services/publishing/publish-card';
import { createRecord } from '@/server/services/records/create-record';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { listCopies } from '@/server/services/wild/list-copies';
import { askToMend, previewMend, type MendAsked } from '@/server/services/wild/mend';
import { privacyMap, publicAbout } from '@/server/services/wild/privacy-map';
import { askToUndoMend, readMended } from '@/server/services/wild/run-mend';
import { JOB_TASKS } from '@/workers/tasks';
import { ask, clock, pageAt, refused } from './full-card';
import { newActor, useDatabase } from './place';

useDatabase();

/** Mobile numbers that are reserved for drama (Ofcom). */
const [OWN, WORDS] = ['+447700900182', '07700 900311'];
const common = { label: '', preferred: false };

let actor: Actor;
let recordId: string;
let cardId: string;
let made = 0;

/** Somebody whose mobile, birthday and words with a number are ticked for these channels, published. */
async function exposed(on: Channel[]): Promise<{ recordId: string; cardId: string; address: string }> {
  const name = `Ilse Varrow ${(made += 1)}`;
  const ids = await createRecord(actor, { name, phone: '020 7946 0182', email: '' }, clock);
  const { version, body } = await openRecord(actor, ids.recordId);
  const details: PersonRecord['details'] = [
    ...body.details,
    { kind: 'phone', id: 'own', ...common, number: OWN, uses: ['mobile'] },
    { kind: 'birthday', id: 'born', ...common, date: '1984-06-30' },
  ];
  await saveRecord(actor, ids.recordId, version, { ...body, details }, clock);
  const card = await openCard(actor, ids.cardId);
  const ticks = Object.fromEntries(on.map((channel) => [channel, true]));
  const words = { kind: 'own' as const, id: 'nights', ...common, label: 'Nights', text: `Ring ${WORDS}` };
  const lines = [
    ...card.lines.map((line) =>
      ['own', 'born'].includes(line.detail) ? { ...line, ticks: { ...line.ticks, ...ticks } } : line,
    ),
    lineOf('nights', PAGE_AND_FILE, words),
  ];
  await saveCard(actor, ids.cardId, { baseVersion: card.version, lines, audience: card.audience }, clock);
  const address = `private-${made}`;
  await publishCard(actor, ids.cardId, { baseVersion: card.version + 1, address }, clock);
  return { ...ids, address };
}

async function carryOut(job: string) {
  const { task } = await readJob(actor, job);
  await runJob({ job, organisation: actor.organisationId }, JOB_TASKS[task], clock);
  return readJob(actor, job);
}
const mend = async (asked: Partial<MendAsked> & { act: MendAct }) =>
  carryOut((await askToMend(actor, { records: [recordId], privacies: ['mobile'], ...asked }, clock)).job);
const told = async () =>
  (await privacyMap(actor, {})).people.flatMap(({ values }) =>
    values.map(({ privacy, value, inside, on }) => [privacy, value, inside, on.join()].join(' | ')),
  );

beforeEach(async () => {
  actor = await newActor(clock);
  ({ recordId, cardId } = await exposed(['page', 'file', 'tag']));
});

test('what is private stands with every form that it is public in, a number within words too; it is taken off in one act, and undone', async () => {
  await makeHandOut(actor, { cardId, placement: 'Badge', channel: 'tag', frozen: true }, clock);
  const before = [
    'birthday | 1984-06-30 | false | page,file,tag',
    'mobile | +44 7700 900182 | false | page,file,tag',
    'unmarked | +44 7700 900311 | true | page,file',
  ];
  expect((await told()).sort()).toEqual(before);
  const plan = await previewMend(actor, { records: [recordId], privacies: ['mobile', 'unmarked'], act: 'take off' });
  expect(plan.mended).toMatchObject([{ card: { id: cardId }, values: ['+44 7700 900182'], copies: ['tag'] }]);
  expect(plan.left).toMatchObject([{ why: 'inside', values: ['+44 7700 900311'] }]);
  const { id, state, result } = await mend({ act: 'take off' });
  expect([state, result]).toEqual(['done', { mended: 1, leftOut: 0 }]);
  // A recipient gets it no more; the tag that carries it is on the list of copies; the birthday was not meant.
  expect(String((await ask(`/c/private-${made}.vcf`)).body)).not.toContain('900182');
  expect((await told()).sort()).toEqual([before[0], 'mobile | +44 7700 900182 | false | tag', before[2]]);
  const { copies } = await listCopies(actor, { which: 'wild' });
  expect(copies.map(({ channel, values }) => [channel, values.map(({ was, old }) => [was, old])])).toEqual([
    ['tag', expect.arrayContaining([['+44 7700 900182', true]])],
  ]);
  const undone = await carryOut((await askToUndoMend(actor, id, clock)).job);
  expect([undone.state, (await told()).sort()]).toEqual(['done', before]);
  expect(String((await ask(`/c/private-${made}.vcf`)).body)).toContain('900182');
  expect((await readMended(actor, id))?.mayUndo).toBe(false);
  await expect(askToUndoMend(actor, id, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
});

test('marked as for work it is private no longer, nothing that is public changes, and the mark is taken back', async () => {
  // How its typefaces come depends on the moment.
  const shown = async () => /<main.*<\/main>/s.exec(await pageAt(`/c/private-${made}`))?.[0];
  const page = await shown();
  const { id } = await mend({ act: 'for work', privacies: ['mobile', 'birthday'] });
  expect(await told()).toEqual([
    'birthday | 1984-06-30 | false | page,file',
    'unmarked | +44 7700 900311 | true | page,file',
  ]);
  expect(await shown()).toBe(page);
  expect(page).toContain('900182');
  await carryOut((await askToUndoMend(actor, id, clock)).job);
  expect(await told()).toContain('mobile | +44 7700 900182 | false | page,file');
});

test('what the record says by now and nobody has seen in public is neither given out by an undo nor marked as for work', async () => {
  const { id } = await mend({ act: 'take off' });
  const renumber = async (number: string) => {
    const { version, body } = await openRecord(actor, recordId);
    const details = body.details.map((each) =>
      each.id === 'own' && each.kind === 'phone' ? { ...each, number } : each,
    );
    await saveRecord(actor, recordId, version, { ...body, details }, clock);
  };
  await renumber('+447700900777');
  const { job } = await askToUndoMend(actor, id, clock);
  expect((await carryOut(job)).result).toEqual({ mended: 0, leftOut: 1 });
  const { version, lines } = await openCard(actor, cardId);
  expect(lines.find(({ detail }) => detail === 'own')!.ticks).toMatchObject({ page: false, file: false });
  expect(String((await ask(`/c/private-${made}.vcf`)).body)).not.toMatch(/900182|900777/);
  // The number as it was is given out again; then another one is typed, which no card shows yet.
  await renumber(OWN);
  await carryOut((await askToUndoMend(actor, id, clock)).job);
  expect((await openCard(actor, cardId)).version).toBeGreaterThan(version);
  await renumber('+447700900778');
  const plan = await previewMend(actor, { records: [recordId], privacies: ['mobile'], act: 'for work' });
  expect([plan.mended, plan.left]).toMatchObject([[], [{ why: 'changed', values: ['+44 7700 900182'] }]]);
});

test('a card with changes that nobody published stays as it is, and what was begun before a process was killed is ended once', async () => {
  const other = await exposed(['page']);
  const { version, lines, audience } = await openCard(actor, other.cardId);
  await saveCard(actor, other.cardId, { baseVersion: version, lines, audience: `${audience} two` }, clock);
  const reworded = (await openCard(actor, other.cardId)).lines.map((line) =>
    line.detail === 'nights' ? { ...line, label: 'Late' } : line,
  );
  await saveCard(actor, other.cardId, { baseVersion: version + 1, lines: reworded, audience }, clock);
  const planned = await exposed(['page']);
  const at = new Date(clock.now() + 86_400_000).toISOString();
  const later = { publishAt: at, address: planned.address, note: '', endsAt: null, endsWith: null };
  await planCard(actor, planned.cardId, later, clock);
  const asked = { records: [planned.recordId], privacies: ['mobile' as const], act: 'take off' as const };
  expect((await previewMend(actor, asked)).left.map(({ why }) => why)).toEqual(['planned']);
  const both = { records: [recordId, other.recordId], privacies: ['mobile' as const], act: 'take off' as const };
  const plan = await previewMend(actor, both);
  expect(plan.mended.map((entry) => entry.recordId)).toEqual([recordId]);
  expect(plan.left.filter(({ why }) => why === 'changed').map((entry) => entry.recordId)).toEqual([other.recordId]);
  const { job } = await askToMend(actor, both, clock);
  // Carried out twice, as after a kill: the second try finds nothing left to do.
  await carryOut(job);
  const revision = (await openCard(actor, cardId)).revision;
  await inTenant(actor.organisationId, (tx) => tx('jobs').where({ id: job }).update({ state: 'waiting' }));
  await carryOut(job);
  expect((await openCard(actor, cardId)).revision).toEqual(revision);
  expect((await readMended(actor, job))?.rows).toHaveLength(1);
});

test('by kind, by form and by words people are found; what is public about one tells all of it; a stranger sees nobody', async () => {
  await exposed(['file']);
  const by = async (asked: Parameters<typeof privacyMap>[1]) => (await privacyMap(actor, asked)).matching;
  expect([await by({}), await by({ privacy: 'birthday', channel: 'page' }), await by({ channel: 'file' })]).toEqual([
    2, 1, 2,
  ]);
  expect([
    await by({ typed: `varrow ${made}` }),
    await by({ typed: 'nobody' }),
    await by({ channel: 'print' }),
  ]).toEqual([1, 0, 0]);
  const { values } = await publicAbout(actor, recordId);
  expect(values.map(({ value, privacy }) => [value, privacy])).toEqual(
    expect.arrayContaining([
      ['+44 20 7946 0182', null],
      ['1984-06-30', 'birthday'],
      [`Ring ${WORDS}`, null],
      ['+44 7700 900311', 'unmarked'],
    ]),
  );
  const stranger = await newActor(clock);
  expect(await privacyMap(stranger, {})).toMatchObject({ people: [], exposed: 0, of: 0 });
  await expect(publicAbout(stranger, recordId)).rejects.toMatchObject(refused('NOT_FOUND'));
});

test('who was there before the map is looked at when it is opened', async () => {
  await inTenant(actor.organisationId, async (tx) => {
    await tx('published_values').whereNot({ source: 'inside' }).update({ privacy: null });
    await tx('published_values').where({ source: 'inside' }).delete();
    await tx('records').update({ judged: false });
  });
  expect((await privacyMap(actor, {})).waiting).toBe(0);
  expect(await told()).toHaveLength(3);
});

test('a number in the words of a block is public on the page, and found', async () => {
  const { version, lines, audience } = await openCard(actor, cardId);
  const about = { kind: 'about' as const, id: 'about', on: true, before: false, title: 'Evenings' };
  const blocks = [{ ...about, text: 'At home I answer 07700 900182, or 07700 900477.' }];
  await saveCard(actor, cardId, { baseVersion: version, lines, audience, blocks }, clock);
  await publishCard(actor, cardId, { baseVersion: version + 1, address: `private-${made}` }, clock);
  const { people } = await privacyMap(actor, { channel: 'page' });
  const found = people[0]!.values.filter(({ line }) => line === 'about');
  expect(found.map(({ label, value, inside, on }) => [label, value, inside, on])).toEqual([
    ['Evenings', '+44 7700 900182', true, ['page']],
    ['Evenings', '+44 7700 900477', true, ['page']],
  ]);
});
