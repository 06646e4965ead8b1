import { asOwner } from '../../../commands/cluster/databases';
import { askNewPassword, chooseNewPassword } from '@/server/services/accounts/forgotten';
import { addMember, changePassword, removeMember } from '@/server/services/accounts/members';
import {
  answerMove,
  askAgain,
  askToMove,
  confirmAddress,
  readConfirmation,
} from '@/server/services/accounts/own-address';
import type { Actor } from '@/server/services/accounts/actor';
import { actorOf } from '@/server/services/accounts/sessions';
import { rememberBrowser, signIn } from '@/server/services/accounts/sign-in';
import { signUp } from '@/server/services/accounts/sign-up';
import { readTray } from '@/server/services/mail/read-tray';
import { refused } from '../full-card';
import { clockAt, databaseUrl, newActor, useDatabase } from '../place';
import { useTray } from '../tray';

const sent = useTray();
useDatabase();

const clock = clockAt('2026-11-24T09:00:00Z');
const PASSWORD = 'kestrels over a cold lake';
let people = 0;
const fresh = (): string => `somebody-${(people += 1)}@heath.example`;
/** The browser that each always uses. */
const browsers = new Map<string, string>();
const join = async (email: string, name = 'Ilse Varrow', password = PASSWORD) => {
  const token = await signUp({ name, email, password, country: 'GB', timeZone: 'Europe/London' }, clock);
  browsers.set(email, await rememberBrowser(token, clock));
  return (await actorOf(token, clock))!;
};
const enter = (email: string, more: object = {}) =>
  signIn(
    { email, password: PASSWORD, device: browsers.get(email), from: `198.51.100.${(people += 1) % 200}`, ...more },
    clock,
  );

const arrived = () => sent(clock);
type Mail = Awaited<ReturnType<typeof arrived>>[number];
const linkOf = ({ text }: Mail) => /http:\/\/studio\.example\/[a-z-]+\/([\w-]{43})/.exec(text)?.[1];
const linkIn = (...mails: Mail[]) => mails.map(linkOf).find((link) => link !== undefined)!;
/** Somebody whose address is confirmed. */
async function confirmed(email = fresh()) {
  await join(email);
  await confirmAddress(linkIn(...(await arrived())), clock);
  const { token } = await enter(email);
  return { email, actor: (await actorOf(token, clock))! };
}

test('whoever signs up works at once, and confirms the address by the mail that arrives; nothing that they typed stands in it', async () => {
  const email = fresh();
  const actor = await join(email, 'Win at http://evil.example <b>now</b>');
  expect(actor.emailConfirmed).toBe(false);
  const [mail, ...more] = await arrived();
  expect([more.length, mail!.to, mail!.subject]).toEqual([0, [email], 'Confirm your address']);
  // Else anybody could write anything to anybody by signing up with their address.
  expect(`${mail!.text}${mail!.html}${JSON.stringify(mail!.headers)}`).not.toMatch(/evil|Win at/);
  const token = linkIn(mail!);
  // Programs open links before people do: looking changes nothing.
  for (const _ of [1, 2]) expect(await readConfirmation(token, clock)).toEqual({ email });
  await confirmAddress(token, clock);
  await expect(confirmAddress(token, clock)).rejects.toMatchObject(refused('LINK_ENDED'));
  expect((await actorOf((await enter(email)).token, clock))!.emailConfirmed).toBe(true);
  await askAgain((await actorOf((await enter(email)).token, clock))!, clock);
  expect(await arrived()).toEqual([]);
});

test('signing up with an address that somebody has is answered as any other; its owner alone is told, and each comes into their own', async () => {
  const { email, actor } = await confirmed();
  const other = await join(email, 'Maud Aldercott', 'a heron in a wet field');
  expect([other.email, other.emailConfirmed, other.organisationId === actor.organisationId]).toEqual([
    email,
    false,
    false,
  ]);
  expect((await arrived()).map(({ to, subject }) => [to, subject])).toEqual([[[email], 'You have an account already']]);
  await askAgain(other, clock);
  expect((await arrived()).map(({ subject }) => subject)).toEqual(['You have an account already']);
  const whose = async (password: string) => (await actorOf((await enter(email, { password })).token, clock))!.userId;
  expect([await whose(PASSWORD), await whose('a heron in a wet field')]).toEqual([actor.userId, other.userId]);
  await expect(enter(email, { password: 'neither of the two' })).rejects.toMatchObject(refused('SIGN_IN_FAILED'));
  // Once the address is free the other one confirms it.
  await asOwner(databaseUrl, (client) =>
    client.query('UPDATE users SET left_at = now() WHERE id = $1', [actor.userId]),
  );
  await askAgain(other, clock);
  await confirmAddress(linkIn(...(await arrived())), clock);
  expect(
    (await actorOf((await enter(email, { password: 'a heron in a wet field' })).token, clock))!.emailConfirmed,
  ).toBe(true);
});

test('a forgotten password is mended by mail to a confirmed address alone, once and within an hour; the answer tells nobody who has an account', async () => {
  const { email, actor } = await confirmed();
  const unconfirmed = (await join(fresh())).email;
  await arrived();
  const took: number[] = [];
  for (const asked of [email, unconfirmed, 'nobody@heath.example']) {
    const began = performance.now();
    expect(await askNewPassword(asked, clock)).toBeUndefined();
    took.push(performance.now() - began);
  }
  await expect(askNewPassword('no address', clock)).rejects.toMatchObject(refused('EMAIL_UNREADABLE'));
  // The same floor for all, however much more there was to do for one of them.
  expect(Math.min(...took)).toBeGreaterThan(390);
  const mails = await arrived();
  expect(mails.map(({ to }) => to)).toEqual([[email]]);
  const token = linkIn(mails[0]!);
  await expect(chooseNewPassword(token, 'short', clock)).rejects.toMatchObject(refused('PASSWORD_SHORT'));
  const session = (await enter(email)).token;
  const both = await Promise.allSettled([1, 2].map(() => chooseNewPassword(token, 'a heron in a wet field', clock)));
  expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  expect(await actorOf(session, clock)).toBeNull();
  await expect(enter(email)).rejects.toMatchObject(refused('SIGN_IN_FAILED'));
  expect((await actorOf((await enter(email, { password: 'a heron in a wet field' })).token, clock))!.userId).toBe(
    actor.userId,
  );
  expect((await arrived()).map(({ subject }) => subject)).toContain('Your password was changed');
  await askNewPassword(email, clock);
  const late = linkIn(...(await arrived()));
  const later = clockAt('2026-11-24T10:00:01Z');
  await expect(chooseNewPassword(late, 'a heron in a wet field again', later)).rejects.toMatchObject(
    refused('LINK_ENDED'),
  );
  for (const bad of ['', 'x'.repeat(43), '../../etc', late.slice(1)])
    await expect(chooseNewPassword(bad, 'a heron in a wet field again', clock)).rejects.toMatchObject(
      refused('LINK_ENDED'),
    );
});

test('an account moves once both addresses agree; either end stops it, and a taken address tells its owner alone', async () => {
  const { email, actor } = await confirmed();
  const [next, other] = [fresh(), (await confirmed()).email];
  const asked = async (to: string) => {
    await askToMove(actor, to, clock);
    return arrived();
  };
  const [toNew, toOld] = await asked(next);
  expect([toNew!.to, toOld!.to]).toEqual([[next], [email]]);
  expect(await answerMove(linkIn(toNew!), true, clock)).toEqual({ state: 'waits' });
  expect(await answerMove(linkIn(toOld!), false, clock)).toEqual({ state: 'stopped' });
  await expect(answerMove(linkIn(toNew!), true, clock)).rejects.toMatchObject(refused('LINK_ENDED'));
  // The same from outside, and no link that anybody could agree by.
  const [toOwner, toMe] = await asked(other);
  expect([toOwner!.to, toOwner!.subject]).toEqual([[other], 'You have an account already']);
  expect(await answerMove(linkIn(toMe!), true, clock)).toEqual({ state: 'waits' });
  const [again, from] = await asked(next);
  expect(await answerMove(linkIn(from!), true, clock)).toEqual({ state: 'waits' });
  expect(await answerMove(linkIn(again!), true, clock)).toEqual({ state: 'moved' });
  expect((await arrived()).map(({ to, subject }) => [to, subject])).toEqual([[[email], 'Your account has moved']]);
  await expect(enter(email)).rejects.toMatchObject(refused('SIGN_IN_FAILED'));
  expect((await actorOf((await enter(next)).token, clock))!.emailConfirmed).toBe(true);
  const stale = { ...actor, confirmedAt: clock.now() - 3_600_000 };
  await expect(askToMove(stale, fresh(), clock)).rejects.toMatchObject(refused('PASSWORD_STALE'));
});

test('whoever signs in on a device that is new to an account is told of to its owner; a changed password too', async () => {
  const { email, actor } = await confirmed();
  expect(await arrived()).toEqual([]);
  await enter(email, { device: undefined, userAgent: 'Mozilla/5.0 (Linux; Android 14) Mobile' });
  const [mail] = await arrived();
  expect([mail!.subject, mail!.text.includes('a phone')]).toEqual(['Somebody signed in to your account', true]);
  // Nothing that a client sends about itself stands in it, and no address of a network.
  expect(mail!.text).not.toMatch(/Android|198\.51/);
  await enter(email);
  expect(await arrived()).toEqual([]);
  await changePassword(actor, { present: PASSWORD, next: 'a heron in a wet field', device: 'phone' }, clock);
  expect((await arrived()).map(({ subject }) => subject)).toEqual(['Your password was changed']);
});

test('a changed password ends the links into an account that somebody else may hold, and asking for one again is counted apart from other letters', async () => {
  const { email, actor } = await confirmed();
  await askNewPassword(email, clock);
  await askToMove(actor, fresh(), clock);
  const links = (await arrived()).map((mail) => linkIn(mail));
  expect(links.length).toBe(3);
  await changePassword(actor, { present: PASSWORD, next: 'a heron in a wet field', device: 'phone' }, clock);
  await expect(chooseNewPassword(links[0]!, 'an owl over the long mill', clock)).rejects.toMatchObject(
    refused('LINK_ENDED'),
  );
  for (const link of links) {
    const answer = answerMove(link, true, clock);
    await expect(answer).rejects.toMatchObject(refused('LINK_ENDED'));
  }
  // A stranger uses the letters of an hour up by signing up with somebody's address; the way back in is still there.
  for (let at = 0; at < 6; at += 1) await join(email);
  await arrived();
  await askNewPassword(email, clock);
  const way = (await arrived()).find(({ to, subject }) => to.includes(email) && subject === 'Choose a new password');
  await chooseNewPassword(linkIn(way!), 'an owl over the long mill', clock);
});

test('no letter box is filled: five letters an hour to an address that has not agreed, whoever asks for them', async () => {
  const email = fresh();
  const actor = await join(email);
  for (let at = 0; at < 4; at += 1) await askAgain(actor, clock);
  await expect(askAgain(actor, clock)).rejects.toMatchObject(refused('TOO_MANY_REQUESTS'));
  await join(email);
  await expect(askToMove(await newActor(clock), email, clock)).rejects.toMatchObject(refused('TOO_MANY_REQUESTS'));
  expect((await arrived()).filter(({ to }) => to.includes(email))).toHaveLength(5);
});

test('the tray shows a member what concerns them, and no link of anybody else, not even of their own organisation', async () => {
  const { email, actor } = await confirmed();
  const colleague = { name: 'Renske', email: fresh(), password: 'chairlift at noon', ownRecord: null };
  const add = (by: Actor) => addMember(by, { ...colleague, role: 'administrator' }, clock);
  await expect(add({ ...actor, emailConfirmed: false })).rejects.toMatchObject(refused('EMAIL_UNCONFIRMED'));
  await add(actor);
  const mine = await readTray(actor);
  expect(mine.map(({ to }) => to)).toEqual([[email]]);
  expect(mine[0]!.headers.find(([name]) => name === 'message-id')![1]).toMatch(/@heath\.example>$/);
  const stranger = await newActor(clock);
  await askAgain(stranger, clock);
  await arrived();
  expect(new Set((await readTray(stranger)).flatMap(({ to }) => to))).toEqual(new Set([stranger.email]));
  expect(await readTray({ ...actor, organisationId: stranger.organisationId })).toEqual([]);
});

test('who is removed is written to no more: their links end with them', async () => {
  const { actor: owner } = await confirmed();
  const email = fresh();
  const place = { role: 'administrator' as const, ownRecord: null };
  const { id } = await addMember(
    owner,
    { name: 'Renske van der Aa', email, password: 'chairlift at noon', ...place },
    clock,
  );
  const { token } = await enter(email, { password: 'chairlift at noon' });
  await askAgain((await actorOf(token, clock))!, clock).catch(() => undefined);
  const [mail] = await arrived();
  await removeMember(owner, id, clock);
  await expect(confirmAddress(linkIn(mail!), clock)).rejects.toMatchObject(refused('LINK_ENDED'));
});
