import { PLAIN_STYLE } from '@/core/qr';
import type { ShownHandOut } from '@/core/shown';
import { asOwner } from '../../../commands/cluster/databases';
import type { Actor } from '@/server/services/accounts/actor';
import { addMember } from '@/server/services/accounts/members';
import { actorOf } from '@/server/services/accounts/sessions';
import { signIn } from '@/server/services/accounts/sign-in';
import { setState } from '@/server/services/cards/card-state';
import { find } from '@/server/services/cards/find';
import { openCard } from '@/server/services/cards/open-card';
import { duplicateHandOut, pointElsewhere, renameHandOut, setHandOutState } from '@/server/services/hand-outs/change';
import { openCode, restyle } from '@/server/services/hand-outs/codes';
import { makeHandOut } from '@/server/services/hand-outs/make';
import { makeOccasion } from '@/server/services/hand-outs/occasions';
import { makeSignature } from '@/server/services/hand-outs/signature';
import { publishCard } from '@/server/services/publishing/publish-card';
import { createRecord } from '@/server/services/records/create-record';
import { ask, clock, newAnswer, refused } from '../full-card';
import { databaseUrl, newActor, useDatabase } from '../place';

useDatabase();
let [maud, stranger]: [Actor, Actor] = [] as never;
let people = 0;

/** A published card of a new person, with the code that it came with. */
async function published(actor: Actor, name: string) {
  const { recordId, cardId } = await createRecord(actor, { name, phone: '020 7946 0182', email: '' }, clock);
  await publishCard(actor, cardId, { baseVersion: 1, address: `of-${(people += 1)}` }, clock);
  const [{ id, code }] = (await openCard(actor, cardId)).handOuts as ShownHandOut[] as [ShownHandOut];
  return { recordId, cardId, id, code, address: `of-${people}` };
}
const seen = async (path: string, by?: Parameters<typeof ask>[2]) => {
  const { status, body } = await ask(path, {}, by);
  return { status, text: String(body) };
};

beforeAll(async () => {
  [maud, stranger] = [await newActor(clock), await newActor(clock)];
});

test('a hand-out gets another placement and occasion; what it opens and its counts stay', async () => {
  const own = await published(maud, 'Ilse Varrow');
  const { id: fair } = await makeOccasion(
    maud,
    { name: 'Cable Days', place: '', firstDay: '2026-12-01', lastDay: '2026-12-02' },
    clock,
  );
  await seen(`/h/${own.code}`);
  await renameHandOut(maud, own.id, { placement: '  Stand \u202e banner ', occasionId: fair }, clock);
  const [shown] = (await openCard(maud, own.cardId)).handOuts;
  expect(shown).toMatchObject({
    placement: 'Stand banner',
    code: own.code,
    occasion: { id: fair, name: 'Cable Days' },
  });
  expect((await find(maud, 'stand banner')).map(({ name }) => name).join()).toContain('Stand banner');
  for (const placement of ['', '   ', '\u202e'])
    await expect(renameHandOut(maud, own.id, { placement, occasionId: null }, clock)).rejects.toMatchObject(
      refused('INPUT'),
    );
  const theirs = await makeOccasion(
    stranger,
    { name: 'Theirs', place: '', firstDay: '2026-12-01', lastDay: '2026-12-02' },
    clock,
  );
  await expect(renameHandOut(maud, own.id, { placement: 'x', occasionId: theirs.id }, clock)).rejects.toMatchObject(
    refused('NOT_FOUND'),
  );
});

test('one hand-out rests and is retired while its card and the others go on, at once in every process; it comes back as it was', async () => {
  const own = await published(maud, 'Ilse Varrow');
  const other = newAnswer();
  for (const by of [undefined, other]) expect((await seen(`/h/${own.code}`, by)).text).toContain('7946 0182');
  for (const state of ['resting', 'retired'] as const) {
    const notice = `Find us at the ${state} <b>helmet desk</b>.`;
    await setHandOutState(maud, own.id, { state, notice }, clock);
    for (const by of [undefined, other])
      for (const path of [`/h/${own.code}`, `/h/${own.code}.vcf`]) {
        const { text } = await seen(path, by);
        expect([state, path, text.includes('7946 0182'), text.includes('<b>helmet')]).toEqual([
          state,
          path,
          false,
          false,
        ]);
        expect(text).toContain(`at the ${state}`);
      }
    expect((await seen(`/c/${own.address}`, other)).text).toContain('7946 0182');
  }
  await setHandOutState(maud, own.id, { state: 'out', notice: '' }, clock);
  expect((await seen(`/h/${own.code}`, other)).text).toContain('7946 0182');
  // A card that rests rests everywhere, whatever its hand-outs say.
  await setState(maud, own.cardId, { state: 'resting', notice: 'Away', instead: null }, clock);
  expect((await seen(`/h/${own.code}`, other)).text).not.toContain('7946 0182');
});

test('a printed code opens another card from now on, in every process; its history is kept, and views count where they happen', async () => {
  const [from, to] = [await published(maud, 'Ilse Varrow'), await published(maud, 'Renske van der Aa')];
  const other = newAnswer();
  for (const by of [undefined, other]) expect((await seen(`/h/${from.code}`, by)).text).toContain('Ilse');
  await pointElsewhere(maud, from.id, to.cardId, clock);
  for (const by of [undefined, other]) {
    const { text } = await seen(`/h/${from.code}`, by);
    expect([text.includes('Renske'), text.includes('Ilse')]).toEqual([true, false]);
  }
  expect((await openCard(maud, from.cardId)).handOuts).toEqual([]);
  expect((await openCard(maud, to.cardId)).handOuts.map(({ code }) => code).sort()).toEqual(
    [from.code, to.code].sort(),
  );
  const opened = async (by: Actor) =>
    (await openCard(by, to.cardId)).handOuts.map(({ code, earlier }) => [code, earlier.map(({ card }) => card?.name)]);
  expect(await opened(maud)).toEqual(
    expect.arrayContaining([
      [from.code, ['Ilse Varrow']],
      [to.code, []],
    ]),
  );
  // A holder reads that it opened another card, and not whose.
  const holder: Actor = { ...maud, role: 'holder', ownRecord: (await openCard(maud, to.cardId)).recordId };
  expect(await opened(holder)).toContainEqual([from.code, [undefined]]);
  const found = await asOwner(databaseUrl, (client) =>
    client.query('SELECT card_id FROM findable WHERE id = $1', [from.id]),
  );
  expect(found.rows[0]).toEqual({ card_id: to.cardId });
  // A script that moves it all day makes no table of a card heavier.
  for (let at = 0; at < 12; at += 1) await pointElsewhere(maud, from.id, at % 2 ? to.cardId : from.cardId, clock);
  expect((await openCard(maud, to.cardId)).handOuts.find(({ code }) => code === from.code)?.earlier).toHaveLength(10);
  // Two who point it in opposite directions at once leave it at one of the two.
  await Promise.allSettled([
    pointElsewhere(maud, from.id, from.cardId, clock),
    pointElsewhere(maud, to.id, from.cardId, clock),
    pointElsewhere(maud, from.id, to.cardId, clock),
  ]);
  const { text } = await seen(`/h/${from.code}`, other);
  expect(text.includes('Renske') !== text.includes('Ilse')).toBe(true);
});

test('what carries lines in itself stays with its card; nobody points a code at what is not theirs, not out, or not there', async () => {
  const [own, draft] = [
    await published(maud, 'Ilse Varrow'),
    await createRecord(maud, { name: 'Draft', phone: '', email: '' }, clock),
  ];
  const theirs = await published(stranger, 'Odile Brandreth');
  const frozen = await makeHandOut(maud, { cardId: own.cardId, placement: 'Badge', frozen: true }, clock);
  const signature = await makeSignature(maud, own.cardId, clock);
  const target = await published(maud, 'Renske van der Aa');
  for (const fixed of [frozen.id, signature.id])
    await expect(pointElsewhere(maud, fixed, target.cardId, clock)).rejects.toMatchObject(refused('HAND_OUT_FIXED'));
  for (const [cardId, code] of [
    [theirs.cardId, 'NOT_FOUND'],
    ['00000000-0000-4000-8000-000000000000', 'NOT_FOUND'],
    [draft.cardId, 'CARD_NOT_PUBLISHED'],
  ] as const)
    await expect(pointElsewhere(maud, own.id, cardId, clock)).rejects.toMatchObject(refused(code));
  await expect(pointElsewhere(maud, theirs.id, own.cardId, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  // A holder takes no colleague's card for their own code, and no colleague's code.
  const email = 'holder-of-codes@heath.example';
  await addMember(
    maud,
    { name: 'Ilse', email, password: 'chairlift at noon', role: 'holder', ownRecord: own.recordId },
    clock,
  );
  const { token } = await signIn({ email, password: 'chairlift at noon', from: '192.0.2.7' }, clock);
  const holder = { ...(await actorOf(token, clock))!, mustChangePassword: false };
  await expect(pointElsewhere(holder, own.id, target.cardId, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  await expect(setHandOutState(holder, target.id, { state: 'retired', notice: '' }, clock)).rejects.toMatchObject(
    refused('NOT_FOUND'),
  );
  await setHandOutState(holder, own.id, { state: 'resting', notice: '' }, clock);
});

test('another like it does the same and looks the same under a code of its own', async () => {
  const own = await published(maud, 'Ilse Varrow');
  const content = {
    what: 'call' as const,
    line: (await openCard(maud, own.cardId)).lines.find(({ detail }) => detail !== 'name')!.detail,
  };
  const { id } = await makeHandOut(maud, { cardId: own.cardId, placement: 'Van', content }, clock);
  await restyle(maud, id, { style: { ...PLAIN_STYLE, ink: '#4B2A55', modules: 'dots', fill: 90 }, all: false }, clock);
  const again = await duplicateHandOut(maud, id, clock);
  const [first, second] = [await openCode(maud, id, clock), await openCode(maud, again.id, clock)];
  expect([second.placement, second.text, second.code === first.code]).toEqual(['Van (2)', first.text, false]);
  expect(second.style).toEqual(first.style);
  await expect(duplicateHandOut(stranger, id, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
});
