import sharp from 'sharp';
import { readFileSync } from 'node:fs';
import { HouseStyleSchema, NO_HOUSE, type HouseStyle } from '@/core/house';
import { FIRST_SIGNATURE, type HouseSignature, type Strip } from '@/core/signature';
import type { Actor } from '@/server/services/accounts/actor';
import { saveCard } from '@/server/services/cards/edit-card';
import { openCard } from '@/server/services/cards/open-card';
import { setHandOutState } from '@/server/services/hand-outs/change';
import { makeSignature, openSignature, saveSignature } from '@/server/services/hand-outs/signature';
import { readHouse, saveHouse } from '@/server/services/house/house-style';
import { takeContactFile } from '@/server/services/imports/begin-import';
import { publishCard } from '@/server/services/publishing/publish-card';
import { ask, clock, picture, refused } from './full-card';
import { newActor, useDatabase } from './place';

useDatabase();
let maud: Actor;
let cardId: string;
let id: string;
let path: string;

const LEGAL = 'Tarnhope Cableways Ltd · registered in Hythe under 07946';
const STRIP: Omit<Strip, 'picture'> = {
  ...{ id: 'cable-days', text: 'Cable Days: ride for nothing', link: 'https://tarnhope.example/days' },
  ...{ starts: '2026-12-01', ends: '2026-12-02' },
};
/** Saves what the organisation says of signatures. */
async function says(signature: Partial<HouseSignature>, locks: HouseStyle['locks'] = {}) {
  const { number } = await readHouse(maud);
  const whole = { options: FIRST_SIGNATURE, legal: {}, disclaimer: {}, strips: [], ...signature };
  const style = HouseStyleSchema.parse({ ...NO_HOUSE, signature: whole, locks });
  await saveHouse(maud, { baseNumber: number, style, note: '' }, clock);
}
const served = async (form: string) => String((await ask(`${path}/signature${form}`)).body);

beforeAll(async () => {
  maud = await newActor(clock);
  const taken = await takeContactFile(maud, readFileSync('tests/fixtures/contacts/phone-export-3.vcf'), clock);
  if (!('imported' in taken)) throw new Error('The fixture holds one contact.');
  ({ cardId } = taken.imported);
  await publishCard(maud, cardId, { baseVersion: 1, address: 'signs-for-house' }, clock);
  ({ id } = await makeSignature(maud, cardId, clock));
  path = new URL((await openSignature(maud, id, clock)).link).pathname;
});

test('legal line and disclaimer stand below every signature in the card’s language, seen and proven; an address of the firm in them is no leak', async () => {
  const { record } = await openCard(maud, cardId);
  const unticked = record.details.find(({ kind }) => kind === 'phone') as { number: string } | undefined;
  const disclaimer = {
    any: `For its reader alone.\nReception: ${unticked?.number ?? 'none'}`,
    de: 'Nur für Empfänger.',
  };
  await says({ legal: { any: LEGAL, de: 'Tarnhope Seilbahnen GmbH' }, disclaimer });
  for (const form of ['.html', '-reply.html', '.txt', '-reply.txt'])
    for (const said of [LEGAL, 'For its reader alone.']) expect(await served(form)).toContain(said);
  const { variants } = await openSignature(maud, id, clock);
  for (const { proof } of Object.values(variants)) expect(proof.checks.filter(({ passed }) => !passed)).toEqual([]);
  const { lines, version, audience } = await openCard(maud, cardId);
  await saveCard(maud, cardId, { baseVersion: version, lines, audience, language: 'de' }, clock);
  await publishCard(maud, cardId, { baseVersion: version + 1, address: 'signs-for-house' }, clock);
  const german = await served('.txt');
  expect([german.includes('Tarnhope Seilbahnen GmbH'), german.includes('Nur für'), german.includes(LEGAL)]).toEqual([
    true,
    true,
    false,
  ]);
});

test('what an organisation locks is laid out its way; without a lock its layout is a beginning', async () => {
  const house = {
    ...FIRST_SIGNATURE,
    layout: 'below' as const,
    reply: { picture: false, link: false, contact: false },
  };
  await says({ options: house });
  expect((await openSignature(maud, id, clock)).options).toEqual(house);
  const own = { ...FIRST_SIGNATURE, pictures: 'inside' as const };
  expect((await saveSignature(maud, id, own, clock)).options).toEqual(own);
  await says({ options: house }, { signature: 'One look in every letter box' });
  const { locked, options } = await openSignature(maud, id, clock);
  expect([locked, options]).toEqual(['One look in every letter box', house]);
  await expect(saveSignature(maud, id, own, clock)).rejects.toMatchObject(refused('LOCKED'));
  await saveSignature(maud, id, house, clock);
});

test('a notice shows on its days, by the organisation’s clock, in new messages alone; its picture is empty before, after, and once it is gone', async () => {
  const shown = await picture(maud, 960, 240);
  await says({ strips: [{ ...STRIP, picture: shown }] });
  const at = `${path}/strip-cable-days`;
  const size = async () => {
    const answer = await ask(at);
    const { width, height } = await sharp(answer.body as Buffer).metadata();
    return [answer.status, width, height, answer.headers['Cache-Control']];
  };
  const EMPTY = [200, 480, 1, 'public, max-age=300'];
  const seen: unknown[] = [];
  for (const instant of [
    '2026-11-30T23:59:59Z',
    '2026-12-01T00:00:00Z',
    '2026-12-02T23:59:00Z',
    '2026-12-03T00:00:00Z',
  ]) {
    clock.set(instant);
    const [html, text, reply] = [await served('.html'), await served('.txt'), await served('-reply.html')];
    seen.push([
      html.includes('strip-cable-days'),
      text.includes(STRIP.text),
      reply.includes('strip-'),
      ...(await size()),
    ]);
  }
  expect(seen).toEqual([
    [false, false, false, ...EMPTY],
    [true, true, false, 200, 720, 180, 'public, max-age=300'],
    // Nothing on the way keeps it beyond its end.
    [true, true, false, 200, 720, 180, 'public, max-age=60'],
    [false, false, false, ...EMPTY],
  ]);
  clock.set('2026-12-01T12:00:00Z');
  const { variants } = await openSignature(maud, id, clock);
  for (const { proof } of Object.values(variants)) expect(proof.checks.filter(({ passed }) => !passed)).toEqual([]);
  expect(variants.message.signature.html).toContain('<a href="https://tarnhope.example/days"');
  // A signature that rests, or a notice that was removed, leaves no broken picture in mails that were sent.
  await setHandOutState(maud, id, { state: 'resting', notice: '' }, clock);
  expect(await size()).toEqual(EMPTY);
  await setHandOutState(maud, id, { state: 'out', notice: '' }, clock);
  await says({ strips: [] });
  expect(await size()).toEqual(EMPTY);
  expect((await ask('/h/00000000/strip-cable-days')).status).toBe(404);
  clock.set('2026-11-24T09:00:00Z');
});

test('bad input: an end before the start, a picture of nobody’s, script for a link, two of one id, markup in every text', async () => {
  const one = { ...STRIP, picture: null };
  await expect(says({ strips: [{ ...one, ends: '2026-11-30' }] })).rejects.toMatchObject(refused('STRIP_ENDS_BEFORE'));
  const nobodys = { hash: 'f'.repeat(64), width: 9, height: 9 };
  await expect(says({ strips: [{ ...one, picture: nobodys }] })).rejects.toMatchObject(refused('FILE_GONE'));
  for (const [wrong, code] of [
    [{ link: 'javascript:alert(1)' }, 'LINK_UNREADABLE'],
    [{ text: ' ' }, 'STRIP_UNFINISHED'],
    [{ ends: '' }, 'STRIP_UNFINISHED'],
  ] as const)
    await expect(says({ strips: [{ ...one, ...wrong }] })).rejects.toMatchObject(refused(code));
  for (const wrong of [[{ ...one, starts: '2026-02-31' }], [{ ...one, id: '../../etc' }], [one, one]])
    await expect(says({ strips: wrong })).rejects.toThrow();
  const script = '<img src=x onerror=alert(1)>';
  await says({ legal: { any: script }, disclaimer: { any: script }, strips: [{ ...one, text: script }] });
  clock.set('2026-12-01T12:00:00Z');
  const html = await served('.html');
  expect([html.includes('<img src=x'), html.split('&#60;img src=x').length]).toEqual([false, 4]);
  clock.set('2026-11-24T09:00:00Z');
});
