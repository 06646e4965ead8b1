import { deviceOf, networkOf } from '@/core/access';
import { inTenant } from '@/server/db/pool';
import { settings } from '@/server/env';
import type { Actor } from '@/server/services/accounts/actor';
import { createRecord } from '@/server/services/records/create-record';
import { exportContacts } from '@/server/services/records/export-contacts';
import { confirmPassword } from '@/server/services/accounts/fresh';
import { listPeople } from '@/server/services/records/list-people';
import { addMember, changeMember, changePassword, removeMember } from '@/server/services/accounts/members';
import { readAudit } from '@/server/services/accounts/read-audit';
import {
  beginSecondFactor,
  confirmSecondFactor,
  dropSecondFactor,
  readSecondFactor,
  requireSecondFactor,
  resetSecondFactor,
} from '@/server/services/accounts/second-factor';
import {
  actorOf,
  beginSession,
  endOtherSessions,
  endOwnSession,
  listSessions,
} from '@/server/services/accounts/sessions';
import { signIn } from '@/server/services/accounts/sign-in';
import { signUp } from '@/server/services/accounts/sign-up';
import { useCommands } from '../heathland';
import { refused } from '../full-card';
import { codeOf } from '../../fixtures/totp';
import { countOf } from '@/server/services/accounts/limit-rate';
import { clockAt, newActor, useDatabase } from '../place';

useDatabase();
const command = useCommands();
const clock = clockAt('2026-11-24T09:00:00Z');
const PASSWORD = 'kestrels over a cold lake';
let accounts = 0;
async function account(): Promise<{ actor: Actor; email: string; token: string }> {
  const email = `sign-in-${(accounts += 1)}@heath.example`;
  const token = await signUp(
    { name: 'Ilse Varrow', email, password: PASSWORD, country: 'GB', timeZone: 'Europe/London' },
    clock,
  );
  return { actor: (await actorOf(token, clock))!, email, token };
}
const enter = (email: string, more: object = {}) =>
  signIn({ email, password: PASSWORD, from: '192.0.2.1', ...more }, clock);
const refusal = (made: Promise<unknown>) =>
  made.then(
    () => 'done',
    (error: { problem?: { code: string } }) => error.problem?.code ?? String(error),
  );

test('a code of our own making is that of the RFC’s test vector', () => {
  // RFC 6238, appendix B: the key “12345678901234567890”, SHA-1, 59 seconds: 94287082, of which the last six digits.
  expect(codeOf('GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ', 59_000)).toBe('287082');
});

test('passwords that stand on lists, are made of one’s own words or follow a pattern are refused, and it is said why', async () => {
  const attempt = (password: string) =>
    signUp(
      { name: 'Ilse Varrow', email: 'ilse.varrow@heath.example', password, country: 'GB', timeZone: 'Europe/London' },
      clock,
    );
  for (const [password, why] of [
    ['password12345', 'known'],
    ['ilsevarrow1', 'your own words'],
    ['qwertzuiop', 'keys in a row'],
    ['aaaaaaaaaaaa', 'repeats'],
    ['abcdefghijkl', 'a sequence'],
  ])
    await expect([password, await attempt(password!).catch((error: { problem: object }) => error.problem)]).toEqual([
      password,
      { code: 'PASSWORD_WEAK', why },
    ]);
  await expect(attempt('short')).rejects.toMatchObject(refused('PASSWORD_SHORT'));
});

test('where nobody signs up by themselves an owner still adds members, and where it is closed nobody comes in but by command', async () => {
  const owner = await newActor(clock);
  const fresh = { ...owner, confirmedAt: clock.now() };
  const stranger = { name: 'Stranger', email: 'stranger@heath.example', country: 'GB', timeZone: 'Europe/London' };
  const member = (email: string) =>
    addMember(
      fresh,
      { name: 'Ines', email, role: 'analyst', ownRecord: null, password: 'a wheatear over the beck' },
      clock,
    );
  try {
    settings().SIGN_UP = 'invited';
    await expect(signUp({ ...stranger, password: 'a wheatear over the beck' }, clock)).rejects.toMatchObject(
      refused('SIGN_UP_CLOSED'),
    );
    await member('ines@heath.example');
    settings().SIGN_UP = 'closed';
    await expect(member('ines-2@heath.example')).rejects.toMatchObject(refused('SIGN_UP_CLOSED'));
  } finally {
    settings().SIGN_UP = 'open';
  }
  expect(await signUp({ ...stranger, password: 'a wheatear over the beck' }, clock)).toEqual(expect.any(String));
});

test('guessing is slowed per account over all addresses, and locks nobody out of a browser that they have signed in with', async () => {
  const { actor, email } = await account();
  const { device } = await enter(email, { from: '192.0.2.7' });
  const guess = (at: number) => refusal(enter(email, { password: 'wrong as can be', from: `198.51.100.${at}` }));
  for (let at = 0; at < 4; at += 1) expect(await guess(at)).toBe('SIGN_IN_FAILED');
  // Those between are counted as they are, without the work that each password takes.
  for (let at = 4; at < 29; at += 1) expect((await countOf('guess', email, clock)).beyond).toBe(false);
  expect(await guess(29)).toBe('SIGN_IN_FAILED');
  // Beyond that each waits, a few at a time; the others are told to try again.
  const began = performance.now();
  const many = await Promise.all(Array.from({ length: 12 }, (_, at) => guess(100 + at)));
  expect(performance.now() - began).toBeGreaterThan(2_900);
  expect(many.filter((each) => each === 'TOO_BUSY')).toHaveLength(8);
  const quick = performance.now();
  expect(await refusal(enter(email, { from: '192.0.2.8', device }))).toBe('done');
  expect(performance.now() - quick).toBeLessThan(1_500);
  // One address alone gets ten, and whoever has the password is let in from another one, if later.
  for (let three = 0; three < 3; three += 1)
    await Promise.all([1, 2, 3].map(() => refusal(enter(email, { password: 'x', from: '192.0.2.9' }))));
  expect(await refusal(enter(email, { from: '203.0.113.9' }))).toBe('done');
  const { lines } = await readAudit(actor, { act: null, userId: null, subjectId: null, before: null });
  const told = lines.map(({ act }) => act);
  expect(told.filter((act) => act === 'session.failed').length).toBeGreaterThan(0);
  expect(told.filter((act) => act === 'session.failed').length).toBeLessThan(5);
  expect(told).toContain('session.throttled');
});

test('an IPv6 network is counted as one, an IPv4 address within IPv6 as itself', async () => {
  // RFC 3849 documentation addresses; RFC 5952 for their forms.
  for (const [address, network] of [
    ['2001:db8:1:2:3:4:5:6', '2001:db8:1:2::/64'],
    ['2001:db8:1:2::9', '2001:db8:1:2::/64'],
    ['2001:0db8:0001:0002:ffff::', '2001:db8:1:2::/64'],
    ['2001:db8::1', '2001:db8:0:0::/64'],
    ['::ffff:192.0.2.1', '192.0.2.1'],
    ['192.0.2.1', '192.0.2.1'],
    ['::1', '0:0:0:0::/64'],
  ])
    expect([address, networkOf(address!)]).toEqual([address, network]);
  const { email } = await account();
  for (let at = 0; at < 10; at += 1) await refusal(enter(email, { password: 'wrong', from: `2001:db8:7:7::${at}` }));
  expect(await refusal(enter(email, { from: '2001:db8:7:7:aaaa::1' }))).toBe('TOO_MANY_REQUESTS');
  expect(await refusal(enter(email, { from: '2001:db8:7:8::1' }))).toBe('done');
});

test('sessions are listed and ended one by one or all others; idle ones and those of before a new password end', async () => {
  const { actor, email, token } = await account();
  const phone =
    'Mozilla/5.0 (Linux; Android 15; Pixel 9) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/131.0.0.0 Mobile Safari/537.36';
  expect([deviceOf(phone), deviceOf('curl/8'), deviceOf('Mozilla/5.0 (X11; Linux x86_64)')]).toEqual([
    'phone',
    'program',
    'computer',
  ]);
  const second = await enter(email, { userAgent: phone });
  const third = await enter(email);
  const sessions = await listSessions(actor, clock);
  expect(sessions.map(({ device, isThis }) => [device, isThis])).toEqual(
    expect.arrayContaining([
      ['phone', false],
      ['program', true],
    ]),
  );
  const onPhone = sessions.find(({ device }) => device === 'phone')!;
  const stranger = await newActor(clock);
  await expect(endOwnSession(stranger, onPhone.id, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  await endOwnSession(actor, onPhone.id, clock);
  expect(await actorOf(second.token, clock)).toBeNull();
  expect(await endOtherSessions(actor, clock)).toEqual({ ended: 1 });
  expect([await actorOf(third.token, clock), (await actorOf(token, clock))?.userId]).toEqual([null, actor.userId]);
  // Signing in again renews the token of the same browser.
  const again = await enter(email, { session: token });
  expect([again.token === token, await actorOf(token, clock)]).toEqual([false, null]);
  const changed = await changePassword(
    (await actorOf(again.token, clock))!,
    { present: PASSWORD, next: 'otters under an old bridge', device: 'computer' },
    clock,
  );
  expect([await actorOf(again.token, clock), (await actorOf(changed.token, clock))?.userId]).toEqual([
    null,
    actor.userId,
  ]);
  clock.set('2026-11-26T08:00:00Z');
  expect(await actorOf(changed.token, clock)).not.toBeNull();
  clock.set('2026-11-28T07:00:00Z');
  expect(await actorOf(changed.token, clock)).not.toBeNull();
  clock.set('2026-12-01T08:00:00Z');
  expect(await actorOf(changed.token, clock)).toBeNull();
  clock.set('2026-11-24T09:00:00Z');
});

test('exporting everything and changing who may do what want a password typed lately', async () => {
  const { actor } = await account();
  const { recordId } = await createRecord(actor, { name: 'Keld', phone: '', email: '' }, clock);
  const keld = { name: 'Keld', email: `keld-${accounts}@heath.example`, role: 'analyst' as const, ownRecord: null };
  const { id } = await addMember(actor, { ...keld, password: 'a first password of theirs' }, clock);
  clock.set('2026-11-24T09:16:00Z');
  const all = { records: 'everybody' as const, cards: [], version: '3.0' as const };
  for (const attempt of [
    () => exportContacts(actor, all, clock),
    () => changeMember(actor, id, { role: 'owner', ownRecord: null }, clock),
    () => removeMember(actor, id, clock),
    () => requireSecondFactor(actor, true, clock),
    () => beginSecondFactor(actor, clock),
  ])
    expect(await refusal(attempt())).toBe('PASSWORD_STALE');
  expect((await exportContacts(actor, { ...all, records: [recordId] }, clock)).count).toBe(1);
  await expect(confirmPassword(actor, 'not this one', clock)).rejects.toMatchObject(refused('PASSWORD_WRONG'));
  await confirmPassword(actor, PASSWORD, clock);
  const [row] = await inTenant(actor.organisationId, (tx) => tx('sessions').where({ id: actor.sessionId }));
  const fresh = { ...actor, confirmedAt: (row as { confirmed_at: Date }).confirmed_at.getTime() };
  expect((await exportContacts(fresh, all, clock)).count).toBe(1);
  clock.set('2026-11-24T09:00:00Z');
});

test('a second factor: set up, asked for, used once, recovered from, required, reset by owner and operator', async () => {
  const { actor, email } = await account();
  const { secret, uri } = await beginSecondFactor(actor, clock);
  expect(uri).toContain(`secret=${secret}`);
  // Until its first code was right it is asked of nobody.
  expect(await refusal(enter(email))).toBe('done');
  await expect(confirmSecondFactor(actor, '000000', clock)).rejects.toMatchObject(refused('SECOND_FACTOR_WRONG'));
  const first = codeOf(secret, clock.now());
  const { codes } = await confirmSecondFactor(actor, first, clock);
  expect(new Set(codes).size).toBe(10);
  expect(await refusal(enter(email))).toBe('SECOND_FACTOR_NEEDED');
  expect(await refusal(enter(email, { password: 'wrong', code: first }))).toBe('SIGN_IN_FAILED');
  // The code that turned it on is used up.
  expect(await refusal(enter(email, { code: first }))).toBe('SECOND_FACTOR_WRONG');
  clock.set('2026-11-24T09:01:00Z');
  const second = codeOf(secret, clock.now());
  const twice = await Promise.all([refusal(enter(email, { code: second })), refusal(enter(email, { code: second }))]);
  expect(twice.sort()).toEqual(['SECOND_FACTOR_WRONG', 'done']);
  // A recovery code works once, however it is written.
  expect(await refusal(enter(email, { code: codes[0]!.toLowerCase().replace('-', ' ') }))).toBe('done');
  expect(await refusal(enter(email, { code: codes[0]! }))).toBe('SECOND_FACTOR_WRONG');
  // Whoever knows the password gets ten codes in a quarter of an hour.
  const guesses = await Promise.all(
    Array.from({ length: 12 }, (_, at) =>
      refusal(enter(email, { code: String(100_000 + at), from: `192.0.2.${50 + at}` })),
    ),
  );
  expect(guesses).toContain('TOO_MANY_REQUESTS');

  // Owners may require it: who has none sets one up before anything else.
  clock.set('2026-11-24T09:00:00Z');
  const owner = { ...actor, secondFactor: true };
  expect((await readSecondFactor(owner)).recoveryCodes).toBe(9);
  await requireSecondFactor(owner, true, clock);
  const keld = {
    name: 'Keld',
    email: `factor-${accounts}@heath.example`,
    role: 'administrator' as const,
    ownRecord: null,
  };
  const { id } = await addMember(owner, { ...keld, password: 'a first password of theirs' }, clock);
  await inTenant(actor.organisationId, (tx) => tx('users').where({ id }).update({ must_change_password: false }));
  const member = async () =>
    (await actorOf(await beginSession({ id, organisation_id: actor.organisationId }, 'phone', clock), clock))!;
  await expect(listPeople(await member(), {}, clock)).rejects.toMatchObject(refused('SECOND_FACTOR_REQUIRED'));
  const begun = await beginSecondFactor(await member(), clock);
  await confirmSecondFactor(await member(), codeOf(begun.secret, clock.now()), clock);
  expect((await listPeople(await member(), {}, clock)).people).toEqual([]);
  const before = await member();
  await resetSecondFactor(owner, id, clock);
  expect((await listSessions(before, clock)).length).toBe(0);
  expect((await member()).secondFactor).toBe(false);
  // And an owner who has lost everything is helped by whoever runs the installation.
  const done = command(process.env, 'account', 'reset-second-factor', email);
  expect([done.status, done.stderr]).toEqual([0, '']);
  clock.set('2026-11-24T10:00:00Z');
  expect(await refusal(enter(email))).toBe('done');
  clock.set('2026-11-24T09:00:00Z');
  await dropSecondFactor(owner, clock);
});
