import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import type { EventRow } from '@/server/db/response/events';
import { createAnswerer, type RecipientRequest } from '@/recipient';
import { loadPublished, publishedVersion } from '@/server/services/publishing/load-published';
import { recordEvent } from '@/server/intake/record-event';
import { destroyEndedSecrets, visitorHash } from '@/server/intake/visitor-hash';
import { inTenant } from '@/server/db/pool';
import { saveCard } from '@/server/services/cards/edit-card';
import { openCard } from '@/server/services/cards/open-card';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import type { Actor } from '@/server/services/accounts/actor';
import { takeContactFile } from '@/server/services/imports/begin-import';
import { publishCard } from '@/server/services/publishing/publish-card';
import { readResponse } from '@/server/services/response/read-response';
import { signIn } from '@/server/services/accounts/sign-in';
import { clockAt, newActor, useDatabase } from './place';

useDatabase();
const clock = clockAt('2026-11-24T09:00:00Z');
const PHONE =
  'Mozilla/5.0 (Linux; Android 15; Pixel 9) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/131.0.0.0 Mobile Safari/537.36';

const recorded: EventRow[] = [];
const answer = createAnswerer({
  clock,
  load: loadPublished,
  preview: async () => null,
  version: publishedVersion,
  visitor: visitorHash,
  record: (row) => {
    recorded.push(row);
    return recordEvent(row);
  },
});
const ask = (path: string, headers: Record<string, string> = {}, more: Partial<RecipientRequest> = {}) =>
  answer({
    method: 'GET',
    path: path.split('?')[0]!,
    query: new URLSearchParams(path.split('?')[1]),
    header: (name) => ({ 'user-agent': PHONE, ...headers })[name] ?? '',
    address: '192.0.2.7',
    body: '',
    ...more,
  });

/** Takes in a file of one contact. */
async function imported(actor: Actor, bytes: Buffer) {
  const taken = await takeContactFile(actor, bytes, clock);
  if (!('imported' in taken)) throw new Error('more than one contact');
  return taken.imported;
}

const fixture = (name: string) => readFileSync(`tests/fixtures/contacts/${name}`);

async function publishedCard(address: string) {
  const actor = await newActor(clock);
  const made = await imported(actor, fixture('phone-export-3.vcf'));
  await publishCard(actor, made.cardId, { baseVersion: 1, address }, clock);
  return { actor, ...made, card: await openCard(actor, made.cardId) };
}

test('a contact file becomes a record, a card, a page and a file without what was unticked, counted in response', async () => {
  const { actor, cardId, card } = await publishedCard('joerg');
  const code = card.handOuts[0]!.code;
  expect(card.record.details.map(({ kind }) => kind)).toContain('photo');

  const page = await ask('/c/joerg');
  expect(page.status).toBe(200);
  expect(page.headers).toMatchObject({ 'Heathland-Event': 'recorded', 'Cache-Control': 'no-cache' });
  expect(String(page.body)).toContain('Jörg Aksel Müller-Lind');
  expect(String(page.body)).not.toContain('zuhause');
  const printed = await ask(`/H/${code.toLowerCase()}`);
  expect(printed.headers['Cache-Control']).toBe('no-store');
  expect(String(printed.body)).toContain(`/h/${code}.vcf`);
  const file = await ask(`/h/${code}.vcf`);
  expect(file.headers).toMatchObject({ 'Content-Type': 'text/vcard; charset=utf-8' });
  expect(String(file.body)).toContain(`UID:urn:uuid:${cardId}`);
  // The same act of the same visitor in another version is the same save.
  for (const [version, type] of [
    ['2.1', 'text/x-vcard; charset=utf-8'],
    ['4.0', 'text/vcard; charset=utf-8'],
  ]) {
    const other = await ask(`/h/${code}.vcf?v=${version}`);
    expect([other.headers['Content-Type'], String(other.body).slice(0, 24)]).toEqual([
      type,
      `BEGIN:VCARD\r\nVERSION:${version}`,
    ]);
  }
  const tapped = card.lines.find((line) => line.ticks.page && line.detail !== 'name')!.detail;
  expect((await ask(`/h/${code}/tap`, {}, { method: 'POST', body: tapped })).status).toBe(204);
  expect((await ask(`/h/${code}/tap`, {}, { method: 'POST', body: 'invented' })).headers['Heathland-Event']).toBe(
    'none',
  );

  const { summary } = await readResponse(actor, { cardId, days: 7 }, clock);
  expect(summary.totals).toEqual({ views: 2, visits: 1, visitors: 1, saves: 1, taps: 1, replies: 0 });
  expect(summary.handOuts.find(({ handOut }) => handOut === card.handOuts[0]!.id)).toMatchObject({
    views: 1,
    saves: 1,
    taps: 1,
  });
});

test('HEAD, conditional and range requests are answered as RFC 9110 says and counted as the product says', async () => {
  const { actor, cardId } = await publishedCard('joerg-http');
  const page = await ask('/c/joerg-http');
  const file = await ask('/c/joerg-http.vcf');
  const head = await ask('/c/joerg-http.vcf', {}, { method: 'HEAD' });
  expect([head.status, head.body, head.headers['Content-Length']]).toEqual([200, '', file.headers['Content-Length']]);
  expect((await ask('/c/joerg-http', { 'if-none-match': `W/${page.headers.ETag}` })).status).toBe(304);
  const first = await ask('/c/joerg-http.vcf', { range: 'bytes=0-99' });
  const rest = await ask('/c/joerg-http.vcf', { range: 'bytes=100-' });
  expect([first.status, rest.status]).toEqual([206, 206]);
  expect(Buffer.concat([first.body as Buffer, rest.body as Buffer])).toEqual(file.body);
  expect(first.headers['Content-Range']).toBe(`bytes 0-99/${(file.body as Buffer).length}`);
  expect((await ask('/c/joerg-http.vcf', { range: 'bytes=999999-' })).status).toBe(416);
  expect((await ask('/c/joerg-http', {}, { method: 'DELETE' })).status).toBe(405);
  expect((await ask('/c/nobody-here')).status).toBe(404);
  expect((await ask('/c/joerg-http.vcf?v=4.0')).body.toString()).toContain('VERSION:4.0');
  await ask('/c/joerg-http', { 'user-agent': 'curl/8.5.0' });
  await ask('/c/joerg-http', { 'sec-gpc': '1' });
  const { summary } = await readResponse(actor, { cardId, days: 7 }, clock);
  expect(summary).toMatchObject({ totals: { views: 3, visits: 1, saves: 1 }, viewsWithoutVisitor: 1, bots: 1 });
});

test('a new revision shows at once; a renamed address keeps leading to the card', async () => {
  const { actor, cardId, card } = await publishedCard('joerg-before');
  expect(String((await ask('/c/joerg-before')).body)).toContain('Leiter Planung');
  const lines = card.lines.map((line) =>
    card.record.details.find(({ id }) => id === line.detail)?.kind === 'title'
      ? { ...line, wording: 'Head of planning' }
      : line,
  );
  await saveCard(actor, cardId, { baseVersion: 1, lines, audience: 'Fair' }, clock);
  expect(String((await ask('/c/joerg-before')).body)).toContain('Leiter Planung');
  await publishCard(actor, cardId, { baseVersion: 2, address: 'joerg-after' }, clock);
  for (const address of ['joerg-before', 'joerg-after'])
    expect(String((await ask(`/c/${address}`)).body)).toContain('Head of planning');
});

test('no address is kept; the hash of a visitor changes with the day and its secret is destroyed', async () => {
  const { actor } = await publishedCard('joerg-visitor');
  recorded.length = 0;
  const own = clockAt('2026-11-24T23:50:00Z');
  const at = (instant: string) => {
    own.set(instant);
    return visitorHash(
      { organisationId: actor.organisationId, timeZone: 'Europe/London', address: '192.0.2.7', userAgent: PHONE },
      own.now(),
    );
  };
  const [today, again, tomorrow] = [
    await at('2026-11-24T09:00:00Z'),
    await at('2026-11-24T23:59:59Z'),
    await at('2026-11-25T00:00:01Z'),
  ];
  expect(today).toEqual(again);
  expect(tomorrow).not.toEqual(today);
  await inTenant(actor.organisationId, (tx) =>
    tx('visitor_secrets').insert({
      organisation_id: actor.organisationId,
      day: '2020-01-01',
      secret: Buffer.alloc(32),
    }),
  );
  await destroyEndedSecrets(own.now());
  const days = await inTenant(actor.organisationId, (tx) => tx('visitor_secrets').select(tx.raw('day::text')));
  expect(days.map(({ day }: { day: string }) => day)).not.toContain('2020-01-01');
});

test('two who edit one card: the later one is told and nothing is overwritten', async () => {
  const { actor, cardId, recordId, card } = await publishedCard('joerg-two');
  await saveCard(actor, cardId, { baseVersion: 1, lines: card.lines, audience: 'First' }, clock);
  await expect(
    saveCard(actor, cardId, { baseVersion: 1, lines: card.lines, audience: 'Second' }, clock),
  ).rejects.toMatchObject({ problem: { code: 'CARD_CHANGED', version: 2 } });
  expect((await openCard(actor, cardId)).audience).toBe('First');
  const { body } = await openRecord(actor, recordId);
  await saveRecord(actor, recordId, 1, body, clock);
  await expect(saveRecord(actor, recordId, 1, body, clock)).rejects.toMatchObject({
    problem: { code: 'RECORD_CHANGED', version: 2 },
  });
});

test('addresses: taken, looking like another, at the same moment', async () => {
  await publishedCard('odile-walk');
  const other = await newActor(clock);
  const made = await imported(other, fixture('mail-export-4.vcf'));
  const claim = (address: string) => publishCard(other, made.cardId, { baseVersion: 1, address }, clock);
  await expect(claim('odile-walk')).rejects.toMatchObject({ problem: { code: 'ADDRESS_TAKEN' } });
  await expect(claim('odi1e-walk')).rejects.toMatchObject({ problem: { code: 'ADDRESS_LOOKS_LIKE_ANOTHER' } });
  const third = await newActor(clock);
  const theirs = await imported(third, fixture('mail-export-4.vcf'));
  const outcomes = await Promise.allSettled([
    claim('same-moment'),
    publishCard(third, theirs.cardId, { baseVersion: 1, address: 'same-moment' }, clock),
  ]);
  expect(outcomes.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  expect(outcomes.find((outcome) => outcome.status === 'rejected')).toMatchObject({
    reason: { problem: { code: 'ADDRESS_TAKEN' } },
  });
});

test('a photo that is no picture is left out and said, the rest comes in; EXIF and place do not leave', async () => {
  const actor = await newActor(clock);
  const lying = fixture('phone-export-3.vcf')
    .toString()
    .replace(/PHOTO[^]*?(?=\r\nEND)/, `PHOTO;ENCODING=b;TYPE=JPEG:${Buffer.from('no picture').toString('base64')}`);
  const made = await imported(actor, Buffer.from(lying));
  const { body } = await openRecord(actor, made.recordId);
  expect(body.details.filter(({ kind }) => kind === 'phone')).toHaveLength(5);
  expect(body.kept.at(-1)).toMatchObject({ why: 'unreadable-photo' });

  const withPlace = await sharp({ create: { width: 900, height: 600, channels: 3, background: '#4B6B3C' } })
    .withExif({ IFD0: { Make: 'Secret Camera' }, IFD3: { GPSLatitude: '51/1 30/1 0/1' } })
    .jpeg()
    .toBuffer();
  expect((await sharp(withPlace).metadata()).exif).toBeDefined();
  const photo = fixture('phone-export-3.vcf')
    .toString()
    .replace(/PHOTO[^]*?(?=\r\nEND)/, `PHOTO;ENCODING=b;TYPE=JPEG:${withPlace.toString('base64')}`);
  // Somebody else's: the same person again would wait for review.
  const another = await newActor(clock);
  const second = await imported(another, Buffer.from(photo));
  const opened = await openCard(another, second.cardId);
  const bytes = Buffer.from(opened.pictures![0]!.base64, 'base64');
  expect(bytes.length).toBeLessThanOrEqual(20_000);
  expect((await sharp(bytes).metadata()).exif).toBeUndefined();
  expect(bytes.includes('Secret Camera')).toBe(false);
});

test('attempts to sign in are limited for one address, and nobody locks another out', async () => {
  const email = 'limited@heath.example';
  const attempt = (from: string) => signIn({ email, password: 'wrong', from }, clock);
  for (let tries = 0; tries < 10; tries += 1)
    await expect(attempt('192.0.2.1')).rejects.toMatchObject({ problem: { code: 'SIGN_IN_FAILED' } });
  await expect(attempt('192.0.2.1')).rejects.toMatchObject({ problem: { code: 'TOO_MANY_REQUESTS' } });
  await expect(attempt('192.0.2.2')).rejects.toMatchObject({ problem: { code: 'SIGN_IN_FAILED' } });
});
