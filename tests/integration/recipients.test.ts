import { renameSync, rmSync, writeFileSync } from 'node:fs';
import sharp from 'sharp';
import { createAnswerer } from '@/recipient';
import { recordEvent } from '@/server/intake/record-event';
import { visitorHash } from '@/server/intake/visitor-hash';
import { saveCard } from '@/server/services/cards/edit-card';
import { openCard } from '@/server/services/cards/open-card';
import { loadPublished, publishedVersion } from '@/server/services/publishing/load-published';
import { loadPreview } from '@/server/services/publishing/preview-card';
import { publishCard } from '@/server/services/publishing/publish-card';
import { createRecord } from '@/server/services/records/create-record';
import { addPhoto } from '@/server/services/media/add-picture';
import { clockAt, newActor, useDatabase } from './place';

useDatabase();
const clock = clockAt('2026-11-24T09:00:00Z');
let loads = 0;
const answer = createAnswerer({
  clock,
  load: (key) => {
    loads += 1;
    return loadPublished(key, clock);
  },
  preview: (secret) => loadPreview(secret, clock),
  version: publishedVersion,
  visitor: visitorHash,
  record: recordEvent,
});
const ask = (path: string) =>
  answer({
    method: 'GET',
    path,
    query: new URLSearchParams(),
    header: (name) =>
      name === 'user-agent' ? 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0' : '',
    address: '192.0.2.9',
    body: '',
  });
const asked = (many: number, path: string) => Promise.all(Array.from({ length: many }, () => ask(path)));

test('of many who ask for a card at once one loads it, and nobody is shown a version that was over when they asked', async () => {
  const actor = await newActor(clock);
  const { cardId } = await createRecord(actor, { name: 'Ilse Varrow', phone: '020 7946 0182', email: '' }, clock);
  await publishCard(actor, cardId, { baseVersion: 1, address: 'ilse-at-once' }, clock);
  loads = 0;
  const first = await asked(60, '/c/ilse-at-once');
  expect([new Set(first.map(({ status }) => status)), loads]).toEqual([new Set([200]), 1]);
  const { lines, audience } = await openCard(actor, cardId);
  const worded = lines.map((line) => (line.detail === 'name' ? { ...line, wording: 'Ilse the Second' } : line));
  const { version } = await saveCard(actor, cardId, { baseVersion: 1, lines: worded, audience }, clock);
  await publishCard(actor, cardId, { baseVersion: version, address: 'ilse-at-once' }, clock);
  loads = 0;
  const second = await asked(60, '/c/ilse-at-once');
  expect(second.every(({ body }) => String(body).includes('Ilse the Second'))).toBe(true);
  expect(loads).toBeLessThanOrEqual(2);
});

test('while the file store is away cards go on, and pictures are answered with 503 until it is back', async () => {
  const actor = await newActor(clock);
  const bytes = await sharp({ create: { width: 900, height: 900, channels: 3, background: '#345' } })
    .jpeg()
    .toBuffer();
  const { picture } = await addPhoto(actor, bytes, clock);
  const typed = { name: 'Keld Garrowby', phone: '020 7946 0182', email: '', photo: picture };
  const { cardId } = await createRecord(actor, typed, clock);
  await publishCard(actor, cardId, { baseVersion: 1, address: 'keld-away' }, clock);
  const store = process.env.FILES_DIR!;
  renameSync(store, `${store}-away`);
  // A place that is no folder, as a mount that broke.
  writeFileSync(store, '');
  let photo = '';
  try {
    const page = await ask('/c/keld-away');
    const file = await ask('/c/keld-away.vcf');
    photo = /\/c\/keld-away\/photo-[0-9a-f]{64}\.jpg/.exec(String(page.body))![0];
    expect([page.status, file.status, (await ask(photo)).status]).toEqual([200, 200, 503]);
    expect(String(file.body)).toContain('FN:Keld Garrowby');
    expect(String(file.body)).not.toContain('PHOTO');
    // Whoever works on the card goes on too, and is told what is missing.
    expect((await openCard(actor, cardId)).pictures).toBeNull();
  } finally {
    rmSync(store);
    renameSync(`${store}-away`, store);
  }
  clock.set('2026-11-24T09:00:06Z');
  expect((await openCard(actor, cardId)).pictures).toHaveLength(1);
  expect([(await ask(photo)).status, String((await ask('/c/keld-away.vcf')).body).includes('PHOTO')]).toEqual([
    200,
    true,
  ]);
});
