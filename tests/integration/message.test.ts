import { spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { simpleParser } from 'mailparser';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { setState } from '@/server/services/cards/card-state';
import { openCard } from '@/server/services/cards/open-card';
import { saveCard } from '@/server/services/cards/edit-card';
import { messageDraft, sendMessage } from '@/server/services/hand-outs/message';
import { makeOccasion } from '@/server/services/hand-outs/occasions';
import { setHandOutState } from '@/server/services/hand-outs/change';
import { takeContactFile } from '@/server/services/imports/begin-import';
import { sendDueMail } from '@/server/services/mail/send-mail';
import { publishCard } from '@/server/services/publishing/publish-card';
import { ask, clock, refused } from './full-card';
import { newActor, useDatabase } from './place';

useDatabase();
let maud: Actor;
let cardId: string;
const sent: { to: string; raw: Buffer }[] = [];
const door = { greet: () => Promise.resolve(), send: async (mail: (typeof sent)[number]) => void sent.push(mail) };
const TO = {
  to: 'Tobias@Hythe.example',
  name: 'Tobias Hythe',
  note: 'Hello Tobias,\n\nhere is <b>my</b> card.',
  placement: '',
  occasionId: null,
};

beforeAll(async () => {
  maud = { ...(await newActor(clock)), emailConfirmed: true };
  const taken = await takeContactFile(maud, readFileSync('tests/fixtures/contacts/phone-export-3.vcf'), clock);
  if (!('imported' in taken)) throw new Error('The fixture holds one contact.');
  ({ cardId } = taken.imported);
  await publishCard(maud, cardId, { baseVersion: 1, address: 'sends-mail' }, clock);
  const { settings } = await import('@/server/env');
  Object.assign(settings(), { MAIL_SERVER: 'smtp://127.0.0.1:1', MAIL_FROM: 'cards@heath.example' });
});
beforeEach(() => sent.splice(0));

/** What Python's email package, which has nothing of ours in it, finds: headers, and parts by type. */
function byPython(raw: Buffer) {
  const program = `
import sys, json, email, email.policy
m = email.message_from_bytes(sys.stdin.buffer.read(), policy=email.policy.default)
print(json.dumps({'headers': {k.lower(): str(v) for k, v in m.items()}, 'parts': [p.get_content_type() for p in m.walk()], 'defects': len(m.defects)}))`;
  const { stdout, stderr } = spawnSync('python3', ['-c', program], { input: raw, encoding: 'utf8' });
  if (!stdout) throw new Error(stderr);
  return JSON.parse(stdout) as { headers: Record<string, string>; parts: string[]; defects: number };
}

test('a card is sent with one’s own words, as text and with its contact file; answers go to the member, and its link is counted apart', async () => {
  await sendMessage(maud, cardId, TO, clock);
  await sendDueMail(door, clock);
  const [{ to, raw }] = sent as [(typeof sent)[number]];
  const read = await simpleParser(raw);
  const { headers, parts, defects } = byPython(raw);
  expect([to, sent.length, defects]).toEqual(['Tobias@hythe.example', 1, 0]);
  expect(headers['reply-to']).toContain(maud.email);
  expect(parts).toContain('text/vcard');
  // What was typed is words, in the one and in the other.
  expect(read.text).toContain('here is <b>my</b> card.');
  expect(String(read.html)).toContain('&#60;b&#62;my');
  const { composition } = (await openCard(maud, cardId)).revision!;
  const carried = composition.lines.filter(({ on, detail }) => on.includes('file') && detail.kind === 'email');
  for (const { detail } of carried) expect(read.text).toContain((detail as { address: string }).address);
  const served = String((await ask('/c/sends-mail.vcf')).body);
  expect(read.attachments.map(({ content }) => content.toString())).toEqual([served]);
  const { handOuts } = await openCard(maud, cardId);
  const [message] = handOuts.filter(({ channel }) => channel === 'message');
  expect(read.text).toContain(`http://cards.example/h/${message!.code}`);
  expect((await ask(`/h/${message!.code}`)).status).toBe(200);
});

test('one hand-out serves all messages of an occasion, also of two at once; nothing of whom they went to is kept', async () => {
  const { id: fair } = await makeOccasion(
    maud,
    { name: 'Cable Days', place: '', firstDay: '2026-12-01', lastDay: '2026-12-02' },
    clock,
  );
  const two = await Promise.allSettled([1, 2].map(() => sendMessage(maud, cardId, { ...TO, occasionId: fair }, clock)));
  expect(two.some(({ status }) => status === 'fulfilled')).toBe(true);
  await sendMessage(maud, cardId, { ...TO, occasionId: fair }, clock);
  const of = (await openCard(maud, cardId)).handOuts.filter(({ channel }) => channel === 'message');
  expect(of.map(({ occasion }) => occasion?.name ?? null).sort()).toEqual(['Cable Days', null]);
  await sendDueMail(door, { now: () => clock.now() + 60_000 });
  const rows = await inTenant(maud.organisationId, async (tx) => {
    const tables = ['hand_outs', 'audit_trail', 'placements', 'occasions'];
    return JSON.stringify(await Promise.all(tables.map((table) => tx(table))));
  });
  expect(rows.toLowerCase()).not.toContain('tobias');
});

test('mail to others waits for a confirmed address, a published card and a readable one; headers cannot be typed', async () => {
  const attempt = (change: object, actor: Actor = maud) => sendMessage(actor, cardId, { ...TO, ...change }, clock);
  await expect(attempt({}, { ...maud, emailConfirmed: false })).rejects.toMatchObject(refused('EMAIL_UNCONFIRMED'));
  for (const to of ['', 'tobias', 'a@b.example, c@d.example', 'a@b.example\r\nBcc: all@heath.example'])
    await expect(attempt({ to })).rejects.toMatchObject(refused('EMAIL_UNREADABLE'));
  await attempt({ name: 'Tobias\r\nBcc: all@heath.example', note: 'x\r\n.\r\nQUIT\r\n' });
  await sendDueMail(door, { now: () => clock.now() + 120_000 });
  const { headers, defects } = byPython(sent.at(-1)!.raw);
  expect([headers.bcc, defects, headers['message-id'] !== undefined]).toEqual([undefined, 0, true]);
  const stranger = { ...(await newActor(clock)), emailConfirmed: true };
  await expect(attempt({}, stranger)).rejects.toMatchObject(refused('NOT_FOUND'));
  await expect(attempt({ occasionId: '00000000-0000-4000-8000-000000000000' })).rejects.toMatchObject(
    refused('NOT_FOUND'),
  );
  const { handOuts } = await openCard(maud, cardId);
  const { id } = handOuts.find(({ channel, occasion }) => channel === 'message' && !occasion)!;
  await setHandOutState(maud, id, { state: 'resting', notice: '' }, clock);
  await expect(attempt({})).rejects.toMatchObject(refused('CARD_NOT_PUBLISHED'));
  await setHandOutState(maud, id, { state: 'out', notice: '' }, clock);
  await setState(maud, cardId, { state: 'resting', notice: '', instead: null }, clock);
  await expect(attempt({})).rejects.toMatchObject(refused('CARD_NOT_PUBLISHED'));
  await setState(maud, cardId, { state: 'published', notice: '', instead: null }, clock);
});

test('a draft is the same for one’s own mail program; what is unticked and published again is in neither', async () => {
  const { record, lines, version, audience } = await openCard(maud, cardId);
  const email = record.details.find(({ kind }) => kind === 'email') as { id: string; address: string };
  const before = await simpleParser((await messageDraft(maud, cardId, TO, clock)).bytes);
  expect([before.headers.get('x-unsent'), before.attachments.length]).toEqual(['1', 1]);
  const off = {
    page: false,
    file: false,
    code: false,
    tag: false,
    signature: false,
    print: false,
    backdrop: false,
    pass: false,
  };
  const next = lines.map((line) => (line.detail === email.id ? { ...line, ticks: off } : line));
  await saveCard(maud, cardId, { baseVersion: version, lines: next, audience }, clock);
  await publishCard(maud, cardId, { baseVersion: version + 1, address: 'sends-mail' }, clock);
  const { bytes } = await messageDraft(maud, cardId, TO, clock);
  const after = await simpleParser(bytes);
  const said = `${after.text}${String(after.html)}${after.attachments.map(({ content }) => content.toString()).join('')}`;
  expect(said).not.toContain(email.address);
});
