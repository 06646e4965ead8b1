import type { Detail } from '@/core/record';
import { ALL_FORMATS, BufferSource, BufferTarget, Conversion, Input, Output, WebMOutputFormat } from 'mediabunny';
import { files } from '@/server/files';
import { HtmlValidate } from 'html-validate';
import { Readable } from 'node:stream';
import { WebVTTParser } from 'webvtt-parser';
import { BLOCKS, BlocksSchema, freshBlock, lineOf, NOWHERE, type Block } from '@/core/card';
import { captionsProblem } from '@/core/page/captions';
import { deliverFilm } from '@/recipient';
import { createRecord } from '@/server/services/records/create-record';
import { saveCard } from '@/server/services/cards/edit-card';
import { addCaptions, addFilm } from '@/server/services/media/films';
import { makeHandOut } from '@/server/services/hand-outs/make';
import { openCard } from '@/server/services/cards/open-card';
import { publishCard } from '@/server/services/publishing/publish-card';
import { FILM } from '../belongings';
import { newActor, useDatabase } from '../place';

import { ask, clock, fullCard, ids, pageAt, picture, refused } from '../full-card';

useDatabase();

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
  const bar = /<div class="acts"><nav.*?<\/nav>/s.exec(html)![0];
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
  expect(blocks.map(({ kind }) => kind).sort()).toEqual([...BLOCKS].sort());
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

test('what a film tells of itself does not leave; private values filled into a mail stop the publishing, in a chat as well', async () => {
  const actor = await newActor(clock);
  const target = new BufferTarget();
  const conversion = await Conversion.init({
    input: new Input({ source: new BufferSource(new Uint8Array(FILM)), formats: ALL_FORMATS }),
    output: new Output({ format: new WebMOutputFormat(), target }),
    tags: { comment: '53.1234,-1.5678' },
  });
  await conversion.execute();
  const tagged = Buffer.from(target.buffer!);
  expect(tagged.includes('53.1234')).toBe(true);
  const film = await addFilm(actor, tagged, clock);
  const kept = (await files().get(film.hash))!;
  expect([kept.includes('53.1234'), kept.length, film.width]).toEqual([false, film.bytes, 640]);

  const { cardId } = await createRecord(actor, { name: 'Ilse Varrow', phone: '020 7946 0182', email: '' }, clock);
  const { lines, record } = await openCard(actor, cardId);
  const phone = record.details.find(({ kind }) => kind === 'phone')!.id;
  const mail: Detail = { kind: 'email', id: 'm', label: '', preferred: false, address: 'i@tarnhope.example', uses: [] };
  const ticked = { ...NOWHERE, page: true, file: true };
  const only = [
    ...lines.map((line) => (line.detail === phone ? { ...line, ticks: NOWHERE } : line)),
    lineOf('m', ticked, mail),
  ];
  const bar = freshBlock('action bar', ids) as Extract<Block, { kind: 'action bar' }>;
  const buttons = bar.buttons.map((button) => ({
    ...button,
    text: button.act === 'mail' ? 'Ring +44 20 7946 0182' : '',
  }));
  const saved = await saveCard(
    actor,
    cardId,
    { baseVersion: 1, lines: only, audience: 'All', blocks: [{ ...bar, buttons }] },
    clock,
  );
  await expect(
    publishCard(actor, cardId, { baseVersion: saved.version, address: 'filled-in' }, clock),
  ).rejects.toMatchObject(refused('PROOF_FAILED'));
});
