import { spawnSync } from 'node:child_process';
import ICAL from 'ical.js';
import { simpleParser } from 'mailparser';
import pg from 'pg';
import { FIRST_LOOK } from '@/core/look';
import { freshBlock } from '@/core/card';
import { createAnswerer } from '@/recipient';
import { inTenant } from '@/server/db/pool';
import { recordEvent } from '@/server/intake/record-event';
import { visitorHash } from '@/server/intake/visitor-hash';
import type { Actor } from '@/server/services/accounts/actor';
import { openCard } from '@/server/services/cards/open-card';
import { saveCard } from '@/server/services/cards/edit-card';
import { sendDueMail } from '@/server/services/mail/send-mail';
import { loadPublished, publishedVersion } from '@/server/services/publishing/load-published';
import { publishCard } from '@/server/services/publishing/publish-card';
import { createRecord } from '@/server/services/records/create-record';
import { nod, removeLead } from '@/server/services/replies/keep-lead';
import { keepDueFigures } from '@/server/services/response/figures';
import { readResponse } from '@/server/services/response/read-response';
import { ALL_LEADS, listLeads } from '@/server/services/replies/list-leads';
import { noteLead } from '@/server/services/replies/notes';
import { openLead } from '@/server/services/replies/open-lead';
import { takeDown } from '@/server/services/replies/take-reply';
import { sweep } from '@/server/services/jobs/sweeps';
import { ids, refused } from './full-card';
import { clockAt, databaseUrl, newActor, useDatabase } from './place';

useDatabase();
const clock = clockAt('2026-11-24T09:00:00Z');
const sent: { to: string; raw: Buffer }[] = [];
const door = { greet: () => Promise.resolve(), send: async (mail: (typeof sent)[number]) => void sent.push(mail) };
const answer = createAnswerer({
  clock,
  load: (key) => loadPublished(key, clock),
  preview: () => Promise.resolve(null),
  version: publishedVersion,
  visitor: visitorHash,
  record: recordEvent,
  replies: { take: takeDown },
});
const BROWSER = 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0';
const asked = (method: string, path: string, body: Buffer | string, headers: Record<string, string>) => {
  const url = new URL(path, 'http://cards.example');
  const header = (name: string) => ({ 'user-agent': BROWSER, host: 'cards.example', ...headers })[name] ?? '';
  return answer({ method, path: url.pathname, query: url.searchParams, header, address: '192.0.2.9', body });
};
const FORM = { 'content-type': 'application/x-www-form-urlencoded' };
const post = (path: string, fields: Record<string, string>, headers: Record<string, string> = {}) =>
  asked('POST', path, new URLSearchParams(fields).toString(), { ...FORM, ...headers });
const get = (path: string, headers: Record<string, string> = {}) => asked('GET', path, '', headers);
/** A form as a person fills it in, who took their time. */
const INES = {
  name: 'Ines Vael',
  reach: 'ines@vael.example',
  note: 'Send the report on ropes.',
  took: '9000',
  lang: 'en',
};
const tokenOf = (where: string | undefined) => /^\/r\/([0-9A-Z]{24})/.exec(where ?? '')?.[1] ?? '';
const posted = async (fields: Record<string, string>) =>
  (await post('/c/odile-clients/reply', fields)).headers.Location;
const mails = async () => {
  sent.splice(0);
  await sendDueMail(door, clock);
  return Promise.all(sent.map(async ({ to, raw }) => ({ to, raw, mail: await simpleParser(raw) })));
};
const mine = () => listLeads(odile, ALL_LEADS, clock);

let odile: Actor;
let colleague: Actor;
let cardId: string;

beforeAll(async () => {
  odile = await newActor(clock);
  const made = await createRecord(
    odile,
    { name: odile.name, phone: '020 7946 0100', email: 'odile@brandreth.example' },
    clock,
  );
  cardId = made.cardId;
  await inTenant(odile, (tx) =>
    tx('users')
      .where({ id: odile.userId })
      .update({ email_confirmed_at: new Date(clock.now()), own_record: made.recordId }),
  );
  colleague = { ...odile, ownRecord: null, userId: await member('Keld Ros') };
  const { lines, version, audience } = await openCard(odile, cardId);
  const form = {
    ...freshBlock('reply form', ids),
    fields: ['firm', 'answer'] as const,
    question: 'Which day suits you?',
  };
  const blocks = [{ ...form, fields: ['firm' as const, 'answer' as const] }];
  const saved = await saveCard(
    odile,
    cardId,
    { baseVersion: version, lines, audience, blocks, look: FIRST_LOOK },
    clock,
  );
  await publishCard(odile, cardId, { baseVersion: saved.version, address: 'odile-clients' }, clock);
  const { settings } = await import('@/server/env');
  Object.assign(settings(), { MAIL_SERVER: 'smtp://127.0.0.1:1', MAIL_FROM: 'cards@heath.example' });
});

/** Another member of the organisation. */
async function member(name: string): Promise<string> {
  const id = crypto.randomUUID();
  await inTenant(odile, (tx) =>
    tx('users').insert({
      ...{
        id,
        organisation_id: odile.organisationId,
        email: `${id}@heath.example`,
        password_hash: '!',
        name,
        role: 'administrator',
      },
      ...{ own_record: null, must_change_password: false },
    }),
  );
  return id;
}

/** Whether a text stands anywhere in the database, whatever table, as its owner sees it. */
async function tablesWith(text: string): Promise<string[]> {
  const owner = new pg.Client({ connectionString: databaseUrl });
  await owner.connect();
  const { rows } = await owner.query<{ name: string }>(
    `SELECT c.relname AS name FROM pg_class c WHERE c.relkind IN ('r', 'm') AND c.relnamespace = 'public'::regnamespace`,
  );
  const found: string[] = [];
  for (const { name } of rows) {
    // Bytes are written as hexadecimal digits in a row's text.
    const hex = Buffer.from(text).toString('hex');
    const { rows: some } = await owner.query(
      `SELECT 1 FROM "${name}" t WHERE strpos(t::text, $1) > 0 OR strpos(t::text, $2) > 0 LIMIT 1`,
      [text, hex],
    );
    if (some.length > 0) found.push(name);
  }
  await owner.end();
  return found;
}

test('a reply is answered by a redirection (RFC 9110 15.4.4), and both mails leave: the holder’s names the details, the recipient’s nothing but the card', async () => {
  const page = String((await get('/c/odile-clients')).body);
  const [save, form] = [page.indexOf('class="save"'), page.indexOf('action="/c/odile-clients/reply"')];
  expect([save > 0, form > save, page.includes('Which day suits you?')]).toEqual([true, true, true]);
  const answered = await post('/c/odile-clients/reply', { ...INES, firm: 'Vael & Sons', answer: 'Tuesday' });
  expect([answered.status, answered.headers.Location]).toEqual([
    303,
    expect.stringMatching(/^\/r\/[0-9A-Z]{24}\?sent=mailed$/),
  ]);
  const both = await mails();
  expect(both.map(({ to }) => to).sort()).toEqual(['ines@vael.example', odile.email].sort());
  const notice = both.find(({ to }) => to === odile.email)!.mail;
  expect(notice.replyTo?.value[0]?.address).toBe('ines@vael.example');
  for (const said of ['Ines Vael', 'ines@vael.example', 'Vael & Sons', 'Send the report on ropes.', 'Tuesday'])
    expect(notice.text).toContain(said);
  // The attached contact by another reader (RFC 6350).
  const contact = ICAL.parse(notice.attachments[0]!.content.toString()) as [
    string,
    [string, object, string, unknown][],
  ];
  expect(contact[1].map(([name, , , value]) => [name, value])).toEqual(
    expect.arrayContaining([
      ['fn', 'Ines Vael'],
      ['email', 'ines@vael.example'],
    ]),
  );
  const { raw, mail } = both.find(({ to }) => to === 'ines@vael.example')!;
  // A mail to a mistyped address tells a stranger nothing but the public card, whatever part of it they look at.
  const program = `
import sys, email, email.policy
m = email.message_from_bytes(sys.stdin.buffer.read(), policy=email.policy.default)
print(m['subject'], m['to'], m['from'])
for p in m.walk():
  if p.get_content_maintype() == 'text': print(p.get_payload(decode=True).decode())`;
  const { stdout } = spawnSync('python3', ['-c', program], { input: raw, encoding: 'utf8' });
  expect(stdout).toContain('the card that you asked for');
  for (const told of ['Ines', 'Vael', 'report', 'Tuesday'])
    expect(stdout.replaceAll('ines@vael.example', '')).not.toContain(told);
  expect(mail.attachments.map(({ filename, contentType }) => [filename, contentType])).toEqual([
    [expect.stringMatching(/\.vcf$/), 'text/vcard'],
  ]);
  // Its link opens the card, also after the card's address has changed.
  const token = /\/r\/([0-9A-Z]{24})\/card/.exec(mail.text!)![1]!;
  expect((await get(`/r/${token}/card`)).headers.Location).toBe('/c/odile-clients');
  // By a printed code the lead says where it was.
  const [code] = await inTenant(odile, (tx) => tx('hand_outs').where({ card_id: cardId }));
  const byCode = { ...INES, name: 'By Code', reach: 'code@vael.example' };
  expect((await post(`/h/${code.code}/reply`, byCode)).status).toBe(303);
  expect((await mine()).leads.find(({ name }) => name === 'By Code')?.where).toBe(code.placement);
  await mails();
  const leads = (await mine()).leads.filter(({ name }) => name === 'Ines Vael');
  expect(leads).toMatchObject([
    { name: 'Ines Vael', state: 'new', reach: 'ines@vael.example', private: true, waits: false },
  ]);
});

test('the same sent again is the same reply; header lines in a name, ten thousand letters and a form from elsewhere come to nothing, and what was typed stays', async () => {
  const first = tokenOf(await posted(INES));
  await mails();
  expect(tokenOf(await posted(INES))).toBe(first);
  expect(await mails()).toEqual([]);
  const injected = { ...INES, name: 'Ines\r\nBcc: all@heath.example', reach: 'second@vael.example' };
  await posted(injected);
  for (const { mail } of await mails()) expect([...mail.headers.keys()]).not.toContain('bcc');
  const long = await post('/c/odile-clients/reply', { ...INES, note: 'x'.repeat(10_000) });
  expect([
    long.status,
    String(long.body).includes('At most 2000 letters'),
    String(long.body).includes('x'.repeat(2_000)),
  ]).toEqual([422, true, true]);
  const nobody = await post('/c/odile-clients/reply', { ...INES, name: ' ', reach: 'somewhere' });
  expect([
    nobody.status,
    String(nobody.body).match(/class="w"/g)?.length,
    String(nobody.body).includes('value="somewhere"'),
  ]).toEqual([422, 2, true]);
  const elsewhere = await post(
    '/c/odile-clients/reply',
    { ...INES, reach: 'third@vael.example' },
    { 'sec-fetch-site': 'cross-site' },
  );
  expect([elsewhere.status, String(elsewhere.body).includes('third@vael.example')]).toEqual([403, true]);
  const script = await post('/c/odile-clients/reply', { ...INES, reach: '"><script>alert(1)</script>' });
  expect(String(script.body)).not.toContain('<script>alert');
});

test('what looks wrong waits for a nod, and is never dropped: a hidden field, a hurry, a flood', async () => {
  const hurried = await posted({ ...INES, reach: 'hurry@vael.example', took: '900' });
  const hidden = await posted({ ...INES, reach: 'hidden@vael.example', more: 'https://buy.example' });
  expect([hurried, hidden].map((where) => where?.endsWith('sent=waits'))).toEqual([true, true]);
  expect(await mails()).toEqual([]);
  const waiting = (await mine()).leads.filter(({ waits }) => waits);
  expect(waiting.map(({ reach }) => reach).sort()).toEqual(['hidden@vael.example', 'hurry@vael.example']);
  const { id } = waiting.find(({ reach }) => reach === 'hurry@vael.example')!;
  const { replies } = await openLead(odile, id);
  expect(replies[0]).toMatchObject({ wrong: ['too fast'], waits: true });
  await nod(odile, id, replies[0]!.id, clock);
  await nod(odile, id, replies[0]!.id, clock);
  expect((await mails()).map(({ to }) => to)).toEqual(['hurry@vael.example']);
  for (let at = 0; at < 15; at += 1) await posted({ ...INES, reach: `throw-${at}@away.example` });
  const flood = await mails();
  // Twelve an hour from one visitor (the table of rates); four of them were sent above.
  expect(flood.filter(({ to }) => to.endsWith('away.example')).length).toBeLessThan(12);
  const left = (await mine()).leads.filter(({ reach, waits }) => reach.endsWith('away.example') && waits);
  expect(left.length + flood.filter(({ to }) => to.endsWith('away.example')).length).toBe(15);
});

test('a contact file instead of typing; one with a thousand contacts is told, and nothing is taken', async () => {
  clock.set('2026-11-24T12:00:00Z');
  const send = (file: string) => {
    const body = `--b\r\nContent-Disposition: form-data; name="file"; filename="me.vcf"\r\nContent-Type: text/vcard\r\n\r\n${file}\r\n--b\r\nContent-Disposition: form-data; name="lang"\r\n\r\nde\r\n--b--\r\n`;
    return asked('POST', '/c/odile-clients/reply', Buffer.from(body), {
      'content-type': 'multipart/form-data; boundary=b',
    });
  };
  const card = (at: number) =>
    `BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Dell Hythe ${at}\r\nN:Hythe;Dell;;;\r\nEMAIL:dell${at}@hythe.example\r\nTEL:+442079460211\r\nORG:Hythe & Sons\r\nEND:VCARD\r\n`;
  expect((await send(card(1))).status).toBe(303);
  const { leads } = await mine();
  expect(leads[0]).toMatchObject({ name: 'Dell Hythe 1', about: 'Hythe & Sons' });
  const thousand = await send(Array.from({ length: 1_000 }, (_, at) => card(at)).join(''));
  expect([thousand.status, String(thousand.body).includes('mehrere Kontakte')]).toEqual([422, true]);
  const nothing = await send('this is no contact');
  expect([nothing.status, String(nothing.body).includes('kein Kontakt')]).toEqual([422, true]);
  expect((await asked('POST', '/c/odile-clients/reply', null as never, FORM)).status).toBe(413);
});

test('by the link in the mail a stranger learns nothing; its sender says their name, sees what is held, corrects it, agrees to be seen, and erases it everywhere', async () => {
  clock.set('2026-11-25T09:00:00Z');
  const MARK = 'Zephyrine Quillfeather';
  const page = tokenOf(await posted({ ...INES, name: MARK, reach: 'zq@quill.example', note: 'Ask about quillwork.' }));
  const [both] = [await mails()];
  const token = /\/r\/([0-9A-Z]{24})\/card/.exec(both.find(({ to }) => to === 'zq@quill.example')!.mail.text!)![1]!;
  const [lead] = (await mine()).leads;
  await noteLead(
    odile,
    lead!.id,
    { entry: null, kind: 'meeting', at: null, place: 'Hall 4', text: 'Likes quillwork.', private: true },
    clock,
  );
  expect(String((await get(`/r/${page}`)).body)).toContain(MARK);
  const closed = String((await get(`/r/${token}`)).body);
  for (const told of [MARK, 'zq@quill.example', 'quillwork']) expect(closed).not.toContain(told);
  const wrong = await post(`/r/${token}/held`, { name: 'Somebody Else' });
  expect([wrong.status, String(wrong.body).includes(MARK)]).toEqual([403, false]);
  const open = String((await post(`/r/${token}/held`, { name: 'zephyrine  QUILLFEATHER' })).body);
  expect([open.includes(MARK), open.includes('Ask about quillwork.'), open.includes('erased 24 months')]).toEqual([
    true,
    true,
    true,
  ]);
  // Later views are told only of whom it is known that the address is theirs, and who agreed.
  await get(`/r/${token}/card`);
  expect((await openLead(odile, lead!.id)).entries.map(({ kind }) => kind)).toEqual(['meeting']);
  await post(`/r/${token}/views`, { known: MARK, on: '1' });
  await get(`/r/${token}/card`);
  expect((await openLead(odile, lead!.id)).entries.map(({ kind }) => kind)).toContain('view');
  const corrected = await post(`/r/${token}/held`, {
    known: MARK,
    name: MARK,
    reach: '020 7946 0333',
    note: 'Ask about quills.',
  });
  expect(corrected.status).toBe(200);
  const after = await openLead(odile, lead!.id);
  expect([after.lines.map(({ value }) => value), after.replies[0]!.told.note]).toEqual([
    ['+44 20 7946 0333'],
    'Ask about quills.',
  ]);
  const guess = await post(`/r/${token}/erase`, { known: 'Somebody' });
  expect([guess.status, (await tablesWith(MARK)).length > 0]).toEqual([403, true]);
  expect(String((await post(`/r/${token}/erase`, { known: MARK })).body)).toContain('Everything was erased.');
  expect(await Promise.all([MARK, 'zq@quill.example', 'quillwork', 'Ask about quills'].map(tablesWith))).toEqual([
    [],
    [],
    [],
    [],
  ]);
  await expect(openLead(odile, lead!.id)).rejects.toMatchObject(refused('NOT_FOUND'));
  // The link goes on opening the card.
  expect((await get(`/r/${token}/card`)).headers.Location).toBe('/c/odile-clients');
  expect(String((await get(`/r/${token}`)).body)).toContain('Nothing is held about you here.');
  expect((await get('/r/0000000000000000000000AA')).status).toBe(404);
});

test('whoever types the address of somebody who is known already can change and erase their own words, and nothing of what was there', async () => {
  clock.set('2026-11-25T15:00:00Z');
  const KNOWN = { ...INES, name: 'Known Kester', reach: 'kester@known.example' };
  await posted(KNOWN);
  const [lead] = (await mine()).leads;
  const token = tokenOf(await posted({ ...KNOWN, name: 'Mallory', note: 'I am Kester.' }));
  expect((await openLead(odile, lead!.id)).replies).toHaveLength(2);
  await post(`/r/${token}/held`, { known: 'Mallory', name: 'Mallory', reach: 'mallory@evil.example' });
  const kept = await openLead(odile, lead!.id);
  expect([kept.name, kept.lines.map(({ value }) => value)]).toEqual(['Known Kester', ['kester@known.example']]);
  await post(`/r/${token}/erase`, { known: 'Mallory' });
  expect((await openLead(odile, lead!.id)).replies.map(({ told }) => told.name)).toEqual(['Known Kester']);
  expect(await tablesWith('mallory@evil.example')).toEqual([]);
  await mails();
});

test('a reply is among the figures of the day on which it came, by its hand-out: the same twice once, what waits with its nod; erasing it takes nothing away', async () => {
  clock.set('2026-11-26T09:00:00Z');
  const told = async () => {
    const { summary } = await readResponse(odile, { cardId, days: 7 }, clock);
    const [today, before] = [summary.days.at(-1)!.replies, summary.days.at(-2)!.replies];
    return { today, short: summary.handOuts.find(({ handOut }) => handOut === null)!.replies, before };
  };
  const before = await told();
  expect([before.today, before.before]).toEqual([0, expect.any(Number)]);
  const PIA = { ...INES, name: 'Pia Lund', reach: 'pia@lund.example' };
  const token = tokenOf(await posted(PIA));
  await posted(PIA);
  expect(await told()).toEqual({ ...before, today: 1, short: before.short + 1 });
  await posted({ ...PIA, reach: 'pia.second@lund.example', took: '100' });
  expect(await told()).toMatchObject({ today: 1 });
  const waiting = (await mine()).leads.find(({ reach }) => reach === 'pia.second@lund.example')!;
  // Looked at a day later, it counts on the day on which it came.
  clock.set('2026-11-27T08:00:00Z');
  await nod(odile, waiting.id, (await openLead(odile, waiting.id)).replies[0]!.id, clock);
  await keepDueFigures(clock);
  expect(await told()).toEqual({ today: 0, before: 2, short: before.short + 2 });
  await post(`/r/${token}/erase`, { known: PIA.name });
  expect(await told()).toEqual({ today: 0, before: 2, short: before.short + 2 });
  const [card, all] = await Promise.all(
    [cardId, null].map((of) => readResponse(odile, { cardId: of, days: 7 }, clock)),
  );
  expect(all!.summary.totals.replies).toBe(card!.summary.totals.replies);
  await mails();
});

test('what is private is its owner’s alone, whatever role asks, in whatever way; what nobody touched for its months is erased by itself', async () => {
  clock.set('2026-11-26T09:00:00Z');
  await posted({ ...INES, name: 'Only Odile', reach: 'only@odile.example' });
  const [lead] = (await mine()).leads;
  expect((await listLeads(colleague, { ...ALL_LEADS, whose: 'all' }, clock)).leads).toEqual([]);
  expect((await listLeads(colleague, { ...ALL_LEADS, whose: 'all', words: 'odile' }, clock)).leads).toEqual([]);
  await expect(openLead(colleague, lead!.id)).rejects.toMatchObject(refused('NOT_FOUND'));
  await expect(removeLead(colleague, lead!.id, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  for (const table of ['contacts', 'replies', 'lead_entries'])
    expect([table, await inTenant(colleague, (tx) => tx(table))]).toEqual([table, []]);
  // A transaction without a person sees no private row at all.
  expect(await inTenant(odile.organisationId, (tx) => tx('contacts'))).toEqual([]);
  clock.set('2028-11-27T09:00:00Z');
  await sweep(['leads'], clock);
  expect((await mine()).leads).toEqual([]);
  expect(await tablesWith('only@odile.example')).toEqual([]);
});
