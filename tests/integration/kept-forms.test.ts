import { readdirSync } from 'node:fs';
import sharp from 'sharp';
import { inTenant, outsideTenants } from '@/server/db/pool';
import { files } from '@/server/files';
import { deleteCard, deletePerson } from '@/server/services/cards/deletion';
import { eraseWhatEnded } from '@/server/services/cards/erase';
import { addPhoto } from '@/server/services/media/add-picture';
import { makePreview } from '@/server/services/publishing/preview-card';
import { deleteOrganisation } from '@/server/services/organisation/delete-organisation';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { openCard } from '@/server/services/cards/open-card';
import type { Actor } from '@/server/services/accounts/actor';
import { person, published } from './dressed';
import { ask, clock, newAnswer, pageAt } from './full-card';
import { newActor, useDatabase } from './place';

useDatabase();

/** Asks until something is there that comes a moment after an answer. */
async function soon<T>(look: () => Promise<T | null | undefined>): Promise<T> {
  for (let tries = 0; tries < 100; tries += 1) {
    const found = await look();
    if (found) return found;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
  throw new Error('it never came');
}
const drawings = ({ organisationId }: Actor): Promise<{ card_id: string; name: string; key: string; file: string }[]> =>
  inTenant(organisationId, (tx) => tx('drawings').orderBy('name'));
const linkPicture = async (path: string) =>
  new URL(/property="og:image" content="([^"]+)"/.exec(await pageAt(path))![1]!).pathname;
/** Has the file that a row names be another one, by which it is known that nothing was made anew. */
const planted = async (actor: Actor, table: string, set: (hash: string) => object, by: object) => {
  const hash = await files().put(Buffer.from(`planted in ${table}`));
  await inTenant(actor.organisationId, (tx) => tx(table).where(by).update(set(hash)));
};
const photo = async (actor: Actor, red: number) => {
  const pixels = sharp({ create: { width: 400, height: 500, channels: 3, background: { r: red, g: 40, b: 90 } } });
  return (await addPhoto(actor, await pixels.jpeg().toBuffer(), clock)).picture;
};

test('a drawing outlives the process and the version that it was made for, and goes once the card says something else', async () => {
  const actor = await newActor(clock);
  const { cardId } = await person(actor);
  await published(actor, cardId, 'drawn-once');
  const address = await linkPicture('/c/drawn-once');
  const first = await ask(address);
  expect((await sharp(first.body as Buffer).metadata()).format).toBe('jpeg');
  const [row] = await soon(async () => ((await drawings(actor)).length > 0 ? drawings(actor) : null));
  expect(row).toMatchObject({ card_id: cardId, name: 'link en jpeg' });
  expect(await files().get(row!.file)).toEqual(first.body);
  await planted(actor, 'drawings', (file) => ({ file }), { card_id: cardId });
  // A version that says the same: what it is drawn from did not change.
  await published(actor, cardId, 'drawn-once');
  expect(await linkPicture('/c/drawn-once')).toBe(address);
  expect(String((await ask(address, {}, newAnswer())).body)).toBe('planted in drawings');
  // What the store has lost is drawn again.
  await inTenant(actor.organisationId, (tx) => tx('drawings').update({ file: 'e'.repeat(64) }));
  expect((await ask(address, {}, newAnswer())).body).toEqual(first.body);

  // A draft that is looked at takes nobody's place; another version does.
  const kept = await soon(async () => (await drawings(actor)).find(({ file }) => file === row!.file));
  const { url } = await makePreview(actor, cardId, clock);
  const manifest = await ask(`${new URL(url).pathname}/manifest.webmanifest`);
  const { icons } = JSON.parse(String(manifest.body)) as { icons: { src: string }[] };
  expect((await ask(icons[0]!.src)).status).toBe(200);
  await published(actor, cardId, 'drawn-once', { layout: 'fold' });
  const other = await linkPicture('/c/drawn-once');
  expect(other).not.toBe(address);
  await ask(other);
  const [now, ...more] = await soon(async () => {
    const rows = await drawings(actor);
    return rows[0]!.key === kept.key ? null : rows;
  });
  expect(more).toEqual([]);
  expect(other).toContain(now!.key);
});

test('a photo’s lighter form is made as it comes in and read from the store; nobody draws for another organisation', async () => {
  const actor = await newActor(clock);
  const { recordId, cardId } = await person(actor);
  const hash = await photo(actor, 10);
  const form = (of: Actor): Promise<{ page_avif: string | null } | undefined> =>
    inTenant(of.organisationId, (tx) => tx('pictures').where({ hash }).first('page_avif'));
  const file = await soon(async () => (await form(actor))?.page_avif);
  expect((await sharp((await files().get(file))!).metadata()).compression).toBe('av1');
  await planted(actor, 'pictures', (page_avif) => ({ page_avif }), { hash });
  const { body, version } = await openRecord(actor, recordId);
  const detail = { kind: 'photo' as const, id: 'face', label: '', preferred: false, picture: hash };
  await saveRecord(actor, recordId, version, { ...body, details: [...body.details, detail] }, clock);
  const { lines } = await openCard(actor, cardId);
  const shown = lines.map((line) => ({ ...line, ticks: { ...line.ticks, page: true } }));
  await published(actor, cardId, 'light-photo', {}, { lines: shown });
  const avif = /\/c\/light-photo\/photo-[0-9a-f]{64}\.avif/.exec(await pageAt('/c/light-photo'))![0];
  expect(String((await ask(avif)).body)).toBe('planted in pictures');
  // The same picture of somebody else is theirs, and made for them.
  const stranger = await newActor(clock);
  expect(await photo(stranger, 10)).toBe(hash);
  expect(await soon(async () => (await form(stranger))?.page_avif)).toBe(file);
});

/** Whether a file lies in the store. */
const lies = (file: string) =>
  readdirSync(process.env.FILES_DIR!, { recursive: true }).some((name) => String(name).endsWith(file));
const later = 40 * 86_400_000;

test('what was made of a card is erased with it, files and all', async () => {
  const actor = await newActor(clock);
  const { cardId } = await person(actor);
  // Not the bytes of another card, which would stay with that one.
  await published(actor, cardId, 'drawn-and-erased', { layout: 'crag' });
  await ask(await linkPicture('/c/drawn-and-erased'));
  const [row] = await soon(async () => ((await drawings(actor)).length > 0 ? drawings(actor) : null));
  expect(lies(row!.file)).toBe(true);
  await deleteCard(actor, cardId, clock);
  await eraseWhatEnded(Date.now() + later);
  expect([await drawings(actor), lies(row!.file)]).toEqual([[], false]);
  expect(await outsideTenants((db) => db('drawings').where({ card_id: cardId }))).toEqual([]);
});

test.each([
  ['a person', (actor: Actor, recordId: string) => deletePerson(actor, recordId, clock)],
  ['an organisation', (actor: Actor) => deleteOrganisation({ ...actor, confirmedAt: clock.now() }, clock)],
])('with %s every form of a photo and every drawing is erased; another’s same photo stays', async (what, erase) => {
  const [actor, other] = [await newActor(clock), await newActor(clock)];
  const { recordId, cardId } = await person(actor, `Ilse of ${what}`);
  const [alone, shared] = [what.length, 200 + what.length];
  const forms = async (of: Actor, hash: string) =>
    inTenant(of.organisationId, (tx) => tx('pictures').where({ hash }).first('page_avif', 'page_hash', 'file_hash'));
  const made = (of: Actor, hash: string) =>
    soon(async () => ((await forms(of, hash))?.page_avif ? forms(of, hash) : null));
  const [mine, both] = [await photo(actor, alone), await photo(actor, shared)];
  expect(await photo(other, shared)).toBe(both);
  const gone = [mine, ...Object.values(await made(actor, mine))] as string[];
  const kept = [both, ...Object.values(await made(other, both)), ...Object.values(await made(actor, both))] as string[];
  const { body, version } = await openRecord(actor, recordId);
  const details = [mine, both].map((picture) => ({
    kind: 'photo' as const,
    id: picture.slice(0, 8),
    label: '',
    preferred: false,
    picture,
  }));
  await saveRecord(actor, recordId, version, { ...body, details: [...body.details, ...details] }, clock);
  await published(actor, cardId, `erased-with-${what.replace(/\W/g, '-')}`, { layout: 'crag' });
  await ask(await linkPicture(`/c/erased-with-${what.replace(/\W/g, '-')}`));
  gone.push(
    ...(await soon(async () => ((await drawings(actor)).length > 0 ? drawings(actor) : null))).map(({ file }) => file),
  );
  expect([...gone, ...kept].map(lies)).not.toContain(false);

  await erase(actor, recordId);
  await eraseWhatEnded(Date.now() + later);
  expect(await drawings(actor)).toEqual([]);
  expect(gone.map(lies)).not.toContain(true);
  expect(kept.map(lies)).not.toContain(false);
});
