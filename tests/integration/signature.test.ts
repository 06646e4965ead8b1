import { spawnSync } from 'node:child_process';
import { simpleParser } from 'mailparser';
import { asOwner } from '../../commands/cluster/databases';
import { FIRST_SIGNATURE, type SignatureOptions } from '@/core/signature';
import { inTenant } from '@/server/db/pool';
import type { Actor } from '@/server/services/accounts/actor';
import { actorOf } from '@/server/services/accounts/sessions';
import { signUp } from '@/server/services/accounts/sign-up';
import { saveCard } from '@/server/services/cards/edit-card';
import { setState } from '@/server/services/cards/card-state';
import { openCard } from '@/server/services/cards/open-card';
import {
  makeSignature,
  openSignature,
  saveSignature,
  sendTestMail,
  signatureFile,
} from '@/server/services/hand-outs/signature';
import { takeContactFile } from '@/server/services/imports/begin-import';
import { sendDueMail } from '@/server/services/mail/send-mail';
import { publishCard } from '@/server/services/publishing/publish-card';
import { readFileSync } from 'node:fs';
import { ask, clock, refused } from './full-card';
import { databaseUrl, newActor, useDatabase } from './place';

useDatabase();
let actor: Actor;
let cardId: string;
let id: string;

/** Ticks what a test wants in the signature of the card, and publishes it. */
async function ticked(more: (line: { detail: string; ticks: { signature: boolean } }, kind: string) => boolean) {
  const { lines, version, audience, record } = await openCard(actor, cardId);
  const kindOf = (detail: string) => record.details.find((each) => each.id === detail)?.kind ?? 'name';
  const next = lines.map((line) => ({ ...line, ticks: { ...line.ticks, signature: more(line, kindOf(line.detail)) } }));
  await saveCard(actor, cardId, { baseVersion: version, lines: next, audience }, clock);
  await publishCard(actor, cardId, { baseVersion: version + 1, address: 'ilse-signs' }, clock);
}

beforeAll(async () => {
  actor = await newActor(clock);
  const file = readFileSync('tests/fixtures/contacts/phone-export-3.vcf');
  const taken = await takeContactFile(actor, file, clock);
  if (!('imported' in taken)) throw new Error('The fixture holds one contact.');
  ({ cardId } = taken.imported);
  await ticked(({ ticks }, kind) => ticks.signature || kind === 'photo');
  ({ id } = await makeSignature(actor, cardId, clock));
});

const pathOf = (link: string) => new URL(link).pathname;
const options = (more: Partial<SignatureOptions>): SignatureOptions => ({ ...FIRST_SIGNATURE, ...more });

test('a card has one signature, made when it is first asked for; what it says is proven, its picture is to be had under its address', async () => {
  expect(await makeSignature(actor, cardId, clock)).toEqual({ id });
  const { variants, has, link, leaving } = await openSignature(actor, id, clock);
  expect(Object.values(variants).map(({ proof }) => proof.checks.filter(({ passed }) => !passed))).toEqual([[], []]);
  expect([has.photo, leaving]).toEqual([true, []]);
  const [, src] = /<img src="([^"]+)"/.exec(variants.message.signature.html)!;
  expect(src).toMatch(/^http:\/\/cards\.example\/h\//);
  const picture = await ask(pathOf(src!));
  expect([picture.status, picture.headers['Content-Type']]).toEqual([200, 'image/jpeg']);
  expect((await ask(pathOf(link))).status).toBe(200);
});

test('the address for scripts gives what the screen shows, as HTML and as text; other codes have none, and what rests gives none', async () => {
  const { variants, link } = await openSignature(actor, id, clock);
  for (const [path, variant] of [
    ['signature', 'message'],
    ['signature-reply', 'reply'],
  ] as const) {
    const html = await ask(`${pathOf(link)}/${path}.html`);
    expect([html.status, String(html.body)]).toEqual([200, variants[variant].signature.html]);
    expect(html.headers['Content-Security-Policy']).toContain("default-src 'none'");
    const text = await ask(`${pathOf(link)}/${path}.txt`);
    expect([text.headers['Content-Type'], String(text.body)]).toEqual([
      'text/plain; charset=utf-8',
      `${variants[variant].signature.text}\n`,
    ]);
  }
  const { handOuts } = await openCard(actor, cardId);
  const code = handOuts.find(({ channel }) => channel === 'code')!;
  expect((await ask(`/h/${code.code}/signature.html`)).status).toBe(404);
  expect((await ask('/c/ilse-signs/signature.html')).status).toBe(404);
  expect((await ask('/h/00000000/signature.html')).status).toBe(404);
  await setState(actor, cardId, { state: 'resting', notice: '', instead: null }, clock);
  expect(String((await ask(`${pathOf(link)}/signature.html`)).body)).not.toContain('Müller');
  await expect(openSignature(actor, id, clock)).rejects.toMatchObject(refused('CARD_NOT_PUBLISHED'));
  await setState(actor, cardId, { state: 'published', notice: '', instead: null }, clock);
});

test('a private value that is ticked is told of: it goes to everybody; unticked and published again it is gone at once', async () => {
  const { record } = await openCard(actor, cardId);
  const home = record.details.find((each) => each.kind === 'phone' && !each.uses.includes('work'))!;
  await ticked(({ detail, ticks }) => ticks.signature || detail === home.id);
  expect((await openSignature(actor, id, clock)).leaving.map((each) => each.id)).toEqual([home.id]);
  await ticked(({ detail, ticks }) => ticks.signature && detail !== home.id);
  const { leaving, variants } = await openSignature(actor, id, clock);
  expect(leaving).toEqual([]);
  expect(variants.message.proof.checks.find(({ name }) => name === 'unticked lines')).toMatchObject({
    finding: { still: 0 },
  });
});

/** Python's email package, which has nothing of ours in it, says how a mail is put together. */
function partsByPython(raw: Buffer) {
  const program = `
import sys, json, email, email.policy
m = email.message_from_bytes(sys.stdin.buffer.read(), policy=email.policy.default)
print(json.dumps([[p.get_content_type(), p.get_filename(), p['content-id'], p.get_content_disposition()] for p in m.walk() if not p.is_multipart()] + [[m['x-unsent'], len(m.defects)]]))`;
  const { stdout, stderr } = spawnSync('python3', ['-c', program], { input: raw, encoding: 'utf8' });
  if (!stdout) throw new Error(stderr);
  return JSON.parse(stdout) as unknown[][];
}

test('a draft is a mail that two readers take apart: its picture within it, the contact attached where that is wanted', async () => {
  const parts = { picture: true, link: true, contact: true };
  const saved = await saveSignature(actor, id, options({ pictures: 'inside', message: parts }), clock);
  // What is copied carries its picture in itself.
  expect(saved.variants.message.signature.html).toContain('src="data:image/jpeg;base64,');
  expect(saved.variants.message.proof.passed).toBe(true);
  const { bytes, fileName } = await signatureFile(actor, id, { form: 'eml', variant: 'message' }, clock);
  expect(fileName).toMatch(/-signature\.eml$/);
  const found = partsByPython(bytes);
  const [cid] = /cid:([^"]+)/.exec((await simpleParser(bytes, { skipImageLinks: true })).html || '')!.slice(1);
  expect(found.slice(0, 2).map(([type]) => type)).toEqual(['text/plain', 'text/html']);
  expect(found).toContainEqual(['image/jpeg', cid!.split('@')[0], `<${cid}>`, 'inline']);
  expect(found.some(([type, name]) => type === 'text/vcard' && String(name).endsWith('.vcf'))).toBe(true);
  expect(found.at(-1)).toEqual(['1', 0]);
  const reply = await signatureFile(actor, id, { form: 'eml', variant: 'reply' }, clock);
  expect(partsByPython(reply.bytes).map(([type]) => type)).toEqual(['text/plain', 'text/html', '1']);
  await saveSignature(actor, id, options({}), clock);
});

test('a test mail goes to one’s own confirmed address and to nobody else', async () => {
  const { settings } = await import('@/server/env');
  Object.assign(settings(), { MAIL_SERVER: 'smtp://127.0.0.1:1', MAIL_FROM: 'cards@heath.example' });
  await expect(sendTestMail(actor, id, 'message', clock)).rejects.toMatchObject(refused('EMAIL_UNCONFIRMED'));
  const sent: { to: string; raw: Buffer }[] = [];
  const door = { greet: () => Promise.resolve(), send: async (mail: (typeof sent)[number]) => void sent.push(mail) };
  await sendTestMail({ ...actor, emailConfirmed: true }, id, 'message', clock);
  await sendDueMail(door, clock);
  const read = await simpleParser(sent[0]!.raw);
  const { variants } = await openSignature(actor, id, clock);
  expect([sent.length, sent[0]!.to, read.subject]).toEqual([1, actor.email, 'Your signature, to look at']);
  expect(String(read.html)).toContain(variants.message.signature.html);
  // RFC 3676, 4.3: programs cut a signature off at a line of two hyphens and a blank.
  expect(read.text).toContain(`\n-- \n${variants.message.signature.text}`);
});

test('a card from before signatures gets the ticks of one: name, title, firm and what is for work, and nothing that is not on its page', async () => {
  const token = await signUp(
    {
      name: 'Old',
      email: 'old-card@heath.example',
      password: 'long enough a password',
      country: 'GB',
      timeZone: 'Europe/London',
    },
    clock,
  );
  const other = (await actorOf(token, clock))!;
  const taken = await takeContactFile(other, readFileSync('tests/fixtures/contacts/phone-export-3.vcf'), clock);
  if (!('imported' in taken)) throw new Error('The fixture holds one contact.');
  const { cardId: old } = taken.imported;
  const before = await openCard(other, old);
  await inTenant(other.organisationId, (tx) =>
    tx.raw(
      `UPDATE cards SET lines = (SELECT jsonb_agg(l #- '{ticks,signature}' ORDER BY at) FROM jsonb_array_elements(lines) WITH ORDINALITY x(l, at)) WHERE id = ?`,
      [old],
    ),
  );
  const { up } = await import('../../migrations/0026-signature');
  const statements: string[] = [];
  await up({ raw: async (text: string) => void statements.push(text) } as never);
  await asOwner(databaseUrl, (client) => client.query(statements[0]!.split('ALTER TABLE')[0]!));
  const after = await openCard(other, old);
  const kindOf = (detail: string) => before.record.details.find((each) => each.id === detail);
  for (const { detail, ticks } of after.lines) {
    const of = kindOf(detail);
    const work =
      of && 'uses' in of && of.uses.includes('work' as never) && (of.kind === 'phone' || of.kind === 'email');
    const wanted =
      detail === 'name' || (ticks.page && (of?.kind === 'title' || of?.kind === 'organisation' || work === true));
    expect([of?.kind ?? detail, ticks.signature]).toEqual([of?.kind ?? detail, wanted]);
  }
});
