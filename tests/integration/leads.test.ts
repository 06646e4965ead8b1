import { spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import ICAL from 'ical.js';
import { simpleParser } from 'mailparser';
import readXlsx from 'read-excel-file/node';
import { LIMITS } from '@/core/limits';
import { readDetail, type Detail } from '@/core/record';
import { ToldSchema } from '@/core/replies';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { addMember, removeMember } from '@/server/services/accounts/members';
import { actorOfUser } from '@/server/services/accounts/sessions';
import { changeContact, openContact } from '@/server/services/contacts/contacts';
import { recordEvent } from '@/server/intake/record-event';
import { fetchOccasion } from '@/server/services/hand-outs/hand-over';
import { makeOccasion } from '@/server/services/hand-outs/occasions';
import { sweep } from '@/server/services/jobs/sweeps';
import { sendDueMail } from '@/server/services/mail/send-mail';
import { loadPublished } from '@/server/services/publishing/load-published';
import { publishCard } from '@/server/services/publishing/publish-card';
import { createRecord } from '@/server/services/records/create-record';
import { addLead, addLeadFile } from '@/server/services/replies/add-lead';
import { chooseEveningMail } from '@/server/services/replies/evening';
import { leadsAsContacts, leadsAsCsv, leadsAsWorkbook } from '@/server/services/replies/export-leads';
import { changeLead, passLead, removeLeads } from '@/server/services/replies/keep-lead';
import { ALL_LEADS, dueToday, listLeads, occasionToday } from '@/server/services/replies/list-leads';
import { compareLeads, mergeLeads, undoMerge } from '@/server/services/replies/merge-leads';
import { followUp, noteLead } from '@/server/services/replies/notes';
import { heirs, openLead } from '@/server/services/replies/open-lead';
import { sendCardTo } from '@/server/services/replies/send-card';
import { takeHanded } from '@/server/services/replies/take-handed';
import { takeDown } from '@/server/services/replies/take-reply';
import { refused } from './full-card';
import { clockAt, newActor, useDatabase } from './place';

useDatabase();
const clock = clockAt('2026-11-24T09:00:00Z');
const sent: { to: string; raw: Buffer }[] = [];
const door = { greet: () => Promise.resolve(), send: async (mail: (typeof sent)[number]) => void sent.push(mail) };
const mails = async () => {
  sent.splice(0);
  await sendDueMail(door, clock);
  return Promise.all(sent.map(async ({ to, raw }) => ({ to, mail: await simpleParser(raw) })));
};
const detail = (kind: 'email' | 'phone' | 'organisation' | 'title', id: string, raw: string): Detail => {
  const read = readDetail(kind, raw, { id, country: 'GB' });
  if (!read.ok) throw new Error(raw);
  return read.value;
};
const MAIL = detail('email', 'm', 'dell@hythe.example');
const DELL = { name: 'Dell Hythe', details: [MAIL, detail('organisation', 'o', 'Hythe & Sons')], occasion: null };
const AGAIN = { name: 'Dell Hythe', details: [MAIL, detail('phone', 'p', '020 7946 0211')], occasion: null };
const note = (text: string, hidden: boolean) => ({
  ...{ entry: null, kind: 'note' as const, at: null, place: '', text, private: hidden },
});
const values = async (actor: Actor, id: string) => (await openLead(actor, id)).lines.map(({ value }) => value).sort();

let maud: Actor;
let ilse: Actor;
let cardId: string;

beforeAll(async () => {
  maud = await newActor(clock);
  maud = { ...maud, confirmedAt: clock.now() };
  const made = await createRecord(
    maud,
    {
      name: 'Ilse Varrow',
      phone: '020 7946 0182',
      email: 'ilse@tarnhope.example',
      forWork: { phone: true, email: true },
    },
    clock,
  );
  cardId = made.cardId;
  await publishCard(maud, cardId, { baseVersion: 1, address: 'ilse-varrow' }, clock);
  const member = {
    name: 'Ilse Varrow',
    email: `ilse-${randomUUID()}@heath.example`,
    password: 'curlew at dusk over peat',
  };
  const { id } = await addMember(maud, { ...member, role: 'administrator', ownRecord: made.recordId }, clock);
  await inTenant(maud, (tx) =>
    tx('users')
      .whereIn('id', [id, maud.userId])
      .update({ must_change_password: false, email_confirmed_at: new Date(clock.now()) }),
  );
  ilse = (await actorOfUser(id, maud.organisationId))!;
  const { settings } = await import('@/server/env');
  Object.assign(settings(), { MAIL_SERVER: 'smtp://127.0.0.1:1', MAIL_FROM: 'cards@heath.example' });
});

test('a person found twice is compared line by line, made one, and taken apart again as it was', async () => {
  const { id } = await addLead(ilse, DELL, clock);
  const { id: other } = await addLead(ilse, AGAIN, clock);
  await noteLead(ilse, other, note('Splices anything.', false), clock);
  expect((await openLead(ilse, id)).doubles.map((each) => each.id)).toEqual([other]);
  const differences = await compareLeads(ilse, id, other);
  expect(differences.map(({ kind, would }) => [kind, would])).toEqual([['adds', '+44 20 7946 0211']]);
  await mergeLeads(ilse, id, { other, chosen: differences.map(({ key }) => key) }, clock);
  expect(await values(ilse, id)).toEqual(['+44 20 7946 0211', 'Hythe & Sons', 'dell@hythe.example']);
  expect((await openLead(ilse, id)).entries.map(({ text }) => text)).toEqual(['Splices anything.']);
  await expect(openLead(ilse, other)).rejects.toMatchObject(refused('NOT_FOUND'));
  const { merged } = await openLead(ilse, id);
  await undoMerge(ilse, id, merged!.id, clock);
  expect([await values(ilse, id), await values(ilse, other)]).toEqual([
    ['Hythe & Sons', 'dell@hythe.example'],
    ['+44 20 7946 0211', 'dell@hythe.example'],
  ]);
  expect((await openLead(ilse, other)).entries.map(({ text }) => text)).toEqual(['Splices anything.']);
});

test('two who merge the same leads at once: one does, the other is told, and nobody is lost', async () => {
  const [a, b] = [await addLead(ilse, DELL, clock), await addLead(ilse, AGAIN, clock)];
  for (const { id } of [a, b]) await changeLead(ilse, id, { private: false }, clock);
  const both = await Promise.allSettled([
    mergeLeads(ilse, a.id, { other: b.id, chosen: [] }, clock),
    mergeLeads(maud, b.id, { other: a.id, chosen: [] }, clock),
  ]);
  expect(both.map(({ status }) => status).sort()).toEqual(['fulfilled', 'rejected']);
  const left = await Promise.allSettled([openLead(maud, a.id), openLead(maud, b.id)]);
  expect(left.filter(({ status }) => status === 'fulfilled')).toHaveLength(1);
});

test('found twice, once private: nobody else sees the double, and what was private stays its owner’s when both are made one', async () => {
  const [mine, shared] = [await addLead(ilse, DELL, clock), await addLead(ilse, AGAIN, clock)];
  await changeLead(ilse, shared.id, { private: false }, clock);
  await noteLead(ilse, mine.id, note('Owes me a rope.', false), clock);
  expect((await openLead(maud, shared.id)).doubles.map(({ id }) => id)).not.toContain(mine.id);
  await expect(compareLeads(maud, shared.id, mine.id)).rejects.toMatchObject(refused('NOT_FOUND'));
  await expect(mergeLeads(maud, shared.id, { other: mine.id, chosen: [] }, clock)).rejects.toMatchObject(
    refused('NOT_FOUND'),
  );
  await mergeLeads(ilse, shared.id, { other: mine.id, chosen: [] }, clock);
  const texts = async (actor: Actor) => (await openLead(actor, shared.id)).entries.map(({ text }) => text);
  expect([await texts(ilse), await texts(maud)]).toEqual([['Owes me a rope.'], []]);
  // How it was before is told to nobody else either.
  expect([(await openLead(ilse, shared.id)).merged === null, (await openLead(maud, shared.id)).merged]).toEqual([
    false,
    null,
  ]);
});

test('a table by other readers (Python’s csv of RFC 4180, a reader of ECMA-376), no formula in it; a contact file of everybody by ical.js', async () => {
  const keeper = await newActor(clock);
  const formula = { name: '=HYPERLINK("https://evil.example")', details: [MAIL], occasion: null };
  await addLead(keeper, formula, clock);
  clock.set('2026-11-24T09:00:01Z');
  const { id } = await addLead(keeper, { ...DELL, name: 'Zoë "Dell", Hythe' }, clock);
  await changeLead(keeper, id, { topics: ['ropes', 'winches'], state: 'later' }, clock);
  const asked = { ids: 'all' as const, asked: ALL_LEADS };
  const whole = async (parts: AsyncGenerator<Buffer>) => {
    const made: Buffer[] = [];
    for await (const part of parts) made.push(part);
    return Buffer.concat(made);
  };
  const bytes = await whole(leadsAsCsv(keeper, asked, clock));
  const program =
    'import csv,sys,io,json; print(json.dumps(list(csv.reader(io.StringIO(sys.stdin.buffer.read().decode("utf-8-sig"), newline="")))))';
  const { stdout } = spawnSync('python3', ['-c', program], { input: bytes, encoding: 'utf8' });
  const [head, ...rows] = JSON.parse(stdout) as string[][];
  expect([head!.slice(0, 4), rows.map((row) => row[0]), rows[0]!.slice(3, 6)]).toEqual([
    ['Name', 'Job title', 'Firm', 'E-mail'],
    ['Zoë "Dell", Hythe', `'=HYPERLINK("https://evil.example")`],
    ['dell@hythe.example', '', 'later'],
  ]);
  const book = await leadsAsWorkbook(keeper, asked, clock);
  const [sheet] = (await readXlsx(book)) as unknown as { data: unknown[][] }[] & unknown[][];
  const cells = Array.isArray(sheet) ? sheet : sheet!.data[0];
  expect(JSON.stringify(cells)).toContain('Name');
  const contact = ICAL.parse(String(await whole(leadsAsContacts(keeper, { ...asked, ids: [id] }, clock)))) as [
    string,
    [string, object, string, unknown][],
  ];
  expect(contact[1].find(([name]) => name === 'fn')?.[3]).toBe('Zoë "Dell", Hythe');
});

test('what somebody typed on the holder’s phone, days ago and without a network, is there once, with both mails; of others’ cards nothing is taken', async () => {
  clock.set('2026-11-25T12:00:00Z');
  await mails();
  const typed = {
    card: cardId,
    occasion: null,
    name: 'Keld Ros',
    reach: 'keld@ros.example',
    note: '',
    at: '2026-11-23T16:00:00Z',
  };
  await takeHanded(ilse, typed, clock);
  await takeHanded(ilse, typed, clock);
  const found = (await listLeads(ilse, { ...ALL_LEADS, words: 'keld' }, clock)).leads;
  expect(found).toMatchObject([{ name: 'Keld Ros', by: 'handed', came: '2026-11-23T16:00:00.000Z' }]);
  expect((await mails()).map(({ to }) => to).sort()).toEqual([ilse.email, 'keld@ros.example'].sort());
  const stranger = await newActor(clock);
  await expect(takeHanded(stranger, typed, clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  await expect(takeHanded(ilse, { ...typed, reach: 'nowhere' }, clock)).rejects.toMatchObject(refused('INPUT'));
  await mails();
  // An address that nobody confirmed gets no more than its one mail.
  await expect(sendCardTo(ilse, found[0]!.id, { card: cardId, note: '' }, clock)).rejects.toMatchObject(
    refused('ADDRESS_UNCONFIRMED'),
  );
  await inTenant(ilse, (tx) =>
    tx('replies')
      .where({ contact_id: found[0]!.id })
      .update({ followed_at: new Date(clock.now()) }),
  );
  await sendCardTo(ilse, found[0]!.id, { card: cardId, note: 'As promised.' }, clock);
  expect((await mails()).map(({ to }) => to)).toEqual(['keld@ros.example']);
  expect((await openLead(ilse, found[0]!.id)).entries.map(({ kind }) => kind)).toEqual(['sent']);
});

test('at an occasion a reply is told where it came, and the list of that occasion has it with what recipients did there today', async () => {
  clock.set('2026-11-25T15:00:00Z');
  const days = { firstDay: '2026-11-25', lastDay: '2026-11-26' };
  const { id: occasion } = await makeOccasion(maud, { name: 'Cable Days', place: 'Skell Bridge', ...days }, clock);
  await fetchOccasion(ilse, occasion, clock);
  const typed = { card: cardId, name: 'Orla Fenn', reach: 'orla@fenn.example', note: '', at: '2026-11-25T14:00:00Z' };
  await takeHanded(ilse, { ...typed, occasion }, clock);
  const [lead] = (await listLeads(ilse, { ...ALL_LEADS, occasion }, clock)).leads;
  expect([lead!.name, lead!.where]).toEqual(['Orla Fenn', expect.stringContaining('Cable Days')]);
  const [code] = await inTenant(ilse, (tx) => tx('hand_outs').where({ occasion_id: occasion, card_id: cardId }));
  const event = {
    organisationId: ilse.organisationId,
    cardId,
    handOutId: code.id,
    revision: 1,
    line: null,
    visitor: null,
  };
  for (const kind of ['view', 'view', 'save'] as const) await recordEvent({ ...event, kind, at: clock.now() });
  expect(await occasionToday(ilse, occasion, clock)).toEqual({ views: 2, saves: 1 });
  await mails();
});

test('in the evening one mail says who came, where and what to do; a day later what is due is worked off', async () => {
  clock.set('2026-11-26T10:00:00Z');
  const { id } = await addLead(ilse, { ...DELL, name: 'Ines Vael' }, clock);
  await followUp(ilse, id, { followUp: null, due: '2026-11-27', what: 'Send the report', done: false }, clock);
  clock.set('2026-11-26T17:00:00Z');
  await sweep(['evening'], clock);
  expect(await mails()).toEqual([]);
  clock.set('2026-11-26T18:30:00Z');
  await sweep(['evening'], clock);
  await sweep(['evening'], clock);
  const told = await mails();
  expect(told.map(({ to, mail }) => [to, mail.subject])).toEqual([[ilse.email, 'Today 1 person left their details']]);
  expect(told[0]!.mail.text).toContain('Ines Vael, Hythe & Sons, dell@hythe.example — To do: Send the report');
  await chooseEveningMail(ilse, false);
  clock.set('2026-11-27T19:00:00Z');
  await addLead(ilse, DELL, clock);
  await sweep(['evening'], clock);
  expect(await mails()).toEqual([]);
  const { due } = await dueToday(ilse, clock);
  expect(due.map(({ what, name }) => [what, name])).toEqual([['Send the report', 'Ines Vael']]);
  await followUp(ilse, id, { followUp: due[0]!.id, due: '2026-11-27', what: 'Send the report', done: true }, clock);
  expect((await dueToday(ilse, clock)).due).toEqual([]);
});

test('a contact file of several people comes in as a whole and is taken out again as a whole; one of a thousand is told with its number, and nothing of it is kept', async () => {
  const keeper = await newActor(clock);
  const file = (count: number) =>
    Buffer.from(
      Array.from(
        { length: count },
        (_, at) => `BEGIN:VCARD\r\nVERSION:4.0\r\nFN:Person ${at}\r\nEMAIL:p${at}@people.example\r\nEND:VCARD\r\n`,
      ).join('') + 'BEGIN:VCARD\r\nVERSION:4.0\r\nTEL:+442079460100\r\nEND:VCARD\r\n',
    );
  const count = async () => (await listLeads(keeper, { ...ALL_LEADS, whose: 'mine' }, clock)).leads.length;
  const { ids, left } = await addLeadFile(keeper, file(3), null, clock);
  // Whoever has no name stays out.
  expect([ids.length, left, await count()]).toEqual([3, 1, 3]);
  await expect(addLeadFile(keeper, file(1_000), null, clock)).rejects.toMatchObject({
    problem: { code: 'TOO_MANY_CONTACTS', limit: LIMITS.leadsAtOnce, found: 1_001 },
  });
  expect(await count()).toBe(3);
  const { id: others } = await addLead(ilse, { ...DELL, name: 'Ines Vael' }, clock);
  await expect(removeLeads(keeper, [...ids, others], clock)).rejects.toMatchObject(refused('NOT_FOUND'));
  expect(await count()).toBe(3);
  await removeLeads(keeper, ids, clock);
  expect(await count()).toBe(0);
});

test('details that are corrected are found by the new ones; a lead handed over is the colleague’s, and private notes do not go along', async () => {
  const { id } = await addLead(ilse, DELL, clock);
  const { version } = await openContact(ilse, id, clock);
  await changeContact(ilse, id, { ...AGAIN, name: 'Dell Hythe-Ros', baseVersion: version, ticked: [] }, clock);
  const found = async (words: string) =>
    (await listLeads(ilse, { ...ALL_LEADS, words }, clock)).leads.some((lead) => lead.id === id);
  expect([await found('hythe-ros'), await found('hythe & sons')]).toEqual([true, false]);
  await noteLead(ilse, id, note('For my eyes alone.', true), clock);
  expect((await heirs(ilse)).map(({ id: heir }) => heir)).toContain(maud.userId);
  await passLead(ilse, id, maud.userId, clock);
  await expect(openLead(ilse, id)).rejects.toMatchObject(refused('NOT_FOUND'));
  const passed = await openLead(maud, id);
  expect([passed.owner.id, passed.private, passed.entries.map(({ kind }) => kind)]).toEqual([
    maud.userId,
    true,
    ['handed over'],
  ]);
});

test('who leaves: what they shared is whoever’s who removes them, what was private stays closed; replies to their card come to an owner', async () => {
  clock.set('2026-11-28T09:00:00Z');
  const [shared, hidden] = [await addLead(ilse, DELL, clock), await addLead(ilse, AGAIN, clock)];
  await changeLead(ilse, shared.id, { private: false }, clock);
  await removeMember({ ...maud, confirmedAt: clock.now() }, ilse.userId, clock);
  expect((await openLead(maud, shared.id)).owner.id).toBe(maud.userId);
  await expect(openLead(maud, hidden.id)).rejects.toMatchObject(refused('NOT_FOUND'));
  const card = (await loadPublished({ address: 'ilse-varrow' }, clock))!;
  const told = ToldSchema.parse({ name: 'Late Comer', reach: 'late@comer.example' });
  const signs = { hidden: '', took: 9_000, sinceView: null };
  await takeDown(card, { told, email: 'late@comer.example', language: 'en', from: 'x', signs }, clock);
  const late = (await listLeads(maud, { ...ALL_LEADS, words: 'comer' }, clock)).leads;
  expect(late).toMatchObject([{ name: 'Late Comer', private: false, owner: { id: maud.userId } }]);
});
