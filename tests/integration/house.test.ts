import { randomInt } from 'node:crypto';
import sharp from 'sharp';
import { asOwner } from '../../commands/cluster/databases';
import { NO_HOUSE, type HouseStyle } from '@/core/house';
import type { Block } from '@/core/card';
import { LIMITS } from '@/core/limits';
import { PALETTES, type Look } from '@/core/look';
import type { Actor } from '@/server/services/accounts/actor';
import { createCard } from '@/server/services/cards/create-card';
import { addBlockPicture } from '@/server/services/media/add-picture';
import { faceOfDraft } from '@/server/services/media/card-faces';
import { cardsBeside, faceUnderHouse } from '@/server/services/house/house-cards';
import { previewHouse, readHouseProofs } from '@/server/services/house/house-proofs';
import { readHouse, saveHouse } from '@/server/services/house/house-style';
import { coloursOfPicture } from '@/server/services/house/looks';
import { readJob } from '@/server/services/jobs/jobs';
import { listPeople } from '@/server/services/records/list-people';
import { addMember } from '@/server/services/accounts/members';
import { openCard } from '@/server/services/cards/open-card';
import { readPicture } from '@/server/services/media/pictures';
import { runJob } from '@/server/services/jobs/run-job';
import { JOB_TASKS } from '@/workers/tasks';
import { clock, pageAt, refused } from './full-card';
import { person, published, saved } from './dressed';
import { databaseUrl, newActor, useDatabase } from './place';

useDatabase();

const livery: HouseStyle = {
  ...NO_HOUSE,
  look: { ...NO_HOUSE.look, palette: PALETTES.tarn, layout: 'cairn' },
  layouts: ['cairn', 'trod'],
  lines: [
    {
      id: 'house-note',
      label: 'Notice',
      detail: { kind: 'own', id: 'house-note', label: 'Notice', preferred: false, text: 'Registered in Skell Bridge' },
      page: true,
      file: true,
    },
  ],
  locks: { palette: 'Livery of the cabins' },
};

test('a house style is worn by reference: saved, every card shows it at once, page and contact file alike', async () => {
  const actor = await newActor(clock);
  const { cardId } = await person(actor);
  await published(actor, cardId, 'wears-it');
  expect(await pageAt('/c/wears-it')).toContain(PALETTES.moor.band);
  const { version, revision } = await openCard(actor, cardId);
  await saveHouse(actor, { baseNumber: 0, style: livery, note: 'First' }, clock);
  const html = await pageAt('/c/wears-it');
  expect(html).toContain(PALETTES.tarn.band);
  expect(html).not.toContain(PALETTES.moor.band);
  expect(html).toContain('Registered in Skell Bridge');
  expect(await pageAt('/c/wears-it.vcf')).toContain('Registered in Skell Bridge');
  // No card was written for it.
  expect(await openCard(actor, cardId)).toMatchObject({ version, revision: { number: revision!.number } });
  // What is not locked, a card may leave out; what is, not.
  await saved(actor, cardId, { hides: ['house-note'] });
  await published(actor, cardId, 'wears-it', { hides: ['house-note'] });
  expect(await pageAt('/c/wears-it')).not.toContain('Registered in');
  const locked = { ...livery, locks: { ...livery.locks, lines: 'The law asks for it' } };
  await saveHouse(actor, { baseNumber: 1, style: locked, note: '' }, clock);
  expect(await pageAt('/c/wears-it')).toContain('Registered in Skell Bridge');
  // A new card follows it.
  const { recordId } = await openCard(actor, cardId);
  const fresh = await createCard(actor, { recordId, audience: 'Fair', isPrivate: false }, clock);
  expect((await openCard(actor, fresh.cardId)).look).toMatchObject({ layout: 'cairn', palette: PALETTES.tarn });
});

test('a lock holds in the service, with its reason; an override is for those who may, and is written down', async () => {
  const owner = await newActor(clock);
  const { cardId, recordId } = await person(owner);
  await saveHouse(owner, { baseNumber: 0, style: livery, note: '' }, clock);
  const holder: Actor = { ...owner, role: 'holder', ownRecord: recordId };
  const own = { palette: PALETTES.rowan };
  for (const actor of [owner, holder])
    await expect(saved(actor, cardId, own)).rejects.toMatchObject({
      problem: { code: 'LOCKED', part: 'palette', reason: 'Livery of the cabins' },
    });
  await expect(saved(holder, cardId, { ...own, overrides: ['palette'] })).rejects.toMatchObject(
    refused('OVERRIDE_NOT_ALLOWED'),
  );
  await expect(saved(holder, cardId, { layout: 'crag' })).rejects.toMatchObject(refused('LAYOUT_NOT_ALLOWED'));
  await saved(holder, cardId, { layout: 'cairn' });
  await published(owner, cardId, 'overridden', { ...own, overrides: ['palette'] });
  expect(await pageAt('/c/overridden')).toContain(PALETTES.rowan.act);
  const trail = await asOwner(databaseUrl, async (client) => {
    const { rows } = await client.query<{ act: string }>(
      `SELECT act FROM audit_trail WHERE subject_id = $1 AND act = 'look.overridden'`,
      [cardId],
    );
    return rows;
  });
  expect(trail).toHaveLength(1);
  // Every lock is enforced, whichever part it is on.
  const { style } = await readHouse(owner);
  const everything = Object.fromEntries(
    ['layout', 'palette', 'type', 'shape', 'ground', 'photo'].map((part) => [part, 'Kept']),
  );
  await saveHouse(owner, { baseNumber: 1, style: { ...style!, locks: everything }, note: '' }, clock);
  const changes: Partial<Look>[] = [
    { layout: 'trod' },
    { night: false },
    { text: 'lora' },
    { corners: 'round' },
    { ground: { kind: 'gradient', to: '#000000', angle: 9 } },
    { photo: { shape: 'square', side: 'end', share: 'large' } },
  ];
  const other = (await person(owner, 'Corin Hathersage')).cardId;
  for (const change of changes) await expect(saved(owner, other, change)).rejects.toMatchObject(refused('LOCKED'));
});

test('a house style is looked at on three telling cards before it is saved: what is drawn is what they show afterwards', async () => {
  const actor = await newActor(clock);
  for (const [at, name] of ['Ilse Varrow', 'Corin Hathersage', 'Maud Aldercott', 'Tam Ellerby'].entries())
    await published(actor, (await person(actor, name)).cardId, `beside-${at}`);
  const { cards } = await cardsBeside(actor);
  expect(new Set(cards.map(({ id }) => id)).size).toBe(3);
  const { id } = cards[0]!;
  const [ahead, plain] = [
    await faceUnderHouse(actor, id, livery, 'card-lying', null),
    await faceUnderHouse(actor, id, NO_HOUSE, 'card-lying', null),
  ];
  expect(ahead.svg).not.toBe(plain.svg);
  await saveHouse(actor, { baseNumber: 0, style: livery, note: '' }, clock);
  expect((await faceOfDraft(actor, id, 'card-lying', { layout: null, language: null })).svg).toBe(ahead.svg);
});

test('a change of house style is told before it is made; two who save at once do not overwrite each other', async () => {
  const actor = await newActor(clock);
  for (const [at, name] of ['Ilse Varrow', 'Corin Hathersage'].entries())
    await published(actor, (await person(actor, name)).cardId, `told-${at}`);
  expect(await previewHouse(actor, NO_HOUSE, clock)).toMatchObject({ cards: 2, changed: 0, proved: 2, fails: [] });
  const pale = { ...livery, look: { ...livery.look, palette: { ...PALETTES.tarn, ink: '#CCCCCC' } } };
  // What saving would be refused for, the preview says in the same words.
  const { refused: foretold } = await previewHouse(actor, pale, clock);
  expect(foretold).toMatchObject({ code: 'CONTRAST_FAILS' });
  const attempt = saveHouse(actor, { baseNumber: 0, style: pale, note: '' }, clock);
  await expect(attempt).rejects.toMatchObject({ problem: foretold });
  const both = await Promise.allSettled(
    ['A', 'B'].map((note) => saveHouse(actor, { baseNumber: 0, style: livery, note }, clock)),
  );
  expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  expect(both.find(({ status }) => status === 'rejected')).toMatchObject({ reason: refused('HOUSE_CHANGED') });
  expect((await readHouse(actor)).versions).toHaveLength(1);
});

/** Words that no compressor makes smaller: pages with them weigh more than one round trip carries. */
const heavy: HouseStyle = {
  ...livery,
  blocks: Array.from({ length: LIMITS.houseBlocks }, (_, at) => ({
    kind: 'about',
    id: `house-${at}`,
    title: '',
    on: true,
    before: false,
    text: String.fromCodePoint(...Array.from({ length: LIMITS.blockText }, () => randomInt(0x4e00, 0x9fff))),
  })),
};

test('after a house style is saved a job proves what is out, and the cards that fail are told until they do not', async () => {
  const actor = await newActor(clock);
  const ids: string[] = [];
  for (const [at, name] of ['Ilse Varrow', 'Corin Hathersage'].entries()) {
    const { cardId } = await person(actor, name);
    await published(actor, cardId, `proven-${at}`);
    ids.push(cardId);
  }
  const prove = async (id: string) => {
    const organisation = actor.organisationId;
    await runJob({ job: id, organisation }, JOB_TASKS['prove-cards'], clock);
    return readHouseProofs(actor);
  };
  const told = await previewHouse(actor, heavy, clock);
  expect(told).toMatchObject({ cards: 2, changed: 2, proved: 2 });
  expect(told.fails).toMatchObject([{ channel: 'page', check: 'weight', count: 2 }]);
  expect(told.fails[0]!.cards.map(({ person: who }) => who).sort()).toEqual(['Corin Hathersage', 'Ilse Varrow']);

  const first = await saveHouse(actor, { baseNumber: 0, style: heavy, note: '' }, clock);
  const failing = await prove(first.job);
  expect(failing.job).toMatchObject({ state: 'done', result: { cards: 2, failing: 2 } });
  // What the preview foretold is what the job finds, and publishing says the same.
  const cards = told.fails[0]!.cards.sort((a, b) => (a.person < b.person ? -1 : 1));
  expect(failing.failing).toEqual([{ channel: 'page', check: 'weight', count: 2, cards }]);
  const marked = (await listPeople(actor, {}, clock)).people.flatMap(({ cards: own }) =>
    own.map(({ failing: mark }) => mark),
  );
  const tooLarge = expect.objectContaining({ code: 'FITS', room: 14_600 });
  expect(marked).toEqual([tooLarge, tooLarge]);
  await expect(published(actor, ids[0]!, 'proven-0')).rejects.toMatchObject(refused('PROOF_FAILED'));
  expect(await previewHouse(actor, livery, clock)).toMatchObject({ mends: 2, fails: [] });

  // A version that is saved before the last one's proofs are made stops them.
  const second = await saveHouse(actor, { baseNumber: 1, style: { ...livery, lines: [] }, note: '' }, clock);
  const third = await saveHouse(actor, { baseNumber: 2, style: livery, note: '' }, clock);
  expect((await readJob(actor, second.job)).state).toBe('cancelled');
  expect(await prove(third.job)).toMatchObject({ job: { state: 'done', result: { failing: 0 } }, failing: [] });
});

test('a holder sees and shows what they gave and what the house style has, no colleague’s file, by whatever place it is named', async () => {
  const owner = await newActor(clock);
  const own = await person(owner);
  const colleague = await person(owner, 'Corin Hathersage');
  const drawn = async (colour: string) => {
    const square = { width: 60, height: 30, channels: 3 as const, background: colour };
    const {
      picture: hash,
      width,
      height,
    } = await addBlockPicture(owner, await sharp({ create: square }).png().toBuffer(), clock);
    return { hash, width, height };
  };
  const [theirs, logo] = [await drawn('#8A1F2B'), await drawn('#123B4F')];
  const item = { id: 'i', picture: theirs, alt: '', title: 'Car 7', text: '', url: '' };
  const blocks: Block[] = [{ kind: 'gallery', id: 'g', on: true, before: false, title: '', items: [item] }];
  await saved(owner, colleague.cardId, {}, { blocks });
  await saveHouse(
    owner,
    { baseNumber: 0, style: { ...NO_HOUSE, logos: { onLight: logo, onDark: null } }, note: '' },
    clock,
  );
  const members = { name: 'Ilse', email: `ilse-${randomInt(1e9)}@heath.example`, password: 'long enough it is' };
  const { id } = await addMember(owner, { ...members, role: 'holder', ownRecord: own.recordId }, clock);
  const holder: Actor = { ...owner, userId: id, role: 'holder', ownRecord: own.recordId };
  expect((await readPicture(holder, logo.hash)).length).toBeGreaterThan(0);
  expect((await openCard(holder, own.cardId)).pictures!.map(({ hash }) => hash)).toEqual([logo.hash]);
  await expect(readPicture(holder, theirs.hash)).rejects.toMatchObject(refused('NOT_FOUND'));
  await expect(coloursOfPicture(holder, theirs.hash)).rejects.toMatchObject(refused('NOT_FOUND'));
  const places: [Partial<Look>, object][] = [
    [{}, { blocks }],
    [{}, { opens: { first: 'picture', picture: theirs, alt: '' } }],
    [{ ground: { kind: 'picture', picture: theirs, veil: 1, darkest: '#000000', lightest: '#000000' } }, {}],
  ];
  for (const [look, more] of places)
    await expect(saved(holder, own.cardId, look, more)).rejects.toMatchObject(refused('FILE_GONE'));
});
