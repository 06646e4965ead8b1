import { simpleParser } from 'mailparser';
import { asOwner } from '../../commands/cluster/databases';
import { Refusal } from '@/core/errors';
import { writeLetter } from '@/core/letter';
import { LIMITS } from '@/core/limits';
import { db, inTenant, type Tx } from '@/server/db/pool';
import type { MailDoor } from '@/server/mail';
import type { Actor } from '@/server/services/accounts/actor';
import { listFaults } from '@/server/services/jobs/faults';
import { postMail } from '@/server/services/mail/post-mail';
import { forgetOldMail, sendDueMail, waitAfter } from '@/server/services/mail/send-mail';
import { sendMail } from '@/server/listen/mail-lanes';
import { clockAt, databaseUrl, newActor, useDatabase } from './place';

useDatabase();
let actors: Actor[];
const clock = clockAt('2026-11-24T09:00:00Z');
beforeAll(async () => {
  actors = [await newActor(clock), await newActor(clock)];
  // From here on mail would leave; the doors are the tests' own.
  const { settings } = await import('@/server/env');
  Object.assign(settings(), { MAIL_SERVER: 'smtp://127.0.0.1:1', MAIL_FROM: 'cards@heath.example' });
});
const owner = <T extends object>(text: string, values: unknown[] = []) =>
  asOwner(databaseUrl, async (client) => (await client.query<T>(text, values)).rows);
beforeEach(() => owner('DELETE FROM outbox'));

const DAY = 86_400_000;
const letter = writeLetter({
  ...{ subject: 'Grüße vom Seil', greeting: 'Guten Tag,', paragraphs: ['<b>kein Markup</b> & mehr'], act: null },
  ...{ below: [], signed: 'Maud' },
});
const post = (tx: Tx, actor: Actor, more: object = {}) => {
  const to = { name: '', address: 'ilse@heath.example' };
  const who = { organisationId: actor.organisationId, userId: actor.userId };
  return postMail(tx, { ...who, kind: 'message', urgent: false, holdsMs: 4 * DAY, to, letter, ...more }, clock);
};
const posted = (actor: Actor, more?: object) => inTenant(actor.organisationId, (tx) => post(tx, actor, more));

type Sent = { to: string; raw: Buffer };
/** A door that does as it is told with each mail, and remembers them. */
const doorOf = (what: (at: number) => Promise<void> | void = () => undefined): MailDoor & { sent: Sent[] } => {
  const sent: Sent[] = [];
  return {
    sent,
    greet: () => Promise.resolve(),
    send: async ({ to, raw }) => {
      sent.push({ to, raw });
      await what(sent.length - 1);
    },
  };
};
const away = () => {
  throw new Refusal({ code: 'MAIL_UNAVAILABLE' });
};
const rows = () => owner<Record<string, unknown>>('SELECT * FROM outbox ORDER BY created_at, due_at');

test('a mail is there with its act or not at all, and is sent once it holds', async () => {
  const act = inTenant(actors[0]!.organisationId, async (tx) => {
    await post(tx, actors[0]!);
    throw new Error('the act fails');
  });
  await expect(act).rejects.toThrow('the act fails');
  const door = doorOf();
  expect(await sendDueMail(door, clock)).toBe(0);
  const id = await posted(actors[0]!);
  expect(await sendDueMail(door, clock)).toBe(1);
  const read = await simpleParser(door.sent[0]!.raw);
  expect([read.messageId, read.subject, read.from?.text]).toEqual([
    `<${id}@heath.example>`,
    'Grüße vom Seil',
    '"Heathland" <cards@heath.example>',
  ]);
  // Both bodies say the same, and nothing typed is markup.
  expect([read.text?.includes('<b>kein Markup</b> & mehr'), String(read.html).includes('<b>')]).toEqual([true, false]);
});

test('after sending its text and its recipient are gone; who sends reads them alone, and no other tenant sees the row', async () => {
  await posted(actors[0]!);
  const asApp = (organisationId: string, columns: string) =>
    inTenant(organisationId, async (tx) => (await tx.raw<{ rows: object[] }>(`SELECT ${columns} FROM outbox`)).rows);
  for (const column of ['message', 'recipient'])
    await expect(asApp(actors[0]!.organisationId, column)).rejects.toMatchObject({ code: '42501' });
  expect(await asApp(actors[1]!.organisationId, 'id')).toEqual([]);
  await expect(db().raw('UPDATE outbox SET sent_at = now()')).rejects.toMatchObject({ code: '42501' });
  await sendDueMail(doorOf(), clock);
  expect(await rows()).toMatchObject([{ message: null, recipient: null, problem: null, tries: 1 }]);
  expect((await rows())[0]!.sent_at).not.toBeNull();
});

test('a server that is away is tried again, later and later, with the same bytes; what is of no use any more is given up', async () => {
  const own = clockAt('2026-11-24T09:00:00Z');
  await posted(actors[0]!, { holdsMs: 600_000 });
  const door = doorOf(away);
  const tried: number[] = [];
  for (let second = 0; second <= 700; second += 1) {
    own.set(new Date(clock.now() + second * 1_000).toISOString());
    if ((await sendDueMail(door, own)) > 0) tried.push(second);
  }
  // Doubling, so that a server that comes back is not met by all at once: 5, 10, 20 … seconds.
  expect(tried).toEqual([0, 5, 15, 35, 75, 155, 315]);
  expect(new Set(door.sent.map(({ raw }) => raw.toString('base64'))).size).toBe(1);
  expect(await rows()).toMatchObject([{ message: null, recipient: null, problem: 'MAIL_UNAVAILABLE', sent_at: null }]);
  expect((await listFaults(actors[0]!)).map(({ sweep, code }) => [sweep, code])).toEqual([
    ['mail', 'MAIL_UNAVAILABLE'],
  ]);
  // RFC 5321, 4.5.4.1: "at least 30 minutes" between tries once a server has been away for long.
  expect([waitAfter(9), waitAfter(10), waitAfter(1_000)]).toEqual([1_280_000, 1_800_000, 1_800_000]);
});

test('what is refused for good is not tried again, and keeps none of the others from leaving', async () => {
  for (const actor of [actors[0]!, actors[1]!, actors[0]!]) await posted(actor);
  const door = doorOf((at) => {
    if (at === 0) throw new Refusal({ code: 'MAIL_REFUSED', status: 550 });
    if (at === 1) throw new Error('550 <ilse@heath.example> is not here');
  });
  clock.set('2026-11-24T09:00:01Z');
  await sendDueMail(door, clock);
  const kept = await rows();
  expect(kept.map(({ problem, failed_at, sent_at }) => [problem, failed_at !== null, sent_at !== null]).sort()).toEqual(
    [
      [null, false, true],
      ['MAIL_REFUSED', true, false],
      ['UNEXPECTED', false, false],
    ],
  );
  // What a server says may name somebody: none of it is kept.
  expect(JSON.stringify(kept.map(({ message: _, recipient: __, ...row }) => row))).not.toContain('ilse');
});

test('many who send at once send each mail once', async () => {
  await Promise.all(Array.from({ length: 40 }, (_, at) => posted(actors[at % 2]!)));
  clock.set('2026-11-24T09:01:00Z');
  const door = doorOf(() => new Promise((resolve) => setTimeout(resolve, 5)));
  const taken = await Promise.all(Array.from({ length: 6 }, () => sendDueMail(door, clock)));
  expect(taken.reduce((sum, each) => sum + each)).toBe(40);
  const ids = await Promise.all(door.sent.map(async ({ raw }) => (await simpleParser(raw)).messageId));
  expect([ids.length, new Set(ids).size]).toEqual([40, 40]);
});

test('a server that is away is asked with a mail at a time, less and less often; once it is back everything leaves by itself', async () => {
  await Promise.all(Array.from({ length: 60 }, (_, at) => posted(actors[at % 2]!)));
  const later = clockAt(new Date(clock.now() + 60_000).toISOString());
  let isAway = true;
  const door = doorOf(() => (isAway ? away() : undefined));
  const end = sendMail(door, later);
  await new Promise((resolve) => setTimeout(resolve, 3_200));
  const tried = door.sent.length;
  // Five of four lanes at once, and one with each look after that; no fewer, or nobody would notice that it is back.
  expect([tried >= 5, tried <= 12]).toEqual([true, true]);
  isAway = false;
  // What was tried before waits for its own next time, and everything else goes.
  while (door.sent.length < 60) await new Promise((resolve) => setTimeout(resolve, 50));
  await end();
}, 30_000);

test('whoever dies while sending leaves the mail to another after a while, with the same Message-ID; a late word of theirs changes nothing', async () => {
  await posted(actors[0]!);
  let letGo: () => void = () => undefined;
  const dead = doorOf(() => new Promise<void>((resolve) => (letGo = resolve)));
  const first = sendDueMail(dead, clock, () => dead.sent.length === 0);
  while (dead.sent.length === 0) await new Promise((resolve) => setTimeout(resolve, 5));
  const other = doorOf(away);
  expect(await sendDueMail(other, clock)).toBe(0);
  const later = clockAt(new Date(clock.now() + 151_000).toISOString());
  expect(await sendDueMail(other, later)).toBe(1);
  const idOf = async ({ sent }: { sent: Sent[] }) => (await simpleParser(sent[0]!.raw)).messageId;
  expect(await idOf(other)).toBe(await idOf(dead));
  // The one that was thought dead says that it has sent it, after another took it over: that one's word holds.
  letGo();
  await first;
  expect(await rows()).toMatchObject([{ sent_at: null, tries: 2, problem: 'MAIL_UNAVAILABLE' }]);
});

test('an organisation with a thousand mails waiting keeps nobody waiting, and puts no more there', async () => {
  const [many, one] = actors as [Actor, Actor];
  await inTenant(many.organisationId, async (tx) => {
    await post(tx, many);
    await tx.raw(
      `INSERT INTO outbox (id, organisation_id, user_id, kind, sender, recipient, message, created_at, due_at, until)
       SELECT gen_random_uuid(), ?, ?, 'message', 'cards@heath.example', 'x@heath.example', 'x', ?::timestamptz, ?::timestamptz + n * interval '100 ms', ?::timestamptz + interval '1 day'
       FROM generate_series(1, ?) n`,
      [
        many.organisationId,
        many.userId,
        ...Array.from({ length: 3 }, () => new Date(clock.now())),
        LIMITS.mailsWaiting - 1,
      ],
    );
  });
  await expect(posted(many)).rejects.toMatchObject({ problem: { code: 'TOO_MUCH_MAIL', limit: LIMITS.mailsWaiting } });
  await posted(one);
  // Somebody waits in front of their letter box for this one: no queue of theirs keeps it.
  await posted(many, { urgent: true });
  const door = doorOf();
  await sendDueMail(door, clock);
  expect(door.sent.map(({ to }) => to)).toEqual(Array(3).fill('ilse@heath.example'));
});

test('rows of what was sent go after a month, with links that have ended', async () => {
  await posted(actors[0]!);
  await sendDueMail(doorOf(), clock);
  await posted(actors[0]!);
  await forgetOldMail(clockAt(new Date(clock.now() + (LIMITS.mailDays + 1) * DAY).toISOString()));
  expect((await rows()).map(({ sent_at }) => sent_at)).toEqual([null]);
});

test('with a member and with an organisation their mails and links go', async () => {
  const [gone, left] = [await newActor(clock), actors[0]!];
  await posted(gone);
  await posted(left);
  const link = (actor: Actor) =>
    owner(
      `INSERT INTO account_links VALUES ($1::uuid, $2::uuid, 'password', decode(md5($2::uuid::text), 'hex'), 'x@heath.example', now(), now() + interval '1 day')`,
      [actor.organisationId, actor.userId],
    );
  await link(gone);
  await link(left);
  const count = () =>
    owner<{ of: string }>('SELECT user_id AS of FROM outbox UNION ALL SELECT user_id FROM account_links').then(
      (found) => found.map(({ of }) => of),
    );
  await owner('SELECT erase_member($1)', [gone.userId]);
  expect(await count()).toEqual([left.userId, left.userId]);
  await owner('SELECT erase_organisation($1)', [left.organisationId]);
  expect(await count()).toEqual([]);
});
