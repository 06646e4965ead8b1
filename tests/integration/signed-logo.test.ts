import { readdirSync } from 'node:fs';
import sharp from 'sharp';
import { contrast, hexOf } from '@/core/look';
import { HouseStyleSchema, NO_HOUSE } from '@/core/house';
import { FIRST_SIGNATURE } from '@/core/signature';
import { inTenant } from '@/server/db/pool';
import { closeCompute } from '@/server/compute';
import type { Actor } from '@/server/services/accounts/actor';
import { deletePerson } from '@/server/services/cards/deletion';
import { eraseWhatEnded } from '@/server/services/cards/erase';
import { openCard } from '@/server/services/cards/open-card';
import { makeSignature, openSignature, saveSignature, signatureFile } from '@/server/services/hand-outs/signature';
import { readHouse, saveHouse } from '@/server/services/house/house-style';
import { addBlockPicture, addLogo } from '@/server/services/media/add-picture';
import { readPicture } from '@/server/services/media/pictures';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { person, published } from './dressed';
import { ask, clock, newAnswer } from './full-card';
import { newActor, useDatabase } from './place';

useDatabase();
afterAll(closeCompute);

/** Grounds on which mail programs show a mail by day and by night, from white to black (common practice, no published source). */
const GROUNDS = ['#FFFFFF', '#1F1F1F', '#121212', '#000000'];
/** A sign of one colour and a word of another, on nothing. */
const drawing = (sign: string, word: string) =>
  Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="480" height="120"><circle cx="60" cy="60" r="56" fill="${sign}"/><rect x="140" y="30" width="330" height="60" fill="${word}"/></svg>`,
  );

/** How well each part of that shows on a ground: the contrast of its middle with what lies just beside it, in pixels as an eye has them. */
async function shows(png: Buffer, ground: string): Promise<number[]> {
  const { data, info } = await sharp(png)
    .flatten({ background: ground })
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const at = (x: number, y: number) => {
    const from = (Math.round(y * info.height) * info.width + Math.round(x * info.width)) * 3;
    return hexOf([data[from]! / 255, data[from + 1]! / 255, data[from + 2]! / 255]);
  };
  const beside = at(0.282, 0.5);
  return [at(0.16, 0.5), at(0.6, 0.5)].map((colour) => contrast(colour, beside));
}

async function signsWith(actor: Actor, logo: Buffer, address: string) {
  const { cardId, recordId } = await person(actor, `Ilse of ${address}`);
  const { picture } = await addLogo(actor, logo, clock);
  const { body, version } = await openRecord(actor, recordId);
  const detail = { kind: 'logo' as const, id: 'mark', label: '', preferred: false, picture };
  await saveRecord(actor, recordId, version, { ...body, details: [...body.details, detail] }, clock);
  const { lines } = await openCard(actor, cardId);
  const ticked = lines.map((line) =>
    line.detail === 'mark' ? { ...line, ticks: { ...line.ticks, signature: true } } : line,
  );
  await published(actor, cardId, address, {}, { lines: ticked });
  const { id } = await makeSignature(actor, cardId, clock);
  const { variants } = await openSignature(actor, id, clock);
  const [, src] = /<img src="([^"]+signed-[^"]+)"/.exec(variants.message.signature.html)!;
  return { cardId, recordId, id, picture, path: new URL(src!).pathname };
}

test.each([
  ['dark', '#14222E', '#000000'],
  ['dark beside one that shows everywhere', '#C0392B', '#111111'],
  ['white', '#FFFFFF', '#F4F4F4'],
  ['of a colour that shows by day and by night', '#C0392B', '#2E7FB8'],
])(
  'a logo that is %s shows on every ground of a mail, linked and inside (WCAG 2.2, 1.4.11: 3 to 1)',
  async (what, sign, word) => {
    const actor = await newActor(clock);
    const { id, path, picture } = await signsWith(actor, drawing(sign, word), `signs-${what.length}`);
    const answer = await ask(path);
    expect([answer.status, answer.headers['Content-Type']]).toEqual([200, 'image/png']);
    const linked = answer.body as Buffer;
    for (const ground of GROUNDS) expect(Math.min(...(await shows(linked, ground)))).toBeGreaterThanOrEqual(3);
    // The studio shows what a mail shows, and its proportions stay those that mails tell of it.
    expect(await readPicture(actor, picture, 'mail')).toEqual(linked);
    const [mail, page] = await Promise.all(
      [linked, await readPicture(actor, picture)].map((each) => sharp(each).metadata()),
    );
    expect([mail!.width, mail!.height]).toEqual([page!.width, page!.height]);
    await saveSignature(actor, id, { ...FIRST_SIGNATURE, pictures: 'inside' }, clock);
    const { bytes } = await signatureFile(actor, id, { form: 'eml', variant: 'message' }, clock);
    expect(bytes.toString('latin1').replace(/\r\n/g, '')).toContain(linked.toString('base64'));
  },
);

test('the form for mails is made once, given under its own signature alone, and erased with its person', async () => {
  const actor = await newActor(clock);
  const [mine, other] = [
    await signsWith(actor, drawing('#101010', '#202020'), 'signs-once'),
    await signsWith(actor, drawing('#202020', '#101010'), 'signs-other'),
  ];
  const { body } = await ask(mine.path);
  const row = () =>
    inTenant(actor.organisationId, (tx) => tx('pictures').where({ hash: mine.picture }).first('mail_png')) as Promise<
      | {
          mail_png: string | null;
        }
      | undefined
    >;
  for (let tries = 0; tries < 100 && !(await row())?.mail_png; tries += 1)
    await new Promise((resolve) => setTimeout(resolve, 50));
  const { mail_png: kept } = (await row())!;
  expect((await ask(mine.path, {}, newAnswer())).body).toEqual(body);
  const named = mine.path.split('/').at(-1)!;
  for (const path of [other.path.replace(/[^/]+$/, named), `/c/signs-once/${named}`, `/h/00000000/${named}`])
    expect((await ask(path)).status).toBe(404);
  const lies = () =>
    readdirSync(process.env.FILES_DIR!, { recursive: true }).some((name) => String(name).endsWith(kept!));
  expect(lies()).toBe(true);
  await deletePerson(actor, mine.recordId, clock);
  await eraseWhatEnded(Date.now() + 40 * 86_400_000);
  expect([await row(), lies()]).toEqual([undefined, false]);
});

test('a notice strip that is transparent shows by night as well', async () => {
  const actor = await newActor(clock);
  const { id, path } = await signsWith(actor, drawing('#C0392B', '#2E7FB8'), 'signs-with-strip');
  const { picture: hash, ...size } = await addBlockPicture(
    actor,
    await sharp(drawing('#101010', '#202020')).png().toBuffer(),
    clock,
  );
  const strip = {
    id: 'days',
    text: 'Cable Days',
    link: '',
    starts: '2026-11-20',
    ends: '2026-12-02',
    picture: { hash, ...size },
  };
  const signature = { options: FIRST_SIGNATURE, legal: {}, disclaimer: {}, strips: [strip] };
  const { number } = await readHouse(actor);
  const style = HouseStyleSchema.parse({ ...NO_HOUSE, signature });
  await saveHouse(actor, { baseNumber: number, style, note: '' }, clock);
  const { variants } = await openSignature(actor, id, clock);
  expect(variants.message.signature.html).toContain('/strip-days"');
  const shown = (await ask(path.replace(/[^/]+$/, 'strip-days'))).body as Buffer;
  for (const ground of GROUNDS) expect(Math.min(...(await shows(shown, ground)))).toBeGreaterThanOrEqual(3);
});
