import { randomInt } from 'node:crypto';
import { HtmlValidate } from 'html-validate';
import jsonld from 'jsonld';
import { mf2 } from 'microformats-parser';
import sharp from 'sharp';
import { asOwner } from '../../commands/cluster/databases';
import { NO_HOUSE, type HouseStyle } from '@/core/house';
import type { Block } from '@/core/card';
import { LIMITS } from '@/core/limits';
import { contrast, LAYOUT_NAMES, PALETTES, type Look } from '@/core/look';
import { provePage } from '@/core/proof';
import type { Actor } from '@/server/services/actor';
import { createCard } from '@/server/services/create-card';
import { createRecord } from '@/server/services/create-record';
import { saveCard } from '@/server/services/edit-card';
import { addBlockPicture } from '@/server/services/edit-record';
import { previewHouse, readHouseProofs } from '@/server/services/house-proofs';
import { readHouse, saveHouse } from '@/server/services/house-style';
import { coloursOfPicture, keepLook, listLooks, removeLook } from '@/server/services/looks';
import { readJob } from '@/server/services/jobs';
import { listPeople } from '@/server/services/list-people';
import { addMember } from '@/server/services/members';
import { openCard } from '@/server/services/open-card';
import { readPicture } from '@/server/services/pictures';
import { publishCard } from '@/server/services/publish-card';
import { runJob } from '@/server/services/run-job';
import { JOB_TASKS } from '@/workers/tasks';
import { ask, clock, fullCard, pageAt, refused } from './full-card';
import { databaseUrl, newActor, useDatabase } from './place';

useDatabase();

async function saved(actor: Actor, cardId: string, look: Partial<Look>, more: object = {}): Promise<number> {
  const card = await openCard(actor, cardId);
  const input = { baseVersion: card.version, lines: card.lines, audience: card.audience };
  return (await saveCard(actor, cardId, { ...input, look: { ...card.look, ...look }, ...more }, clock)).version;
}
const published = async (actor: Actor, cardId: string, address: string, look: Partial<Look> = {}, more = {}) =>
  publishCard(actor, cardId, { baseVersion: await saved(actor, cardId, look, more), address }, clock);

async function person(actor: Actor, name = 'Ilse Varrow') {
  return createRecord(actor, { name, phone: '020 7946 0182', email: 'ilse@tarnhope.example' }, clock);
}

/** schema.org's terms without asking for its context: every term is one of its own. */
const terms = {
  documentLoader: async () => ({
    document: { '@context': { '@vocab': 'https://schema.org/' } },
    documentUrl: 'https://schema.org',
    contextUrl: undefined,
  }),
};

test('every layout is valid HTML, an h-card to a microformats parser, a Person to a JSON-LD processor, and proven', async () => {
  const actor = await newActor(clock);
  const { cardId } = await fullCard(actor);
  const validator = new HtmlValidate({
    extends: ['html-validate:standard', 'html-validate:document'],
    // Matters of style; and our own heads are shorter than its taste for titles.
    rules: { 'long-title': 'off', 'doctype-style': 'off', 'no-inline-style': 'error' },
  });
  for (const layout of LAYOUT_NAMES) {
    await published(actor, cardId, 'every-layout', { layout });
    const html = await pageAt('/c/every-layout');
    const { results } = await validator.validateString(html);
    expect([layout, results.flatMap(({ messages }) => messages.map(({ message }) => message))]).toEqual([layout, []]);
    const [card] = mf2(html, { baseUrl: 'http://cards.example/c/every-layout' }).items;
    expect(card!.type).toEqual(['h-card']);
    expect(card!.properties).toMatchObject({
      name: ['Ilse Varrow'],
      'job-title': ['Rope inspector'],
      tel: ['+44 20 7946 0182'],
      email: ['mailto:ilse@tarnhope.example'],
    });
    const data = /<script type="application\/ld\+json">(.*?)<\/script>/.exec(html)![1]!;
    const [expanded] = (await jsonld.expand(JSON.parse(data) as object, terms)) as Record<string, unknown>[];
    expect(expanded!['@type']).toEqual(['https://schema.org/Person']);
    expect(expanded!['https://schema.org/telephone']).toEqual([{ '@value': '+442079460182' }]);
    expect(expanded!['https://schema.org/jobTitle']).toEqual([{ '@value': 'Rope inspector' }]);
    // The order that a screen reader follows has the name before the lines, and saving is there once.
    expect(html.indexOf('<h1')).toBeLessThan(html.indexOf('<dl'));
    expect(html.split('class="save"')).toHaveLength(2);
  }
});

test('the picture of a link is 1,200 by 630, tells no number in its words, and is another one after each change', async () => {
  const actor = await newActor(clock);
  const { cardId } = await person(actor);
  await published(actor, cardId, 'linked-card');
  const html = await pageAt('/c/linked-card');
  const og = (property: string) => new RegExp(`property="og:${property}" content="([^"]*)"`).exec(html)?.[1];
  expect(og('title')).toBe('Ilse Varrow');
  expect(og('url')).toBe('http://cards.example/c/linked-card');
  expect(`${og('description') ?? ''} ${og('image:alt')}`).not.toMatch(/\d{3}|@/);
  const drawn = await ask(new URL(og('image')!).pathname);
  expect(drawn.status).toBe(200);
  expect(drawn.headers['Cache-Control']).toContain('immutable');
  expect(await sharp(drawn.body as Buffer).metadata()).toMatchObject({ width: 1200, height: 630, format: 'jpeg' });
  await published(actor, cardId, 'linked-card', { layout: 'beacon' });
  expect((await ask(new URL(og('image')!).pathname)).status).toBe(404);
  // A picture that nobody names is not drawn for whoever asks.
  expect((await ask('/c/linked-card/link-en-0123456789abcdef.jpg')).status).toBe(404);
});

test('a card that opens as a picture without artwork is drawn, says in words what it shows, and nothing that is not ticked', async () => {
  const actor = await newActor(clock);
  const { cardId } = await person(actor);
  const { lines } = await openCard(actor, cardId);
  const hidden = lines.map((line) =>
    line.detail === 'name' ? line : { ...line, ticks: { ...line.ticks, page: line !== lines.at(-1) } },
  );
  await published(
    actor,
    cardId,
    'drawn-card',
    {},
    { lines: hidden, opens: { first: 'picture', picture: null, alt: '' } },
  );
  const html = await pageAt('/c/drawn-card');
  const [, webp] = /srcset="([^"]+\.webp)"/.exec(html)!;
  const [, jpeg, alt] = /<img class="art" src="([^"]+\.jpg)" alt="([^"]*)" width="1080" height="1350">/.exec(html)!;
  expect(alt).toContain('Ilse Varrow');
  expect(alt).toContain('+44 20 7946 0182');
  expect(html).not.toContain('ilse@tarnhope.example');
  for (const [address, format] of [
    [webp!, 'webp'],
    [jpeg!, 'jpeg'],
  ] as const) {
    const { body, headers } = await ask(address);
    expect(headers['Content-Type']).toBe(`image/${format}`);
    expect(await sharp(body as Buffer).metadata()).toMatchObject({ width: 1080, height: 1350, format });
  }
  // Buttons stand below the picture, and there only.
  expect(html.split('class="save"')).toHaveLength(2);
  expect(html.indexOf('class="art"')).toBeLessThan(html.indexOf('class="save"'));
});

test('photos and pictures of blocks come lighter where the browser takes it, and as they are elsewhere', async () => {
  const actor = await newActor(clock);
  const { cardId } = await fullCard(actor);
  await published(actor, cardId, 'light-card');
  const html = await pageAt('/c/light-card');
  const pairs = [...html.matchAll(/<source srcset="([^"]+)" type="image\/webp"><img src="([^"]+)"/g)];
  expect(pairs.length).toBeGreaterThan(11);
  for (const [, light, usual] of pairs.slice(0, 2)) {
    expect(await sharp((await ask(light!)).body as Buffer).metadata()).toMatchObject({ format: 'webp' });
    expect(await sharp((await ask(usual!)).body as Buffer).metadata()).toMatchObject({ format: 'jpeg' });
  }
  const film = /<video[^>]* src="([^"]+)"/.exec(html)![1]!;
  expect((await ask(`${film}.webp`)).status).toBe(404);
});

test('a card can be kept on a phone: manifest (W3C Web Application Manifest), icon, worker with its reach', async () => {
  const actor = await newActor(clock);
  const { cardId } = await person(actor);
  await published(actor, cardId, 'kept-card');
  const manifest = await ask('/c/kept-card/manifest.webmanifest');
  const read = JSON.parse(String(manifest.body)) as { start_url: string; icons: { src: string }[] };
  expect(read).toMatchObject({ name: 'Ilse Varrow', start_url: '/c/kept-card', scope: '/c/kept-card' });
  const icon = await ask(read.icons[0]!.src);
  expect(await sharp(icon.body as Buffer).metadata()).toMatchObject({ width: 512, height: 512, format: 'png' });
  const worker = await ask('/c/kept-card/worker.js');
  expect(worker.headers).toMatchObject({ 'Service-Worker-Allowed': '/c/' });
  expect(worker.headers['Cache-Control']).toBe('no-cache');
});

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
  await expect(saved(holder, cardId, { layout: 'beacon' })).rejects.toMatchObject(refused('LAYOUT_NOT_ALLOWED'));
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

test('a change of house style is told before it is made; two who save at once do not overwrite each other', async () => {
  const actor = await newActor(clock);
  for (const [at, name] of ['Ilse Varrow', 'Corin Hathersage'].entries())
    await published(actor, (await person(actor, name)).cardId, `told-${at}`);
  expect(await previewHouse(actor, NO_HOUSE, clock)).toMatchObject({ cards: 2, changed: 0, proved: 2, fails: [] });
  const pale = { ...livery, look: { ...livery.look, palette: { ...PALETTES.tarn, ink: '#CCCCCC' } } };
  await expect(saveHouse(actor, { baseNumber: 0, style: pale, note: '' }, clock)).rejects.toMatchObject(
    refused('CONTRAST_FAILS'),
  );
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
  const marked = (await listPeople(actor, clock)).flatMap(({ cards: own }) => own.map(({ failing: mark }) => mark));
  expect(marked).toEqual([expect.stringMatching(/of 14,600 B/), expect.stringMatching(/of 14,600 B/)]);
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
  expect((await openCard(holder, own.cardId)).logos.map(({ hash }) => hash)).toEqual([logo.hash]);
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

test('colours that do not read are not published, but by somebody who may and says so; that is written down', async () => {
  const owner = await newActor(clock);
  const { cardId, recordId } = await person(owner);
  const pale = { palette: { ...PALETTES.moor, ink: '#C9C9C9', act: '#FFF3E0' } };
  const baseVersion = await saved(owner, cardId, pale);
  const input = { baseVersion, address: 'pale-card' };
  await expect(publishCard(owner, cardId, input, clock)).rejects.toMatchObject(refused('CONTRAST_FAILS'));
  const holder: Actor = { ...owner, role: 'holder', ownRecord: recordId };
  await expect(publishCard(holder, cardId, { ...input, overrideContrast: true }, clock)).rejects.toMatchObject(
    refused('CONTRAST_FAILS'),
  );
  await publishCard(owner, cardId, { ...input, overrideContrast: true }, clock);
  const { composition } = (await openCard(owner, cardId)).revision!;
  const proof = provePage(await pageAt('/c/pale-card'), 1, composition, []);
  expect(proof.checks.filter(({ passed }) => !passed).map(({ name }) => name)).toEqual(['contrast']);
  const { rows } = await asOwner(databaseUrl, (client) =>
    client.query(`SELECT data FROM audit_trail WHERE subject_id = $1 AND act = 'contrast.overridden'`, [cardId]),
  );
  expect(rows).toEqual([{ data: { worst: expect.any(Number), needs: expect.any(Number), count: expect.any(Number) } }]);
});

test('looks put by are their keeper’s own; the colours of a picture are those of its pixels', async () => {
  const [actor, other] = [await newActor(clock), await newActor(clock)];
  const look = { ...NO_HOUSE.look, palette: PALETTES.ling };
  const { id } = await keepLook(actor, { name: 'Heather', look }, clock);
  await expect(keepLook(actor, { name: 'Heather', look }, clock)).rejects.toMatchObject(refused('LOOK_NAME_TAKEN'));
  expect((await listLooks(actor)).map(({ name }) => name)).toEqual(['Heather']);
  expect(await listLooks(other)).toEqual([]);
  await expect(removeLook(other, id, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  await removeLook(actor, id, clock);
  expect(await listLooks(actor)).toEqual([]);

  const svg = (fill: string) =>
    Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="90" height="90"><rect width="90" height="60" fill="${fill}"/><rect y="60" width="90" height="30" fill="#102030"/></svg>`,
    );
  const of = async (bytes: Buffer) => coloursOfPicture(actor, (await addBlockPicture(actor, bytes, clock)).picture);
  const drawn = await of(await sharp(svg('#C0302A')).png().toBuffer());
  // Kept as PNG of few colours and scaled: near, not the same.
  expect(contrast(drawn.darkest, '#102030')).toBeLessThan(1.1);
  expect(contrast(drawn.lightest, '#C0302A')).toBeLessThan(1.1);
  expect(contrast(drawn.colours[0]!, '#C0302A')).toBeLessThan(1.1);
  // A white logo has nothing that stands out on white, and is not called anything else.
  const white = await sharp({ create: { width: 40, height: 20, channels: 4, background: '#FFFFFF' } })
    .png()
    .toBuffer();
  expect((await of(white)).colours).toEqual(['#FFFFFF']);
});
