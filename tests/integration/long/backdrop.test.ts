import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { layBackdrop } from '@/core/backdrop';
import { CompositionSchema } from '@/core/card';
import { proveBackdrop } from '@/core/proof/backdrop';
import { drawCode, PLAIN_STYLE, symbolFor } from '@/core/qr';
import { closeCompute } from '@/server/compute';
import { readBackdrop } from '@/server/compute/tasks/backdrop';
import { codePrograms } from '@/server/compute/tasks/code/programs';
import { shippedTypesetter } from '@/server/fonts';
import type { Actor } from '@/server/services/accounts/actor';
import { openCard } from '@/server/services/cards/open-card';
import { saveCard } from '@/server/services/cards/edit-card';
import { addBlockPicture } from '@/server/services/media/add-picture';
import { backdropFile, openBackdrop, saveBackdrop } from '@/server/services/pieces/backdrop';
import { addPiece } from '@/server/services/pieces/parts';
import { createRecord } from '@/server/services/records/create-record';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { publishCard } from '@/server/services/publishing/publish-card';
import { ask, clock, refused } from '../full-card';
import { newActor, useDatabase } from '../place';
import { zbarimg } from '../zbarimg';

useDatabase();
afterAll(closeCompute);
let actor: Actor;
let id: string;
let cardId: string;
const FIRST = { corner: 'right', code: 'medium', picture: null } as const;

beforeAll(async () => {
  actor = await newActor(clock);
  const made = await createRecord(actor, { name: 'Ilse Varrow', phone: '07700 900182', email: '' }, clock);
  ({ cardId } = made);
  const { body, version } = await openRecord(actor, made.recordId);
  const common = { label: '', preferred: false };
  const more = [
    { kind: 'title' as const, id: 't', ...common, text: 'Lead rope inspector' },
    { kind: 'phone' as const, id: 'home', ...common, number: '+441632960182', uses: ['home' as const] },
  ];
  await saveRecord(actor, made.recordId, version, { ...body, details: [...body.details, ...more] }, clock);
  const card = await openCard(actor, cardId);
  const lines = card.lines.map((line) =>
    line.detail === 't' ? { ...line, ticks: { ...line.ticks, backdrop: true } } : line,
  );
  await saveCard(actor, cardId, { baseVersion: card.version, lines, audience: card.audience }, clock);
  await publishCard(actor, cardId, { baseVersion: card.version + 1, address: 'in-calls' }, clock);
  ({ id } = await addPiece(actor, { cardId, placement: 'Calls', channel: 'backdrop' }, clock));
});

/** What Debian's zbarimg reads of a picture as a call leaves it: 640 by 360, WebP of a quality of 30. */
async function readInCall(bytes: Buffer): Promise<string[]> {
  const folder = mkdtempSync(path.join(tmpdir(), 'heathland-call-'));
  try {
    const called = await sharp(bytes).resize(640, 360).webp({ quality: 30 }).toBuffer();
    const file = path.join(folder, 'call.png');
    writeFileSync(file, await sharp(called).png().toBuffer());
    return zbarimg(file);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

test.each([
  ['left', 'plain', 'image/png'],
  ['right', 'on a photo', 'image/jpeg'],
] as const)(
  'with its code in the %s corner, %s: 1920 by 1080, the code read after a call has made it small and coarse',
  async (corner, ground, type) => {
    const noise = { type: 'gaussian' as const, mean: 120, sigma: 60 };
    const photo = sharp({ create: { width: 1600, height: 1200, channels: 3, background: '#888', noise } });
    const { picture: hash, ...size } = await addBlockPicture(actor, await photo.jpeg().toBuffer(), clock);
    const picture = ground === 'plain' ? null : { hash, ...size };
    const shown = await saveBackdrop(actor, id, { corner, code: 'small', picture }, clock);
    expect(shown.proof.checks.filter(({ passed }) => !passed)).toEqual([]);
    const file = await backdropFile(actor, id, 'smaller', clock);
    expect(file.type).toBe(type);
    const { width, height } = await sharp(file.bytes).metadata();
    expect([width, height]).toEqual([1920, 1080]);
    expect(await readInCall(file.bytes)).toEqual([shown.link.toUpperCase()]);
    if (!picture) expect(file.bytes.length).toBeLessThan(60_000);
    else expect((await backdropFile(actor, id, 'png', clock)).type).toBe('image/png');
  },
  60_000,
);

test('it says what is ticked for it and is told what is private on it; the draft that says otherwise is told, and its code counts apart', async () => {
  const before = await saveBackdrop(actor, id, FIRST, clock);
  expect([before.unpublished, before.leaving]).toEqual([false, []]);
  expect(before.proof.checks.find(({ name }) => name === 'ticked lines')!.finding).toMatchObject({ read: 2, of: 2 });
  expect((await ask(new URL(before.link).pathname)).status).toBe(200);
  const { lines, version, audience } = await openCard(actor, cardId);
  const home = lines.map((line) =>
    line.detail === 'home' ? { ...line, ticks: { ...line.ticks, backdrop: true } } : line,
  );
  await saveCard(actor, cardId, { baseVersion: version, lines: home, audience }, clock);
  expect((await openBackdrop(actor, id, clock)).unpublished).toBe(true);
  await publishCard(actor, cardId, { baseVersion: version + 1, address: 'in-calls' }, clock);
  const after = await openBackdrop(actor, id, clock);
  expect(after.leaving.map(({ value }) => value.replace(/\s/g, ''))).toEqual(['+441632960182']);
  expect(after.proof.passed).toBe(true);
});

test('a photo of another organisation is nobody’s to show; one that is gone leaves the look of the card', async () => {
  const stranger = await newActor(clock);
  const dot = await sharp({ create: { width: 900, height: 600, channels: 3, background: '#123' } })
    .png()
    .toBuffer();
  const { picture: hash, width, height } = await addBlockPicture(stranger, dot, clock);
  const theirs = { ...FIRST, picture: { hash, width, height } };
  await expect(saveBackdrop(actor, id, theirs, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  await expect(openBackdrop(stranger, id, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
});

const LINK = 'HTTPS://CARDS.EXAMPLE/H/7K3M9QWD';

/** A picture of a backdrop, broken in one way, and the checks that say so. */
const MUTANTS: [string, (sound: Buffer) => Promise<Buffer>, string[]][] = [
  [
    'the code is moved by ten pixels',
    async (sound) => {
      const [left, top, side] = [1500, 60, 372];
      const code = await sharp(sound).extract({ left, top, width: side, height: side }).toBuffer();
      return sharp(sound)
        .composite([{ input: code, left: left - 10, top }])
        .png()
        .toBuffer();
    },
    ['code'],
  ],
  [
    'the code is a blur',
    async (sound) => {
      const small = await sharp(sound).resize(200).png().toBuffer();
      return sharp(small).resize(1920, 1080).png().toBuffer();
    },
    ['code'],
  ],
  ['words are as good as the ground', (sound) => sharp(sound).linear(0.12, 100).png().toBuffer(), ['contrast']],
  ['it is of another size', (sound) => sharp(sound).resize(1280, 720).png().toBuffer(), ['size']],
];

test.each(MUTANTS)('%s: the proof fails, and says it', async (_, broken, names) => {
  await codePrograms();
  const name = { prefix: '', given: 'Ilse', additional: '', family: 'Varrow', suffix: '', written: '' };
  const composition = CompositionSchema.parse({ name, lines: [] });
  const code = drawCode(symbolFor(LINK), PLAIN_STYLE);
  const typesetter = await shippedTypesetter();
  const face = layBackdrop(
    { composition, language: 'en', backdrop: FIRST, code, pictures: { photo: null, logo: null } },
    typesetter,
  );
  const { faceSvg } = await import('@/core/face');
  const sound = await sharp(Buffer.from(faceSvg(face, typesetter, {})))
    .png()
    .toBuffer();
  const failing = async (bytes: Buffer, withheld: string[] = []) => {
    const read = await readBackdrop(bytes, face);
    const { checks } = proveBackdrop(read, { composition, withheld, face, link: LINK, bytes: bytes.length });
    return checks.filter(({ passed }) => !passed).map((check) => check.name);
  };
  expect(await failing(sound)).toEqual([]);
  expect(await failing(await broken(sound))).toEqual(expect.arrayContaining(names));
  expect(await failing(sound, ['Varrow'])).toEqual(['unticked lines']);
});
