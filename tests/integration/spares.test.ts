import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { openCard } from '@/server/services/cards/open-card';
import { pointElsewhere } from '@/server/services/hand-outs/change';
import { giveSpare, listSpares, makeSpares } from '@/server/services/hand-outs/spares';
import { publishCard } from '@/server/services/publishing/publish-card';
import { createRecord } from '@/server/services/records/create-record';
import { ask, clock, pageAt, refused } from './full-card';
import { newActor, useDatabase } from './place';

useDatabase();
let maud: Actor;
let cardId: string;
const BLANK = { count: 3, placement: 'Blank cards of May' };

async function publishedCard(actor: Actor, name: string, address: string) {
  const { cardId: id } = await createRecord(actor, { name, phone: '020 7946 0182', email: '' }, clock);
  await publishCard(actor, id, { baseVersion: 1, address }, clock);
  return id;
}
const give = (code: string, more: object = {}, actor = maud) =>
  giveSpare(actor, { cardId, code, placement: '', ...more }, clock);

beforeAll(async () => {
  maud = await newActor(clock);
  cardId = await publishedCard(maud, 'Ilse Varrow', 'takes-spares');
});

test('a code made in advance says that it leads to no card yet, and opens the card from when it is given to one; its history goes on', async () => {
  const { codes } = await makeSpares(maud, BLANK, clock);
  const [one] = codes as [(typeof codes)[number]];
  expect([codes.length, new Set(codes.map(({ code }) => code)).size]).toEqual([3, 3]);
  const path = new URL(one.link).pathname;
  for (const at of [path, `${path}.vcf`]) expect((await ask(at)).status).toBe(404);
  expect(await pageAt(path)).toContain('This code leads to no card yet');
  // A code that was never issued says something else.
  expect(await pageAt('/h/00000000')).not.toContain('no card yet');
  const { id } = await give(` ${one.link.toLowerCase()}?x `);
  const page = await ask(path);
  expect([page.status, String(page.body).includes('Ilse Varrow'), page.headers['Heathland-Event']]).toEqual([
    200,
    true,
    'recorded',
  ]);
  expect((await openCard(maud, cardId)).handOuts.find((each) => each.id === id)).toMatchObject({
    ...{ code: one.code, placement: BLANK.placement, channel: 'code', frozen: false, state: 'out' },
  });
  expect((await listSpares(maud)).codes.map(({ code }) => code)).not.toContain(one.code);
  const other = await publishedCard(maud, 'Dell Hythe', 'takes-over');
  await pointElsewhere(maud, id, other, clock);
  expect(await pageAt(path)).toContain('Dell Hythe');
  await expect(give(one.code)).rejects.toMatchObject(refused('CODE_GIVEN'));
});

test('two who give one code to a card at once: one of them does; nobody else’s code can be given', async () => {
  const [code] = (await makeSpares(maud, { ...BLANK, count: 1 }, clock)).codes.map((each) => each.code) as [string];
  const two = await Promise.allSettled([give(code), give(code)]);
  expect(two.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  const stranger = await newActor(clock);
  const own = await publishedCard(stranger, 'Wilf', 'strangers-own');
  const [left] = (await listSpares(maud)).codes;
  await expect(give(left!.code, { cardId: own }, stranger)).rejects.toMatchObject(refused('CODE_NOT_SPARE'));
  await expect(give(left!.code, { cardId: own })).rejects.toMatchObject(refused('NOT_FOUND'));
  expect((await listSpares(stranger)).codes).toEqual([]);
});

test('bad input: letters that are no code, a number without end, a draft', async () => {
  for (const code of ['', 'ilse', '0'.repeat(300), '../../etc/passwd', 'ÅÅÅÅÅÅÅÅ'])
    await expect(give(code)).rejects.toMatchObject(refused('CODE_NOT_SPARE'));
  for (const count of [0, 501, 1.5, Number.NaN])
    await expect(makeSpares(maud, { ...BLANK, count }, clock)).rejects.toMatchObject(refused('INPUT'));
  await expect(makeSpares(maud, { ...BLANK, placement: ' \u202e ' }, clock)).rejects.toMatchObject(refused('INPUT'));
  for (let at = 0; at < 3; at += 1) await makeSpares(maud, { ...BLANK, count: 500 }, clock);
  await expect(makeSpares(maud, { ...BLANK, count: 500 }, clock)).rejects.toMatchObject(refused('SPARES_FULL'));
  const { cardId: draft } = await createRecord(maud, { name: 'Keld', phone: '', email: '' }, clock);
  const [left] = (await listSpares(maud)).codes;
  await expect(give(left!.code, { cardId: draft })).rejects.toMatchObject(refused('CARD_NOT_PUBLISHED'));
  const rows = await inTenant(maud.organisationId, (tx) => tx('spare_codes').where({ code: left!.code }));
  expect(rows).toHaveLength(1);
});
