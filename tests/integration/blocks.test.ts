import { HtmlValidate } from 'html-validate';
import ICAL from 'ical.js';
import { Readable } from 'node:stream';
import sharp from 'sharp';
import { WebVTTParser } from 'webvtt-parser';
import { asOwner } from '../../commands/cluster/databases';
import {
  BlocksSchema,
  freshBlock,
  lineOf,
  NOWHERE,
  restoredDraft,
  type Block,
  type Draft,
  type Line,
} from '@/core/card';
import { captionsProblem } from '@/core/page/captions';
import type { Detail } from '@/core/record';
import { createAnswerer, deliverFilm } from '@/recipient';
import type { Actor } from '@/server/services/actor';
import { savePrefix } from '@/server/services/address-prefix';
import { createRecord } from '@/server/services/create-record';
import { saveCard } from '@/server/services/edit-card';
import { addBlockPicture, openRecord, saveRecord } from '@/server/services/edit-record';
import { addCaptions, addFilm } from '@/server/services/films';
import { makeHandOut } from '@/server/services/hand-outs';
import { loadPublished, publishedVersion } from '@/server/services/load-published';
import { openCard } from '@/server/services/open-card';
import { carryOutPlans, planCard } from '@/server/services/plans';
import { loadPreview } from '@/server/services/preview-card';
import { publishCard } from '@/server/services/publish-card';
import { recordEvent } from '@/server/services/record-event';
import { listRevisions, openRevision } from '@/server/services/revisions';
import { visitorHash } from '@/server/services/visitor-hash';
import { FILM } from './attempts';
import { clockAt, databaseUrl, newActor, useDatabase } from './place';

useDatabase();
const clock = clockAt('2026-11-24T09:00:00Z');
const answer = createAnswerer({
  clock,
  load: (key) => loadPublished(key, clock),
  preview: (secret) => loadPreview(secret, clock),
  version: publishedVersion,
  visitor: visitorHash,
  record: recordEvent,
});
const PERSON = 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0';
function ask(path: string, headers: Record<string, string> = {}) {
  const url = new URL(path, 'http://cards.example');
  const header = (name: string) => ({ 'user-agent': PERSON, ...headers })[name] ?? '';
  return answer({ method: 'GET', path: url.pathname, query: url.searchParams, header, address: '192.0.2.9', body: '' });
}
const pageAt = async (path: string, headers?: Record<string, string>) => String((await ask(path, headers)).body);
const refused = (code: string) => ({ problem: { code } });

const ids = (() => {
  let at = 0;
  return () => `id${(at += 1)}`;
})();
let shade = 0;
const picture = async (actor: Actor, width = 60, height = 40) => {
  const bytes = await sharp({
    create: { width, height, channels: 3, background: { r: (shade += 7) % 256, g: 90, b: 9 } },
  })
    .jpeg()
    .toBuffer();
  const { picture: hash, ...size } = await addBlockPicture(actor, bytes, clock);
  return { hash, ...size };
};

/** A card of forty lines and every block, saved as a draft. */
async function fullCard(actor: Actor): Promise<{ cardId: string; version: number; blocks: Block[] }> {
  const { recordId, cardId } = await createRecord(
    actor,
    { name: 'Ilse Varrow', phone: '020 7946 0182', email: 'ilse@tarnhope.example' },
    clock,
  );
  const { body, version } = await openRecord(actor, recordId);
  const common = { preferred: false };
  const days = Array.from({ length: 7 }, (_, day) => (day < 5 ? [{ from: '09:00', until: '17:00' }] : []));
  const more: Detail[] = [
    { kind: 'hours', id: 'h', label: 'Depot', ...common, days, zone: 'Europe/London' },
    {
      kind: 'address',
      id: 'a',
      label: 'Depot',
      ...common,
      uses: ['work'],
      street: '2 Lower Station Yard',
      locality: 'Skell Bridge',
      poBox: '',
      extended: '',
      region: '',
      postcode: '',
      country: '',
      map: 'https://maps.example/depot',
    },
    { kind: 'licence', id: 'l', label: '', ...common, text: 'Ropeway inspector C-4471' },
    { kind: 'title', id: 't', label: '', ...common, text: 'Rope inspector', further: { de: 'Seilprüferin' } },
    { kind: 'link', id: 'c', label: '', ...common, url: 'https://chat.example/ilse', purpose: 'chat', uses: [] },
  ];
  const details = [
    ...body.details,
    ...more,
    ...Array.from({ length: 32 }, (_, at): Detail => ({
      kind: 'own',
      id: `o${at}`,
      label: '',
      ...common,
      text: `Line ${at}`,
    })),
  ];
  await saveRecord(
    actor,
    recordId,
    version,
    { ...body, name: { ...body.name, further: { ar: 'إيلزه فارو' } }, details },
    clock,
  );
  const film = await addFilm(actor, FILM, clock);
  const captions = await addCaptions(actor, Buffer.from('WEBVTT\n\n00:00.000 --> 00:04.000\nUp we go'), clock);
  const item = async (title: string) => ({
    id: ids(),
    picture: await picture(actor),
    alt: '',
    title,
    text: 'Below',
    url: 'https://tarnhope.example/',
  });
  const made: Record<string, object> = {
    about: { text: 'I see to it that the ropes hold.' },
    gallery: { items: await Promise.all(Array.from({ length: 12 }, (_, at) => item(`Picture ${at}`))) },
    video: {
      videos: [
        {
          id: ids(),
          title: 'A ride',
          film,
          player: '',
          poster: await picture(actor),
          captions: { hash: captions.hash, language: 'en' },
        },
        {
          id: ids(),
          title: 'Elsewhere',
          film: null,
          player: 'https://player.example/embed/7',
          poster: null,
          captions: null,
        },
      ],
    },
    'onward links': { items: [await item('Notebook')] },
    credentials: { items: [await item('Guild of rope inspectors')] },
    products: { items: [await item('Splice')] },
    'action bar': {
      buttons: [
        { id: ids(), act: 'mail', line: null, subject: 'We met ({placement})', text: 'Dear Ilse,\nat {placement}' },
        { id: ids(), act: 'chat', line: null, subject: '', text: 'Hello from {placement}' },
        { id: ids(), act: 'save', line: null, subject: '', text: '' },
        { id: ids(), act: 'map', line: null, subject: '', text: '' },
      ],
    },
  };
  const kinds = [
    'action bar',
    'about',
    'gallery',
    'video',
    'onward links',
    'hours',
    'credentials',
    'products',
    'offices',
  ] as const;
  const blocks = kinds.map((kind) => ({ ...freshBlock(kind, ids), ...made[kind] }) as Block);
  const card = await openCard(actor, cardId);
  const lines = card.lines.map((line): Line => ({ ...line, ticks: { ...NOWHERE, page: true, file: true } }));
  const saved = await saveCard(actor, cardId, { baseVersion: card.version, lines, audience: 'Fair', blocks }, clock);
  return { cardId, version: saved.version, blocks };
}

test('a card of forty lines and every block is published; its page is valid HTML, one round trip, complete without script', async () => {
  const actor = await newActor(clock);
  const { cardId, version, blocks } = await fullCard(actor);
  await publishCard(actor, cardId, { baseVersion: version, address: 'every-block', note: 'All of it' }, clock);
  const html = await pageAt('/c/every-block');
  const report = await new HtmlValidate({
    extends: ['html-validate:standard', 'html-validate:document'],
    // Matters of style; and our own heads are shorter than its taste for titles.
    rules: { 'long-title': 'off', 'doctype-style': 'off', 'no-inline-style': 'error' },
  }).validateString(html);
  expect(
    report.results.flatMap(({ messages }) => messages.map(({ ruleId, message }) => `${ruleId}: ${message}`)),
  ).toEqual([]);
  const gzip = await ask('/c/every-block', { 'accept-encoding': 'gzip' });
  expect((gzip.body as Buffer).length).toBeLessThan(14_600);
  for (const text of [
    'I see to it',
    'Picture 11',
    'Guild of rope',
    'Splice',
    'Ropeway inspector C-4471',
    'Open until 17:00 (London)',
  ])
    expect(html).toContain(text);
  // What a block lays out stands there once.
  expect(html.split('Ropeway inspector C-4471')).toHaveLength(2);
  // Nothing of another host is asked for; the player is a link until somebody wants it, and may then be framed.
  expect(html).not.toMatch(/(?:src|poster)="https?:/);
  expect(html).toContain('data-p href="https://player.example/embed/7"');
  expect((await ask('/c/every-block')).headers['Content-Security-Policy']).toContain('frame-src https:');
  // The buttons in their order; RFC 6068 for the mail, nothing of a placement where there is none.
  const bar = /<nav class="acts".*?<\/nav>/s.exec(html)![0];
  expect([...bar.matchAll(/>([^<>]+)<\/a>/g)].map(([, word]) => word)).toEqual([
    'Write',
    'Chat',
    'Save contact',
    'Map',
  ]);
  expect(bar).toContain('mailto:ilse@tarnhope.example?subject=We%20met&#38;body=Dear%20Ilse%2C%0D%0Aat');
  const { id } = await makeHandOut(actor, { cardId, placement: 'stand banner' }, clock);
  const { code } = (await openCard(actor, cardId)).handOuts.find((each) => each.id === id)!;
  expect(await pageAt(`/h/${code}`)).toContain('https://chat.example/ilse?text=Hello+from+stand+banner');
  expect(blocks.length).toBe(9);
});

test('the hour decides what a page says, minute by minute, and a clock change does not move it', async () => {
  const actor = await newActor(clock);
  const { cardId, version } = await fullCard(actor);
  await publishCard(actor, cardId, { baseVersion: version, address: 'by-the-hour' }, clock);
  const at = async (instant: string) => {
    clock.set(instant);
    return /class="now">([^<]*)/.exec(await pageAt('/c/by-the-hour'))![1];
  };
  // Monday 29 March 2027 is the first working day of British Summer Time (IANA time-zone data).
  expect(await at('2027-03-26T16:59:00Z')).toBe('Open until 17:00 (London)');
  expect(await at('2027-03-26T17:00:00Z')).toBe('Closed until Mon 9:00 (London)');
  expect(await at('2027-03-29T08:00:00Z')).toBe('Open until 17:00 (London)');
  expect(await at('2027-03-29T16:00:00Z')).toBe('Closed until Tue 9:00 (London)');
  clock.set('2026-11-24T09:00:00Z');
});

test('ranges of a film are those of the examples of RFC 9110 14.1.2 and 14.4, for 10,000 bytes', async () => {
  const whole = Buffer.from(Array.from({ length: 10_000 }, (_, at) => at % 251));
  const get = async (range: string, more: Record<string, string> = {}) => {
    const header = (name: string) => ({ range, ...more })[name] ?? '';
    const given = (await deliverFilm(
      header,
      { hash: 'f'.repeat(64), type: 'video/mp4', bytes: 10_000 },
      async (first, last) => Readable.from([whole.subarray(first, last + 1)]),
    ))!;
    const parts: Buffer[] = [];
    if (typeof given.body !== 'string') for await (const part of given.body as Readable) parts.push(part as Buffer);
    return { status: given.status, range: given.headers['Content-Range'], body: Buffer.concat(parts) };
  };
  for (const [asked, first, last] of [
    ['bytes=0-499', 0, 499],
    ['bytes=500-999', 500, 999],
    ['bytes=-500', 9_500, 9_999],
    ['bytes=9500-', 9_500, 9_999],
    ['bytes=0-0', 0, 0],
    ['bytes=9990-20000', 9_990, 9_999],
  ] as const) {
    const { status, range, body } = await get(asked);
    expect([asked, status, range]).toEqual([asked, 206, `bytes ${first}-${last}/10000`]);
    expect(body.equals(whole.subarray(first, last + 1))).toBe(true);
  }
  expect(await get('bytes=10000-')).toMatchObject({ status: 416, range: 'bytes */10000' });
  // Several at once, and what is no range, are answered with the whole (14.2 leaves that to us).
  for (const asked of ['bytes=0-0,-1', 'bytes=9-2', 'lines=1-2', ''])
    expect((await get(asked)).body.length).toBe(10_000);
  expect((await get('bytes=0-9', { 'if-range': '"another"' })).status).toBe(200);
});

test.each([
  ['plain', 'WEBVTT\n\n00:01.000 --> 00:04.000\nNever drink liquid nitrogen.\n', true], // W3C WebVTT 1.1
  [
    'with a header text, names, a note and settings',
    'WEBVTT - Translation\n\nNOTE by hand\n\n14\n00:01:14.815 --> 00:01:18.114 align:start line:0%\n- What?\n- Where are we now?\n',
    true,
  ],
  ['by CRLF', 'WEBVTT\r\n\r\n00:01.000 --> 00:04.000\r\nUp\r\n', true],
  ['without its signature', '00:01.000 --> 00:04.000\nUp\n', false],
  ['of another kind (SubRip)', '1\n00:00:01,000 --> 00:00:04,000\nUp\n', false],
  ['with a comma in its times', 'WEBVTT\n\n00:01,000 --> 00:04,000\nUp\n', false],
  ['that end before they begin', 'WEBVTT\n\n00:04.000 --> 00:01.000\nUp\n', false],
  ['with sixty-one seconds', 'WEBVTT\n\n00:61.000 --> 00:62.000\nUp\n', false],
])('captions %s are judged as the W3C’s parser judges them', (_, text, fine) => {
  expect(new WebVTTParser().parse(text, 'metadata').errors.length === 0).toBe(fine);
  expect(captionsProblem(text) === null).toBe(fine);
});

test('bad films, links and pictures are refused with a sentence; a picture of 40 megapixels is taken', async () => {
  const actor = await newActor(clock);
  for (const bytes of [
    Buffer.from('no film at all '.repeat(20)),
    FILM.subarray(0, 200),
    Buffer.concat([Buffer.from('\0\0\0\x18ftypmp42'), Buffer.alloc(4_000, 7)]),
  ])
    await expect(addFilm(actor, bytes, clock)).rejects.toMatchObject(refused('FILM_UNREADABLE'));
  await expect(addCaptions(actor, Buffer.from([0xff, 0xfe, 0, 65]), clock)).rejects.toMatchObject(
    refused('CAPTIONS_UNREADABLE'),
  );
  const film = await addFilm(actor, FILM, clock);
  expect(film).toMatchObject({ type: 'video/webm', width: 640, height: 360 });
  expect(film.seconds).toBeCloseTo(12, 1);
  const player = (url: string) => [{ ...freshBlock('video', ids), videos: [{ id: ids(), player: url }] }];
  for (const url of ['http://player.example/7', 'javascript:alert(1)', 'data:text/html,x', '//player.example'])
    expect(BlocksSchema.safeParse(player(url)).success).toBe(false);
  expect(BlocksSchema.safeParse(player('https://player.example/7')).success).toBe(true);
  expect(BlocksSchema.safeParse([{ ...freshBlock('action bar', ids), buttons: [] }]).success).toBe(false);
  const large = await picture(actor, 8_000, 5_000);
  expect(large).toMatchObject({ width: 720, height: 450 });
  await expect(picture(actor, 8_000, 8_000)).rejects.toMatchObject(refused('PICTURE_TOO_LARGE'));
  // Another organisation's picture is none of this one's, whoever knows its hash.
  const other = await newActor(clock);
  const { cardId } = await createRecord(other, { name: 'Keld Fairhead', phone: '', email: '' }, clock);
  const { lines, audience } = await openCard(other, cardId);
  const blocks = [
    {
      ...freshBlock('gallery', ids),
      items: [{ id: ids(), picture: large, alt: '', title: '', text: '', url: '' }],
    } as Block,
  ];
  await expect(saveCard(other, cardId, { baseVersion: 1, lines, audience, blocks }, clock)).rejects.toMatchObject(
    refused('FILE_GONE'),
  );
});

test('two who publish at once make two revisions; they are listed with their notes, compared and restored, erased pictures named', async () => {
  const actor = await newActor(clock);
  const { cardId, version, blocks } = await fullCard(actor);
  const input = { baseVersion: version, address: 'revisions' };
  const both = await Promise.all([
    publishCard(actor, cardId, { ...input, note: 'First' }, clock),
    publishCard(actor, cardId, { ...input, note: 'Second' }, clock),
  ]);
  expect(both.map(({ revision }) => revision).sort()).toEqual([1, 2]);
  expect((await listRevisions(actor, cardId)).map(({ number, who }) => [number, who])).toEqual([
    [2, actor.name],
    [1, actor.name],
  ]);

  // The record and the card go on; the revision still knows what it said.
  const opened = await openCard(actor, cardId);
  const record = opened.record;
  const { version: recordVersion } = await openRecord(actor, opened.recordId);
  const details = record.details.flatMap((detail): Detail[] =>
    detail.id === 'o1' ? [] : detail.id === 't' ? [{ ...detail, text: 'Chief of ropes' } as Detail] : [detail],
  );
  await saveRecord(actor, opened.recordId, recordVersion, { ...record, details }, clock);
  const gallery = blocks.find((block) => block.kind === 'gallery') as Extract<Block, { kind: 'gallery' }>;
  const erased = gallery.items[3]!.picture!.hash;
  await saveCard(actor, cardId, { baseVersion: version, lines: opened.lines, audience: 'Fair', blocks: [] }, clock);
  await asOwner(databaseUrl, (client) => client.query('DELETE FROM pictures WHERE hash = $1', [erased]));

  const revision = await openRevision(actor, cardId, 1);
  expect(revision.erased).toEqual([erased]);
  const now = await openCard(actor, cardId);
  const { draft, lost } = restoredDraft(
    { ...revision, draft: revision.draft! },
    { draft: now as Draft, record: now.record, country: 'GB' },
  );
  expect(lost).toEqual(['Picture 3']);
  expect(draft.lines.find(({ detail }) => detail === 't')).toMatchObject({ wording: 'Rope inspector' });
  expect(draft.lines.find(({ detail }) => detail === 'o1')?.own).toMatchObject({ text: 'Line 1' });
  const saved = await saveCard(actor, cardId, { baseVersion: now.version, ...draft }, clock);
  await publishCard(actor, cardId, { baseVersion: saved.version, address: 'revisions' }, clock);
  const html = await pageAt('/c/revisions');
  for (const text of ['Rope inspector', 'Line 1<', 'Picture 3', 'Picture 4']) expect(html).toContain(text);
});

test('a card goes out at its time and ends at its time; what cannot be is refused or told', async () => {
  const actor = await newActor(clock);
  const { cardId } = await createRecord(actor, { name: 'Odile Brandreth', phone: '020 7946 0182', email: '' }, clock);
  const plan = (publishAt: string | null, endsAt: string | null = null) =>
    planCard(
      actor,
      cardId,
      { publishAt, address: 'planned', note: '', endsAt, endsWith: endsAt ? 'resting' : null },
      clock,
    );
  await expect(plan('2026-11-24T08:59:00Z')).rejects.toMatchObject(refused('PLAN_IN_THE_PAST'));
  await expect(plan('2026-11-25T09:00:00Z', '2026-11-25T08:00:00Z')).rejects.toMatchObject(refused('PLAN_ENDS_BEFORE'));
  await expect(plan(null, '2026-11-25T08:00:00Z')).rejects.toMatchObject(refused('CARD_NOT_OUT'));
  await plan('2026-11-25T09:00:00Z', '2026-11-26T09:00:00Z');
  expect(await carryOutPlans(clock)).toBe(0);
  expect((await ask('/c/planned')).status).toBe(404);
  clock.set('2026-11-25T09:00:01Z');
  // Two processes at once: one revision.
  const carried = await Promise.all([carryOutPlans(clock), carryOutPlans(clock)]);
  expect(carried.reduce((sum, each) => sum + each)).toBe(1);
  expect(await listRevisions(actor, cardId)).toHaveLength(1);
  expect((await ask('/c/planned')).status).toBe(200);
  // The end holds from its instant, before anything has carried it out.
  clock.set('2026-11-26T09:00:00Z');
  expect((await ask('/c/planned')).status).toBe(410);
  expect(await carryOutPlans(clock)).toBe(1);
  expect((await openCard(actor, cardId)).state).toBe('resting');
  // A plan that fails says why and is not tried for ever.
  const taken = await newActor(clock);
  const other = await createRecord(taken, { name: 'Keld', phone: '020 7946 0182', email: '' }, clock);
  await planCard(
    taken,
    other.cardId,
    { publishAt: '2026-11-27T09:00:00Z', address: 'planned', note: '', endsAt: null, endsWith: null },
    clock,
  );
  clock.set('2026-11-27T09:00:00Z');
  expect([await carryOutPlans(clock), await carryOutPlans(clock)]).toEqual([0, 0]);
  expect((await openCard(taken, other.cardId)).plan?.problem).toEqual({ code: 'ADDRESS_TAKEN' });
  clock.set('2026-11-24T09:00:00Z');
});

test('a card in several languages: the browser’s, the one chosen, right to left; ALTID and LANGUAGE in 4.0 (RFC 6350 5.4), one of them in 3.0', async () => {
  const actor = await newActor(clock);
  const { cardId, version, blocks } = await fullCard(actor);
  const about = blocks.find(({ kind }) => kind === 'about')!;
  const { lines } = await openCard(actor, cardId);
  const words = { de: { [`${about.id}/text`]: 'Ich sorge dafür, dass die Seile halten.' }, ar: {} };
  const saved = await saveCard(
    actor,
    cardId,
    { baseVersion: version, lines, audience: 'Fair', language: 'en', words },
    clock,
  );
  await publishCard(actor, cardId, { baseVersion: saved.version, address: 'three-tongues' }, clock);
  const german = await pageAt('/c/three-tongues', { 'accept-language': 'de-AT, en;q=0.5' });
  expect(german).toMatch(/<html lang="de"/);
  for (const text of ['Seilprüferin', 'Ich sorge dafür', 'Kontakt speichern', 'href="/c/three-tongues?lang=ar"'])
    expect(german).toContain(text);
  expect(german).not.toContain('I see to it');
  const arabic = await pageAt('/c/three-tongues?lang=ar', { 'accept-language': 'de' });
  expect(arabic).toContain('<html lang="ar" dir="rtl">');
  expect(arabic).toContain('<h1>إيلزه فارو</h1>');
  expect(await pageAt('/c/three-tongues', { 'accept-language': 'fr' })).toContain('I see to it');
  type Property = [name: string, params: Record<string, string>, type: string, value: unknown];
  const properties = async (query: string) =>
    (ICAL.parse(String((await ask(`/c/three-tongues.vcf?${query}`)).body)) as unknown as [string, Property[]])[1];
  const of = (all: Property[], name: string) =>
    all.filter(([each]) => each === name).map(([, params, , value]) => [params.language, params.altid, value]);
  const newest = await properties('v=4.0&lang=de');
  expect(of(newest, 'title')).toEqual([
    ['en', expect.any(String), 'Rope inspector'],
    ['de', expect.any(String), 'Seilprüferin'],
  ]);
  expect(new Set(of(newest, 'fn').map(([, altid]) => altid)).size).toBe(1);
  expect(of(newest, 'fn').map(([language, , value]) => [language, value])).toEqual([
    ['en', 'Ilse Varrow'],
    ['ar', 'إيلزه فارو'],
  ]);
  expect(of(await properties('lang=de'), 'title')).toEqual([[undefined, undefined, 'Seilprüferin']]);
  expect(of(await properties(''), 'title')).toEqual([[undefined, undefined, 'Rope inspector']]);
});

test('what opens first; an address that was renamed keeps leading; an organisation’s beginning is its own', async () => {
  const actor = await newActor(clock);
  const { cardId, version, blocks } = await fullCard(actor);
  const { lines } = await openCard(actor, cardId);
  let at = version;
  const opening = async (opens: Draft['opens'], address: string) => {
    at = (await saveCard(actor, cardId, { baseVersion: at, lines, audience: 'Fair', opens }, clock)).version;
    await publishCard(actor, cardId, { baseVersion: at, address }, clock);
  };
  const video = blocks.find(({ kind }) => kind === 'video')!;
  await opening({ first: 'block', block: video.id }, 'first-name');
  const html = await pageAt('/c/first-name');
  expect(html.indexOf('<video')).toBeLessThan(html.indexOf('<header>'));
  await opening({ first: 'picture', picture: await picture(actor), alt: 'Ilse Varrow, rope inspector' }, 'second-name');
  const art = await pageAt('/c/first-name');
  expect(art).toMatch(/<main><img class="art" src="[^"]+" alt="Ilse Varrow, rope inspector"/);
  await opening({ first: 'file' }, 'second-name');
  expect((await ask('/c/first-name')).headers['Content-Type']).toContain('text/vcard');
  expect((await ask('/c/first-name?page')).headers['Content-Type']).toContain('text/html');
  const preview = await ask('/c/first-name', { 'user-agent': 'Mozilla/5.0 (compatible; examplebot/2.1)' });
  expect(preview.headers['Content-Type']).toContain('text/html');
  await savePrefix(actor, 'tarnhope', clock);
  const publish = (address: string, who = actor, card = cardId, base = at) =>
    publishCard(who, card, { baseVersion: base, address }, clock);
  await expect(publish('third-name')).rejects.toMatchObject(refused('PREFIX_MISSING'));
  await publish('first-name');
  await publish('tarnhope-ilse');
  expect((await ask('/c/second-name?page')).status).toBe(200);
  const other = await newActor(clock);
  const theirs = await createRecord(other, { name: 'Keld', phone: '020 7946 0182', email: '' }, clock);
  await expect(publish('tarnhope-keld', other, theirs.cardId, 1)).rejects.toMatchObject(refused('PREFIX_TAKEN'));
  for (const prefix of ['tarnhope', 'first'])
    await expect(savePrefix(other, prefix, clock)).rejects.toMatchObject(refused('PREFIX_TAKEN'));
});

test('a text that says what no line of the page may say stops the publishing', async () => {
  const actor = await newActor(clock);
  const { cardId } = await createRecord(
    actor,
    { name: 'Ilse Varrow', phone: '020 7946 0182', email: 'private@varrow.example' },
    clock,
  );
  const { lines, record } = await openCard(actor, cardId);
  const mail = record.details.find(({ kind }) => kind === 'email')!.id;
  const unticked = lines.map((line) => (line.detail === mail ? { ...line, ticks: NOWHERE } : line));
  const blocks = [{ ...freshBlock('about', ids), text: 'Write to Private@Varrow.example' } as Block];
  const saved = await saveCard(
    actor,
    cardId,
    {
      baseVersion: 1,
      lines: [...unticked, lineOf('x', NOWHERE, { kind: 'own', id: 'x', label: '', preferred: false, text: 'x' })],
      audience: 'All',
      blocks,
    },
    clock,
  );
  await expect(
    publishCard(actor, cardId, { baseVersion: saved.version, address: 'leaky' }, clock),
  ).rejects.toMatchObject(refused('PROOF_FAILED'));
});
