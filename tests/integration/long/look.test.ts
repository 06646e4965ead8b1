import { HtmlValidate } from 'html-validate';
import jsonld from 'jsonld';
import { mf2 } from 'microformats-parser';
import sharp from 'sharp';
import { asOwner } from '../../../commands/cluster/databases';
import { NO_HOUSE } from '@/core/house';
import { contrast, LAYOUT_NAMES, PALETTES } from '@/core/look';
import { provePage } from '@/core/proof';
import type { Actor } from '@/server/services/accounts/actor';
import { faceOfDraft } from '@/server/services/media/card-faces';
import { addBlockPicture, addLogo } from '@/server/services/media/add-picture';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { coloursOfPicture, keepLook, listLooks, removeLook } from '@/server/services/house/looks';
import { openCard } from '@/server/services/cards/open-card';
import { publishCard } from '@/server/services/publishing/publish-card';
import { ask, clock, fullCard, pageAt, refused } from '../full-card';
import { person, published, saved } from '../dressed';
import { databaseUrl, newActor, useDatabase } from '../place';

useDatabase();

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
    // The validator's list is older than the link type that may block rendering until its place is parsed (HTML, 4.6.7, `expect`).
    const { results } = await validator.validateString(html.replace(/<link rel="expect"[^>]*>/, ''));
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
  await published(actor, cardId, 'linked-card', { layout: 'crag' });
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

test('a white logo vanishes on a light sheet and gets a plate there, on page and face, by day alone; a dark one by night', async () => {
  const actor = await newActor(clock);
  const { cardId, recordId } = await person(actor);
  const wears = async (colour: string) => {
    const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="120" height="40"><rect width="120" height="40" rx="9" fill="${colour}"/></svg>`;
    const { picture } = await addLogo(actor, Buffer.from(svg), clock);
    const { body, version } = await openRecord(actor, recordId);
    const others = body.details.filter(({ kind }) => kind !== 'logo');
    const logo = { kind: 'logo' as const, id: 'mark', label: '', preferred: false, picture };
    await saveRecord(actor, recordId, version, { ...body, details: [...others, logo] }, clock);
    const { lines } = await openCard(actor, cardId);
    const shown = lines.map((line) =>
      line.detail === 'mark' ? { ...line, ticks: { ...line.ticks, page: true } } : line,
    );
    await published(actor, cardId, 'wears-a-logo', { layout: 'cairn', palette: PALETTES.tarn }, { lines: shown });
    let html = '';
    for (let tries = 0; tries < 50 && !html.includes('font/woff2;base64'); tries += 1) {
      html = await pageAt('/c/wears-a-logo');
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    const { svg: face } = await faceOfDraft(actor, cardId, 'card-lying', { layout: null, language: null });
    const plate = (of: string) => html.includes(`${of}{.logo img{background:#`);
    return {
      day: plate('@media(prefers-color-scheme:light)'),
      night: plate('@media(prefers-color-scheme:dark)'),
      face: face.includes('fill="#14100D"'),
    };
  };
  expect(await wears('#FFFFFF')).toEqual({ day: true, night: false, face: true });
  expect(await wears('#14222E')).toEqual({ day: false, night: true, face: false });
});
