import { writeLetter } from '@/core/letter';
import { welcomeLetter } from '@/core/words';
import type { Clock } from '@/server/clock';
import { updateMember } from '@/server/db/accounts/accounts';
import { LIMITS } from '@/core/limits';
import type { ShownMember } from '@/core/shown';
import { inTenant } from '@/server/db/pool';
import { writeStaff } from '@/server/db/roster/staff';
import type { Actor } from '@/server/services/accounts/actor';
import {
  askToInvite,
  inviteAgain,
  invitePeople,
  remindInvited,
  withdrawInvitation,
} from '@/server/services/accounts/invitations';
import { askForCode } from '@/server/services/accounts/mailed-code';
import { listMembers } from '@/server/services/accounts/members';
import { actorOf } from '@/server/services/accounts/sessions';
import { signIn } from '@/server/services/accounts/sign-in';
import { readWelcome, takeInvitation } from '@/server/services/accounts/welcome';
import { saveCard } from '@/server/services/cards/edit-card';
import { readMine } from '@/server/services/cards/mine';
import { openCard } from '@/server/services/cards/open-card';
import { readChanged } from '@/server/services/changes/undo-change';
import { cancelJob, readJob } from '@/server/services/jobs/jobs';
import { runJob } from '@/server/services/jobs/run-job';
import { sweep } from '@/server/services/jobs/sweeps';
import { listPeople } from '@/server/services/records/list-people';
import { openRecord, saveRecord } from '@/server/services/records/edit-record';
import { createRecord } from '@/server/services/records/create-record';
import { published } from '../dressed';
import { refused } from '../full-card';
import { clockAt, newActor, useDatabase } from '../place';
import { useTray } from '../tray';

const sent = useTray();
useDatabase();

const clock = clockAt('2026-11-24T09:00:00Z');
const after = (days: number) => ({ now: () => clock.now() + days * 86_400_000 });
const PHONE = 'phone' as const;
let maud: Actor;
let people = 0;

const person = async (
  name: string,
  email = `${name.toLowerCase().replace(/\W+/g, '.')}.${(people += 1)}@heath.example`,
) => {
  const input = { name, phone: '020 7946 0182', email, forWork: { phone: true, email: true } };
  return { email, ...(await createRecord(maud, input, clock)) };
};
async function invite(records: string[], at: Clock = clock) {
  const { job } = await askToInvite(maud, records, at);
  await runJob({ job, organisation: maud.organisationId }, invitePeople, at);
  return (await readChanged(maud, job))!;
}
const arrived = (at: Clock = clock) => sent(at);
const tokenIn = ({ text }: { text: string }) => /\/welcome\/([\w-]{43})/.exec(text)![1]!;
const take = (token: string, password: string | null, at: Clock = clock) =>
  takeInvitation({ token, password, device: PHONE as never }, at);
const enter = (email: string, more: object) =>
  signIn({ email, password: '', from: `198.51.100.${(people += 1) % 200}`, ...more }, clock);
const member = async (email: string, at: Clock = clock) =>
  (await listMembers(maud, {}, at)).members.find((each) => each.email === email)!;

beforeAll(async () => {
  maud = { ...(await newActor(clock)), confirmedAt: clock.now(), emailConfirmed: true };
  const confirmed = { email_confirmed_at: new Date(clock.now()) };
  await inTenant(maud.organisationId, (tx) => updateMember(tx, maud.organisationId, maud.userId, confirmed));
  await arrived();
});

test('somebody is invited in the language of their card, comes by a link that works once, and sees their own card and nothing else', async () => {
  const ilse = await person('Ilse Varrow');
  await person('Corin Hathersage');
  const card = await openCard(maud, ilse.cardId);
  const lines = { baseVersion: card.version, lines: card.lines, audience: card.audience, language: 'de' };
  await saveCard(maud, ilse.cardId, lines as Parameters<typeof saveCard>[2], clock);
  await published(maud, ilse.cardId, 'invited-ilse');
  expect(await invite([ilse.recordId])).toMatchObject({ of: 'invitation', changed: 1, leftCount: 0 });
  const [mail, ...more] = await arrived();
  expect([more.length, mail!.to]).toEqual([0, [ilse.email]]);
  expect(mail!.subject).toMatch(/Visitenkarte/);
  expect(mail!.text).toContain('Guten Tag Ilse Varrow');
  expect((await member(ilse.email)).invitation).toMatchObject({ state: 'waiting', times: 1 });
  // Nobody comes in without the link: there is no password that would fit.
  for (const password of ['', '!', 'a heron in a wet field'])
    await expect(enter(ilse.email, { password })).rejects.toMatchObject(refused('SIGN_IN_FAILED'));
  // Programs open links before people do: looking changes nothing.
  const token = tokenIn(mail!);
  for (const _ of [1, 2]) expect(await readWelcome(token, clock)).toMatchObject({ name: 'Ilse Varrow' });
  await expect(take(token, 'short')).rejects.toMatchObject(refused('PASSWORD_SHORT'));
  const [first, second] = await Promise.allSettled([take(token, null), take(token, null)]);
  expect([first!.status, second!.status].sort()).toEqual(['fulfilled', 'rejected']);
  const session = [first!, second!].flatMap((each) => (each.status === 'fulfilled' ? [each.value] : []))[0]!;
  await expect(take(token, null)).rejects.toMatchObject(refused('LINK_ENDED'));
  const holder = (await actorOf(session, clock))!;
  expect(holder).toMatchObject({ role: 'holder', ownRecord: ilse.recordId, emailConfirmed: true });
  expect((await member(ilse.email)).invitation).toBeNull();
  expect((await listPeople(holder, {}, clock)).people.map(({ name }) => name)).toEqual(['Ilse Varrow']);
  const mine = (await readMine(holder))!;
  expect(mine).toMatchObject({ name: 'Ilse Varrow', cardId: ilse.cardId, missing: ['photo', 'mobile'] });
  expect(mine.out!.svg).toMatch(/^<svg/);
});

test('a code by mail stands for the password: it works once, for ten minutes, six times tried, and for nobody else', async () => {
  const tam = await person('Tam Ellerby');
  await invite([tam.recordId]);
  await take(tokenIn((await arrived())[0]!), null);
  const codeSent = async () => {
    await askForCode(tam.email, clock);
    const subjects = (await arrived()).map(({ subject }) => subject).join('\n');
    return /^(\d{6}) is your code$/m.exec(subjects)![1]!;
  };
  const code = await codeSent();
  const wrong = code === '000000' ? '000001' : '000000';
  await expect(enter(tam.email, { mailed: wrong })).rejects.toMatchObject(refused('SIGN_IN_FAILED'));
  const { token } = await enter(tam.email, { mailed: code });
  expect((await actorOf(token, clock))!.email).toBe(tam.email);
  await expect(enter(tam.email, { mailed: code })).rejects.toMatchObject(refused('SIGN_IN_FAILED'));
  // Only its keyed hash is kept.
  const next = await codeSent();
  const kept = await inTenant(maud.organisationId, (tx) => tx('mailed_codes').select('code_hash'));
  expect(JSON.stringify(kept.map(({ code_hash }) => String(code_hash)))).not.toContain(next);
  const late = signIn({ email: tam.email, password: '', mailed: next, from: '198.51.100.9' }, after(11 / 1_440));
  await expect(late).rejects.toMatchObject(refused('SIGN_IN_FAILED'));
  const third = await codeSent();
  for (let tries = 0; tries < 6; tries += 1)
    await expect(enter(tam.email, { mailed: third === '111111' ? '111112' : '111111' })).rejects.toMatchObject(
      refused('SIGN_IN_FAILED'),
    );
  await expect(enter(tam.email, { mailed: third })).rejects.toMatchObject(refused('SIGN_IN_FAILED'));
  // Of an address that nobody has, and of one that nobody has confirmed, the answer is the same, and nothing is sent.
  const corin = await person('Corin Unconfirmed');
  await invite([corin.recordId]);
  await arrived();
  for (const email of ['nobody-at-all@heath.example', corin.email]) await askForCode(email, clock);
  expect(await arrived()).toEqual([]);
  // A mailbox is not filled by somebody else.
  for (let at = 0; at < 5; at += 1) await askForCode(tam.email, clock);
  expect((await arrived()).length).toBeLessThanOrEqual(2);
});

test('an invitation is sent again with another link, withdrawn, reminded of once, runs out, and ends with whoever leaves', async () => {
  const [one, two, three] = [await person('One Reed'), await person('Two Reed'), await person('Three Reed')];
  await invite([one.recordId, two.recordId, three.recordId]);
  const mails = await arrived();
  const tokenFor = ({ email }: { email: string }, from = mails) => tokenIn(from.find(({ to }) => to.includes(email))!);
  const { id } = await member(one.email);
  // An address that was mended meanwhile is the one that is written to.
  const { version, body } = await openRecord(maud, one.recordId);
  const mended = body.details.map((each) =>
    each.kind === 'email' ? { ...each, address: `mended.${one.email}` } : each,
  );
  await saveRecord(maud, one.recordId, version, { ...body, details: mended }, clock);
  await inviteAgain(maud, id, clock);
  one.email = `mended.${one.email}`;
  const [again] = await arrived();
  expect(again!.to).toEqual([one.email]);
  await expect(take(tokenIn(mails.find(({ to }) => one.email.endsWith(to[0]!))!), null)).rejects.toMatchObject(
    refused('LINK_ENDED'),
  );
  expect((await member(one.email)).invitation).toMatchObject({ times: 2, state: 'waiting' });
  await withdrawInvitation(maud, id, clock);
  await expect(take(tokenIn(again!), null)).rejects.toMatchObject(refused('LINK_ENDED'));
  await expect(withdrawInvitation(maud, id, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  // After four days, once; who was withdrawn is left alone.
  await remindInvited(after(4.1));
  const reminded = await arrived(after(4.1));
  expect(
    reminded
      .map(({ to }) => to[0])
      .filter((to) => /reed/.test(to!))
      .sort(),
  ).toEqual([three.email, two.email].sort());
  await remindInvited(after(4.2));
  expect(await arrived(after(4.2))).toEqual([]);
  await expect(take(tokenFor(two), null, after(4.2))).rejects.toMatchObject(refused('LINK_ENDED'));
  await take(tokenFor(two, reminded), null, after(4.2));
  // A week after the last one it has run out.
  await expect(take(tokenFor(three, reminded), null, after(12))).rejects.toMatchObject(refused('LINK_ENDED'));
  expect((await member(three.email, after(12))).invitation).toMatchObject({ state: 'expired' });
  // Whoever leaves is let in neither by the link nor by a new one.
  await inviteAgain(maud, (await member(three.email)).id, clock);
  const [last] = await arrived();
  await inTenant(maud.organisationId, (tx) => writeStaff(tx, three.recordId, { leaves_on: '2026-11-20' }));
  await sweep(['leavers'], clock);
  await expect(take(tokenIn(last!), null)).rejects.toMatchObject(refused('LINK_ENDED'));
  const gone = (await listMembers(maud, {}, clock)).members.find(({ email }) => email === three.email)!;
  await expect(inviteAgain(maud, gone.id, clock)).rejects.toMatchObject(refused('HAS_LEFT'));
});

test('whoever cannot be reminded costs only themselves, and is told', async () => {
  const [bad, good] = [await person('Bad Address'), await person('Good Address')];
  await invite([bad.recordId, good.recordId]);
  await arrived();
  const { id } = await member(bad.email);
  await inTenant(maud.organisationId, (tx) => tx('users').where({ id }).update({ email: 'no address at all' }));
  await sweep(['invitations'], after(4.5));
  expect((await arrived(after(4.5))).map(({ to }) => to[0])).toContain(good.email);
  const faults = await inTenant(maud.organisationId, (tx) => tx('faults').where({ sweep: 'invitations' }));
  expect(faults.map(({ subject }: { subject: string }) => subject)).toEqual([id]);
});

test('who cannot be invited is told with the reason; nobody invites without the right, an address of their own, or a fresh password', async () => {
  const known = await person('Known Already');
  await invite([known.recordId]);
  const nobody = await createRecord(maud, { name: 'No Mail', phone: '020 7946 0182', email: '' }, clock);
  const twin = await person('Twin Mail', known.email);
  const told = await invite([known.recordId, nobody.recordId, twin.recordId]);
  expect(told.left.map(({ person: who }) => who).sort()).toEqual(['Known Already', 'No Mail', 'Twin Mail']);
  expect(told).toMatchObject({ changed: 0, leftCount: 3 });
  await arrived();
  const records = [nobody.recordId];
  const stranger = { ...(await newActor(clock)), confirmedAt: clock.now(), emailConfirmed: true };
  await expect(askToInvite(stranger, records, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  await expect(askToInvite({ ...maud, role: 'brand keeper' }, records, clock)).rejects.toMatchObject(
    refused('NOT_ALLOWED'),
  );
  await expect(askToInvite({ ...maud, emailConfirmed: false }, records, clock)).rejects.toMatchObject(
    refused('EMAIL_UNCONFIRMED'),
  );
  await expect(askToInvite({ ...maud, confirmedAt: 0 }, records, clock)).rejects.toMatchObject(
    refused('PASSWORD_STALE'),
  );
  const { id } = await member(known.email);
  for (const act of [inviteAgain, withdrawInvitation])
    await expect(act(stranger, id, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
});

test.each(['en', 'de', 'fr', 'es', 'it', 'nl', 'pl', 'pt-BR'])(
  'a welcome in %s says where to go and for how long, and carries nothing that would be a link of somebody else’s',
  (language) => {
    const address = `https://studio.heath.example/welcome/${'x'.repeat(43)}`;
    const usual = welcomeLetter(language, { firm: 'Tarnhope Cableways', name: 'Ilse Varrow', address, again: false });
    expect(JSON.stringify(usual)).toContain('Tarnhope Cableways');
    const lure = { firm: 'Win at evil.example', name: 'go to http://evil.example now' };
    const { text, html } = writeLetter(welcomeLetter(language, { ...lure, address, again: true }));
    expect(`${text}${html}`).not.toMatch(/evil/);
    expect(text).toContain(address);
  },
);

test('welcomes wait for room in the outbox and are not left out; whoever stops the job ends the wait', async () => {
  const room = jest.replaceProperty(LIMITS, 'mailsWaiting', 2 as never);
  try {
    const [one, two, three, four] = [
      await person('Bryony Lathkill'),
      await person('Kit Ombersley'),
      await person('Yusuf Garrowby'),
      await person('Idris Pellew'),
    ];
    const welcomed = async () =>
      (await arrived())
        .filter(({ text }) => /\/welcome\//.test(text))
        .flatMap(({ to }) => to)
        .sort();
    const inviting = invite([one.recordId, two.recordId, three.recordId]);
    await new Promise((soon) => setTimeout(soon, 1_000));
    // Two wait to be sent, and the third one is nobody's yet.
    expect(await member(three.email)).toBeUndefined();
    expect(await welcomed()).toEqual([one.email, two.email]);
    expect(await inviting).toMatchObject({ changed: 3, leftCount: 0 });

    const { job } = await askToInvite(maud, [four.recordId], clock);
    jest.replaceProperty(LIMITS, 'mailsWaiting', 1 as never);
    const waiting = runJob({ job, organisation: maud.organisationId }, invitePeople, clock);
    await new Promise((soon) => setTimeout(soon, 500));
    await cancelJob(maud, job, clock);
    await waiting;
    expect(await readJob(maud, job)).toMatchObject({ state: 'cancelled' });
    expect(await welcomed()).toEqual([three.email]);
    expect(await member(four.email)).toBeUndefined();
  } finally {
    room.restore();
  }
});

test('hundreds of members are read page by page, everybody once, and found by letters of name or address', async () => {
  const owner = await newActor(clock);
  const stranger = await newActor(clock);
  const count = 230;
  await inTenant(owner.organisationId, (tx) =>
    tx.raw(
      `INSERT INTO users (id, organisation_id, email, password_hash, name, role, left_at)
       SELECT gen_random_uuid(), ?, 'm' || at || '.' || ? || '@heath.example', '!', 'Member ' || (at % 40), 'analyst',
         CASE WHEN at % 9 = 0 THEN now() END FROM generate_series(1, ?) at`,
      [owner.organisationId, owner.organisationId, count],
    ),
  );
  const seen: ShownMember[] = [];
  let pages = 0;
  for (let next: string | null = null; pages === 0 || next !== null; pages += 1) {
    const page = await listMembers(owner, { after: next }, clock);
    expect(page.present).toBe(1 + count - Math.floor(count / 9));
    seen.push(...page.members);
    next = page.next;
  }
  expect([pages, seen.length, new Set(seen.map(({ id }) => id)).size]).toEqual([3, count + 1, count + 1]);
  // Who has left comes last.
  expect(seen.map(({ hasLeft }) => hasLeft)).toEqual([...seen.map(({ hasLeft }) => hasLeft)].sort());
  const found = async (words: string) => (await listMembers(owner, { words }, clock)).members;
  expect((await found('MEMBER 39')).map(({ name }) => name)).toEqual(Array(5).fill('Member 39'));
  expect(await found(`m17.${owner.organisationId}`)).toHaveLength(1);
  // Letters that stand for others in a pattern stand for themselves.
  for (const odd of ['%', '_', "'", '\\']) expect(await found(odd)).toEqual([]);
  // A place in somebody else's list is none in this one.
  expect((await listMembers(stranger, { after: seen[3]!.id }, clock)).members).toEqual([]);
  expect((await listMembers(stranger, { words: 'Member' }, clock)).members).toEqual([]);
});
