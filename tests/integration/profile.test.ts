import { seenElsewhere } from '@/core/profile';
import { inTenant, outsideTenants } from '@/server/db/pool';
import { sortInbox } from '@/server/db/response/events';
import type { Actor } from '@/server/services/accounts/actor';
import { openCard } from '@/server/services/cards/open-card';
import { setHandOutState } from '@/server/services/hand-outs/change';
import { openProfile, saveParameters } from '@/server/services/hand-outs/profile';
import { reusedHandOut } from '@/server/services/hand-outs/reused';
import { publishCard } from '@/server/services/publishing/publish-card';
import { ask, clock, fullCard, pageAt, refused } from './full-card';
import { newActor, useDatabase } from './place';

useDatabase();
let odile: Actor;
let cardId: string;
let id: string;
const PAGE = { channel: 'profile' as const, placement: 'Association’s list', occasionId: null };

beforeAll(async () => {
  odile = await newActor(clock);
  const made = await fullCard(odile);
  ({ cardId } = made);
  await publishCard(odile, cardId, { baseVersion: made.version, address: 'odile-elsewhere' }, clock);
  ({ id } = await reusedHandOut(odile, cardId, PAGE, clock));
});

test('a kit has a link of its own, and what that page sees of it is in the very answer; asked for as a prefetch nobody counts it', async () => {
  expect(await reusedHandOut(odile, cardId, { ...PAGE, placement: 'association’s LIST' }, clock)).toMatchObject({ id });
  const { link, title, texts } = await openProfile(odile, id, clock);
  const path = new URL(link).pathname;
  const seen = seenElsewhere(String((await ask(path, { 'sec-purpose': 'prefetch' })).body));
  expect(title.text).toContain(seen.title);
  expect([seen.description.length > 0, seen.imageAlt.includes(seen.title), seen.hidden]).toEqual([true, true, false]);
  const picture = await ask(new URL(seen.image).pathname);
  // JPEG, ISO/IEC 10918-1: SOI.
  expect([picture.status, (picture.body as Buffer).subarray(0, 2).toString('hex')]).toEqual([200, 'ffd8']);
  const page = await pageAt(path);
  expect(texts.some(({ text }) => text.length > 0)).toBe(true);
  for (const { text } of texts)
    for (const piece of text.split(' · ').filter(Boolean))
      expect(page).toContain(piece.slice(0, 20).replace(/[&'"<>].*/, ''));
  await outsideTenants(sortInbox);
  const events = await inTenant(odile.organisationId, (tx) => tx('events').where({ hand_out_id: id }).select('kind'));
  expect(events).toEqual([{ kind: 'view' }]);
});

test('links that lead away carry the holder’s parameters by this hand-out alone, in the page and not in the contact file', async () => {
  const path = new URL((await openProfile(odile, id, clock)).link).pathname;
  const { record } = await openCard(odile, cardId);
  const link = record.details.find((detail) => detail.kind === 'link') as { url: string } | undefined;
  expect(link).toBeDefined();
  expect(await pageAt(path)).not.toContain('source=list');
  await saveParameters(odile, id, '?source=list&kind=a b'.replace(' ', '%20'), clock);
  const [here, there] = [await pageAt(path), await pageAt('/c/odile-elsewhere')];
  expect(here).toContain('source=list&#38;kind=a+b');
  expect(there).not.toContain('source=list');
  expect(String((await ask(`${path}.vcf`)).body)).not.toContain('source=list');
  // Nothing of it in what programs read of the person.
  expect(/<script type="application\/ld\+json">[^]*?<\/script>/.exec(here)?.[0]).not.toContain('source=list');
  const { parameters } = await saveParameters(odile, id, '"><script>alert(1)</script>', clock);
  expect([parameters.includes('<'), (await pageAt(path)).includes('<script>alert')]).toEqual([false, false]);
  for (const wrong of ['=x', 'a b=1', 'a=1#b'])
    await expect(saveParameters(odile, id, wrong, clock)).rejects.toMatchObject(refused('INPUT'));
  await saveParameters(odile, id, '', clock);
  expect(await pageAt(path)).not.toContain('source=');
});

test('what rests has no kit, and a code has none', async () => {
  await setHandOutState(odile, id, { state: 'resting', notice: '' }, clock);
  await expect(openProfile(odile, id, clock)).rejects.toMatchObject(refused('CARD_NOT_PUBLISHED'));
  const code = (await openCard(odile, cardId)).handOuts.find(({ channel }) => channel === 'code')!;
  await expect(openProfile(odile, code.id, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  await expect(saveParameters(odile, code.id, 'a=1', clock)).rejects.toMatchObject(refused('NOT_FOUND'));
});
