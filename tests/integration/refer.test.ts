import ICAL from 'ical.js';
import { simpleParser } from 'mailparser';
import { readBlock, shownValue } from '@/core/record';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { sweep } from '@/server/services/jobs/sweeps';
import { sendDueMail } from '@/server/services/mail/send-mail';
import {
  addContact,
  addContactFile,
  changeContact,
  listContacts,
  openContact,
  removeContact,
} from '@/server/services/contacts/contacts';
import { endLink, referByFile, referByLink, referByMail } from '@/server/services/contacts/refer';
import { ask, clock, ids, pageAt, refused } from './full-card';
import { newActor, useDatabase } from './place';

useDatabase();
let odile: Actor;
let colleague: Actor;
const sent: { to: string; raw: Buffer }[] = [];
const door = { greet: () => Promise.resolve(), send: async (mail: (typeof sent)[number]) => void sent.push(mail) };

/** A mail signature as somebody pastes it; numbers reserved for fiction. */
const PASTED = `Dell Hythe
Rope splicer
Hythe & Sons Ltd
Office: 020 7946 0211
Mobile: 07700 900211
Home: 01632 960211
dell@hythe.example
www.hythe.example`;
const DELL = readBlock(PASTED, { country: 'GB', zone: 'Europe/London', freshId: ids });
const MAIL = { to: 'Ines@Varrow.example', name: 'Ines', note: 'Dell splices <b>anything</b>.', copyTo: null };
const [MOBILE, HOME] = ['7700900211', '1632960211'];

/** Numbers without their blanks and zeros, since each output writes them in its own way. */
const digits = (text: string) => text.replace(/[\s()-]+/g, '');

/** Names of properties and values, as ical.js reads them (RFC 6350, also of version 3.0). */
const properties = (file: string): [string, string][] =>
  (ICAL.parse(file) as [string, [string, object, string, unknown][]])[1].map(([name, , , value]) => [
    name,
    String(value),
  ]);

beforeAll(async () => {
  odile = { ...(await newActor(clock)), emailConfirmed: true };
  colleague = { ...odile, userId: (await newActor(clock)).userId };
  const { settings } = await import('@/server/env');
  Object.assign(settings(), { MAIL_SERVER: 'smtp://127.0.0.1:1', MAIL_FROM: 'cards@heath.example' });
});
beforeEach(() => sent.splice(0));

const noted = async () => (await addContact(odile, { name: DELL.name!, details: DELL.details }, clock)).id;

test('of whom somebody refers only what is for work is ticked at first; mobile and home go along once they are ticked, and that is remembered', async () => {
  const id = await noted();
  const first = await openContact(odile, id, clock);
  const { text } = await referByFile(odile, id, clock).then(({ bytes }) => ({ text: bytes.toString() }));
  const read = properties(text);
  expect(read.map(([name]) => name)).toEqual(
    expect.arrayContaining(['fn', 'n', 'org', 'title', 'tel', 'email', 'url']),
  );
  expect(read.filter(([name]) => name === 'tel').map(([, value]) => digits(value))).toEqual(['+442079460211']);
  for (const number of [MOBILE, HOME]) expect(digits(text)).not.toContain(number);
  const mobile = first.lines.find(({ value }) => digits(value).endsWith(MOBILE.slice(1)))!;
  expect([mobile.ticked, mobile.privacy]).toEqual([false, 'mobile']);
  const ticked = [...first.lines.filter((line) => line.ticked).map((line) => line.id), mobile.id];
  const input = { name: first.name, details: first.record.details, baseVersion: 1, ticked };
  await changeContact(odile, id, input, clock);
  const second = (await referByFile(odile, id, clock)).bytes.toString();
  expect(digits(second)).toContain(MOBILE);
  expect(digits(second)).not.toContain(HOME);
  expect((await openContact(odile, id, clock)).referrals.map(({ way, lines }) => [way, lines])).toEqual([
    ['file', ticked.length],
    ['file', ticked.length - 1],
  ]);
  await expect(changeContact(odile, id, input, clock)).rejects.toMatchObject(refused('RECORD_CHANGED'));
});

test('what was passed on as a file tells what of it is no longer so, there and back', async () => {
  const id = await noted();
  await referByFile(odile, id, clock);
  const told = async () => (await openContact(odile, id, clock)).referrals.map(({ old }) => old);
  expect(await told()).toEqual([[]]);
  const renumber = async (number: string) => {
    const { version, record, lines } = await openContact(odile, id, clock);
    const details = record.details.map((each) =>
      each.kind === 'phone' && each.uses.includes('work') ? { ...each, number } : each,
    );
    const ticked = lines.flatMap((line) => (line.ticked ? [line.id] : []));
    await changeContact(odile, id, { baseVersion: version, ticked, name: DELL.name!, details }, clock);
  };
  await renumber('+442079460299');
  expect(await told()).toEqual([['+44 20 7946 0211']]);
  await renumber('+442079460211');
  expect(await told()).toEqual([[]]);
});

test('a mail says it as text and carries the file; a copy goes to whoever is referred where that is wanted, and nowhere else', async () => {
  const id = await noted();
  await referByMail(
    odile,
    id,
    { ...MAIL, name: 'Ines\r\nBcc: all@heath.example', copyTo: 'dell@hythe.example' },
    clock,
  );
  await sendDueMail(door, { now: () => clock.now() + 60_000 });
  expect(sent.map(({ to }) => to).sort()).toEqual(['Ines@varrow.example', 'dell@hythe.example']);
  for (const { raw } of sent) {
    const read = await simpleParser(raw);
    expect([read.bcc, read.attachments.map(({ contentType }) => contentType)]).toEqual([undefined, ['text/vcard']]);
    expect(read.text).toContain('Dell splices <b>anything</b>.');
    expect(String(read.html)).not.toContain('<b>anything');
    expect(read.replyTo?.text).toContain(odile.email);
    const said = digits([read.text, String(read.html), read.attachments[0]!.content.toString()].join(''));
    for (const number of [MOBILE, HOME]) expect(said).not.toContain(number);
    expect(said).toContain('2079460211');
  }
  const attempt = (change: object, actor = odile) => referByMail(actor, id, { ...MAIL, ...change }, clock);
  // A copy to an address that is none of theirs would be a mail to anybody.
  await expect(attempt({ copyTo: 'all@heath.example' })).rejects.toMatchObject(refused('INPUT'));
  await expect(attempt({ to: 'a@b.example, c@d.example' })).rejects.toMatchObject(refused('EMAIL_UNREADABLE'));
  await expect(attempt({}, { ...odile, emailConfirmed: false })).rejects.toMatchObject(refused('EMAIL_UNCONFIRMED'));
  const rows = await inTenant(odile.organisationId, async (tx) =>
    JSON.stringify(await Promise.all(['contacts', 'referrals', 'audit_trail'].map((table) => tx(table)))),
  );
  expect(rows.toLowerCase()).not.toContain('varrow.example');
});

test('a link shows what was ticked when it was made, nothing more later, until it ends or is ended; then what it showed is gone', async () => {
  const id = await noted();
  const { url } = await referByLink(odile, id, 7, clock);
  const path = new URL(url).pathname;
  const { lines, record, name } = await openContact(odile, id, clock);
  await changeContact(
    odile,
    id,
    { name, details: record.details, baseVersion: 1, ticked: lines.map((line) => line.id) },
    clock,
  );
  const [page, file] = [await pageAt(path), String((await ask(`${path}.vcf`)).body)];
  for (const output of [page, file]) {
    expect(output).toContain('Dell Hythe');
    for (const number of [MOBILE, HOME]) expect(digits(output)).not.toContain(number);
  }
  // Nobody's search engine takes it up, and nothing of it is counted.
  const { headers } = await ask(path);
  expect([headers['X-Robots-Tag'], headers['Heathland-Event']]).toEqual(['noindex', 'none']);
  const other = new URL((await referByLink(odile, id, 1, clock)).url).pathname;
  const links = (await openContact(odile, id, clock)).referrals;
  await endLink(
    odile,
    id,
    links.find(({ ends }) => ends! < new Date(clock.now() + 2 * 86_400_000).toISOString())!.id,
    clock,
  );
  expect([(await ask(other)).status, (await ask(path)).status]).toEqual([410, 200]);
  clock.set('2026-12-09T09:00:00Z');
  expect((await ask(path)).status).toBe(410);
  await sweep(['previews'], clock);
  const kept = await inTenant(odile.organisationId, (tx) => tx('referrals').whereNotNull('composition'));
  expect(kept).toEqual([]);
  clock.set('2026-11-24T09:00:00Z');
});

test('nobody but whoever noted a contact sees it, refers it or removes it, a colleague neither; removing it ends its links', async () => {
  const id = await noted();
  const { url } = await referByLink(odile, id, 30, clock);
  const stranger = await newActor(clock);
  for (const other of [colleague, stranger])
    for (const attempt of [
      () => openContact(other, id, clock),
      () => referByFile(other, id, clock),
      () => referByLink(other, id, 7, clock),
      () => removeContact(other, id, clock),
    ])
      await expect(attempt()).rejects.toMatchObject(refused('NOT_FOUND'));
  expect((await listContacts(colleague)).map((each) => each.id)).not.toContain(id);
  await removeContact(odile, id, clock);
  expect((await ask(new URL(url).pathname)).status).toBe(404);
});

test('bad input: no name, nothing ticked, several contacts in a file, details of one id, a day too many', async () => {
  await expect(addContact(odile, { name: ' \u202e ', details: [] }, clock)).rejects.toMatchObject(
    refused('NAME_MISSING'),
  );
  const bare = (await addContact(odile, { name: 'ديل هايث '.repeat(20), details: [] }, clock)).id;
  for (const pass of [referByFile, (a: Actor, b: string) => referByLink(a, b, 7, clock)])
    await expect(pass(odile, bare, clock)).rejects.toMatchObject(refused('NOTHING_TICKED'));
  const two = Buffer.from('BEGIN:VCARD\nFN:One\nEND:VCARD\nBEGIN:VCARD\nFN:Two\nEND:VCARD');
  await expect(addContactFile(odile, two, clock)).rejects.toMatchObject(refused('TOO_MANY_CONTACTS'));
  await expect(addContactFile(odile, Buffer.from([0, 1, 2]), clock)).rejects.toMatchObject(
    refused('NOT_A_CONTACT_FILE'),
  );
  const twice = DELL.details.map((detail) => ({ ...detail, id: 'same' }));
  const same = await openContact(odile, (await addContact(odile, { name: 'Dell', details: twice }, clock)).id, clock);
  expect(new Set(same.lines.map(({ id }) => id)).size).toBe(DELL.details.length);
  expect(same.lines.map(({ value }) => value).sort()).toEqual(DELL.details.map((detail) => shownValue(detail)).sort());
  for (const days of [0, 91, 1.5, Number.NaN])
    await expect(referByLink(odile, same.id, days, clock)).rejects.toMatchObject(refused('INPUT'));
});
