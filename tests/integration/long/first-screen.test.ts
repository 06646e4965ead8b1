import { createHash } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import sharp from 'sharp';
import { LAYOUT_NAMES, layoutOf } from '@/core/look';
import { setState } from '@/server/services/cards/card-state';
import { addPhoto } from '@/server/services/media/add-picture';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { openCard } from '@/server/services/cards/open-card';
import { publishCard } from '@/server/services/publishing/publish-card';
import { person, published, saved } from '../dressed';
import { ask, clock, fullCard, pageAt } from '../full-card';
import { newActor, useDatabase } from '../place';

useDatabase();

const ANDROID = 'Mozilla/5.0 (Linux; Android 15) Mobile';
const OTHER = 'Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) Mobile';

/** Bytes of an answer with its headers at gzip level 6, as it goes over the wire. */
async function weightAt(path: string): Promise<{ html: string; bytes: number }> {
  const { headers, body } = await ask(path);
  const head = Object.entries(headers).reduce((sum, [name, value]) => sum + name.length + value.length + 4, 0);
  return { html: String(body), bytes: head + gzipSync(String(body), { level: 6 }).length };
}

/** Ten segments of 1,460 bytes (RFC 6928), 2,000 of them left free. */
const ROOM = 12_600;

test('the first screen comes with the page in every layout: the name’s letters, the face in at least the pixels of its box, within ten segments (RFC 6928)', async () => {
  const actor = await newActor(clock);
  const { cardId, recordId } = await person(actor);
  // Soft noise: harder to make small than a face.
  const noise = await sharp({
    create: {
      width: 700,
      height: 900,
      channels: 3,
      background: '#777',
      noise: { type: 'gaussian', mean: 120, sigma: 50 },
    },
  })
    .blur(4)
    .jpeg()
    .toBuffer();
  const { body, version } = await openRecord(actor, recordId);
  const { picture: hash } = await addPhoto(actor, noise, clock);
  const photo = { kind: 'photo' as const, id: 'face', label: '', preferred: false, picture: hash };
  await saveRecord(actor, recordId, version, { ...body, details: [...body.details, photo] }, clock);
  const card = await openCard(actor, cardId);
  const lines = card.lines.map((line) => ({ ...line, ticks: { ...line.ticks, page: true } }));
  for (const layout of LAYOUT_NAMES) {
    await published(actor, cardId, 'first-screen', { layout }, { lines });
    // Who asks first on a busy machine may get the page without.
    for (let tries = 0; tries < 50 && !(await pageAt('/c/first-screen')).includes('font/woff2;base64'); tries += 1)
      await new Promise((resolve) => setTimeout(resolve, 100));
    const { html, bytes } = await weightAt('/c/first-screen');
    expect([layout, bytes <= ROOM]).toEqual([layout, true]);
    const [, face] = /url\(data:image\/jpeg;base64,([^)]+)\)/.exec(html)!;
    const { width = 0 } = await sharp(Buffer.from(face!, 'base64')).metadata();
    expect(width).toBeGreaterThanOrEqual(layout === 'cairn' || layout === 'crag' ? 430 : layout === 'fold' ? 215 : 112);
    const [, font] = /url\(data:font\/woff2;base64,([^)]+)\)/.exec(html)!;
    // The signature of WOFF2 (W3C WOFF File Format 2.0, 4.1).
    expect(Buffer.from(font!, 'base64').subarray(0, 4).toString('latin1')).toBe('wOF2');
    // Each letter of the name has its code point in the face's range.
    for (const letter of 'Ilse Varrow') expect(html).toContain(`U+${letter.codePointAt(0)!.toString(16)}`);
    // A photo that fills a phone's width follows as large as that is; elsewhere no such one is to be had.
    const fills = html.includes('-broad.avif');
    expect([layout, fills]).toEqual([layout, layoutOf(layout).photo === 'fills']);
    const broad = `/c/first-screen/photo-${/photo-([0-9a-f]{64})/.exec(html)![1]}-broad.avif`;
    const { status, body: avif } = await ask(broad);
    // What was made once is kept, also for a layout that does not ask for it; the first one does not.
    if (fills || layout === 'trod') expect([layout, status]).toEqual([layout, fills ? 200 : 404]);
    if (fills) expect((await sharp(avif as Buffer).metadata()).width).toBe(700);
  }
});

test('a card too heavy for it is published all the same', async () => {
  const actor = await newActor(clock);
  const { cardId, version } = await fullCard(actor);
  const { recordId, record } = await openCard(actor, cardId);
  const { version: recordVersion } = await openRecord(actor, recordId);
  // Letters by chance do not become less by compression.
  const text = (at: number) =>
    Array.from({ length: 14 }, (_, n) => createHash('sha256').update(`${at} ${n}`).digest('hex')).join('');
  const details = record.details.map((each, at) =>
    each.kind === 'own' && at < 20 ? { ...each, text: text(at) } : each,
  );
  await saveRecord(actor, recordId, recordVersion, { ...record, details }, clock);
  await publishCard(actor, cardId, { baseVersion: version, address: 'too-heavy' }, clock);
  const { html, bytes } = await weightAt('/c/too-heavy');
  expect(bytes).toBeGreaterThan(ROOM);
  expect(html).toContain('Save contact');
  expect(html).not.toContain('data:');
});

test('an address opens the map of the phone that asks, words as they are typed; elsewhere it is there to read (RFC 5870 for geo:)', async () => {
  const actor = await newActor(clock);
  const { cardId, recordId } = await person(actor);
  const { body, version } = await openRecord(actor, recordId);
  const address = { street: '2 “Lower” Yard & Sons', locality: 'Skell Bridge', postcode: 'SB1 4TW' };
  const parts = { poBox: '', extended: '', region: '', country: '', ...address };
  const detail = { kind: 'address' as const, id: 'a', label: '', preferred: false, uses: ['work' as const], ...parts };
  await saveRecord(actor, recordId, version, { ...body, details: [...body.details, detail] }, clock);
  const card = await openCard(actor, cardId);
  const lines = card.lines.map((line) => ({ ...line, ticks: { ...line.ticks, page: true } }));
  await published(actor, cardId, 'mapped', {}, { lines });
  expect(await pageAt('/c/mapped')).toContain('href="/c/mapped/map-a"');
  const words = encodeURIComponent('2 “Lower” Yard & Sons, Skell Bridge SB1 4TW');
  const on = async (agent: string) => ask('/c/mapped/map-a', { 'user-agent': agent });
  expect(await on(ANDROID)).toMatchObject({ status: 302, headers: { Location: `geo:0,0?q=${words}` } });
  expect(await on(OTHER)).toMatchObject({ status: 302, headers: { Location: `maps:?q=${words}` } });
  const read = await ask('/c/mapped/map-a');
  expect([read.status, String(read.body)]).toEqual([200, expect.stringContaining('2 “Lower” Yard &#38; Sons')]);
  // A picture of the card is drawn in the languages that its page can be in, and in no other that somebody asks for.
  const link = /\/c\/mapped\/link-en-[0-9a-f]{16}\.jpg/.exec(await pageAt('/c/mapped'))![0];
  expect((await ask(link.replace('-en-', '-pl-'))).status).toBe(404);
  expect((await ask(link.replace('-en-', '-fr-'))).status).toBe(200);
  // No other line, no line that is not shown.
  expect((await ask('/c/mapped/map-name')).status).toBe(404);
  await saved(
    actor,
    cardId,
    {},
    { lines: lines.map((line) => (line.detail === 'a' ? { ...line, ticks: { ...line.ticks, page: false } } : line)) },
  );
  await published(actor, cardId, 'mapped');
  expect((await on(ANDROID)).status).toBe(404);
  await setState(actor, cardId, { state: 'resting', notice: '', instead: null }, clock);
  expect((await on(ANDROID)).status).toBe(410);
});

test('a button opens any link and another goes to a block; the page shows its own code', async () => {
  const actor = await newActor(clock);
  const { cardId, version, blocks } = await fullCard(actor);
  const { lines } = await openCard(actor, cardId);
  const gallery = blocks.find(({ kind }) => kind === 'gallery')!;
  const bar = {
    kind: 'action bar' as const,
    id: 'bar',
    on: true,
    before: false,
    title: '',
    buttons: [
      { id: 's', act: 'save' as const, line: null, subject: '', text: '' },
      { id: 'o', act: 'open' as const, line: 'c', subject: '', text: '' },
      { id: 'j', act: 'jump' as const, line: null, block: gallery.id, subject: '', text: '' },
      { id: 'n', act: 'jump' as const, line: null, block: 'nowhere', subject: '', text: '' },
    ],
  };
  const others = blocks.filter(({ kind }) => kind !== 'action bar');
  const saving = { baseVersion: version, lines, audience: 'Fair', blocks: [bar, ...others] };
  await published(actor, cardId, 'buttons', {}, saving);
  const html = await pageAt('/c/buttons');
  const buttons = /<nav aria-label="Actions">(.*?)<\/nav>/.exec(html)![1]!.replace(/<a class="save".*?<\/a>/, '');
  expect(buttons).toMatch(
    new RegExp(`^<a href="https://chat.example/ilse" data-l="c">[^<]+</a><a href="#b-${gallery.id}">[^<]+</a>$`),
  );
  expect(html).toContain(`<section id="b-${gallery.id}">`);
  const code = await ask('/c/buttons/code.svg');
  expect([code.status, code.headers['Content-Type']]).toEqual([200, 'image/svg+xml']);
});
