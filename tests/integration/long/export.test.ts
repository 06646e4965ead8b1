import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import ICAL from 'ical.js';
import { simpleParser } from 'mailparser';
import type { Actor } from '@/server/services/accounts/actor';
import { openCard } from '@/server/services/cards/open-card';
import { inTenant } from '@/server/db/pool';
import { asOwner } from '../../../commands/cluster/databases';
import { setHandOutState } from '@/server/services/hand-outs/change';
import { makeHandOut } from '@/server/services/hand-outs/make';
import { reusedHandOut } from '@/server/services/hand-outs/reused';
import { shareCard } from '@/server/services/hand-outs/share';
import { addPiece } from '@/server/services/pieces/parts';
import { setState } from '@/server/services/cards/card-state';
import { takeContactFile } from '@/server/services/imports/begin-import';
import { publishCard } from '@/server/services/publishing/publish-card';
import { ask, clock, pageAt } from '../full-card';
import { useCommands } from '../heathland';
import { newActor, useDatabase } from '../place';
import { withPdf } from '../pdf-tools';
import { zbarimg } from '../zbarimg';

useDatabase();
const command = useCommands();
const folder = mkdtempSync(path.join(tmpdir(), 'heathland-export-'));
afterAll(() => rmSync(folder, { recursive: true }));
let actor: Actor;
let cardId: string;

beforeAll(async () => {
  actor = await newActor(clock);
  const taken = await takeContactFile(actor, readFileSync('tests/fixtures/contacts/phone-export-3.vcf'), clock);
  if (!('imported' in taken)) throw new Error('The fixture holds one contact.');
  ({ cardId } = taken.imported);
  await publishCard(actor, cardId, { baseVersion: 1, address: 'ilse-exported' }, clock);
});

function exported(channel: string, address = 'ilse-exported') {
  const out = path.join(folder, channel);
  const { status, stdout, stderr } = command(process.env, 'export', address, '--channel', channel, '--out', out);
  const read = (file: string) => readFileSync(path.join(out, file));
  return { status, said: `${stdout}${stderr}`, read, out };
}
/** What was written before. */
const written = (channel: string, file: string) => readFileSync(path.join(folder, channel, file));
const proofOf = ({ read }: ReturnType<typeof exported>) =>
  JSON.parse(read('proof.json').toString()) as { passed: boolean; checks: { name: string }[] };

test.each([
  ['page', ['page.html']],
  ['contact-file', ['contact.vcf']],
  ['code', ['code.svg', 'code.png']],
  ['tag', ['tag.ndef']],
  ['signature', ['signature.html', 'signature.txt']],
  ['mail', ['mail.eml']],
  ['print', ['print.pdf']],
  ['backdrop', ['backdrop.png']],
  ['pass', ['card.pkpass']],
])('%s goes out as files with a proof that passes', (channel, files) => {
  const made = exported(channel);
  expect([made.status, made.said]).toEqual([0, expect.stringContaining('proven')]);
  for (const file of files) expect([file, made.read(file).length > 20]).toEqual([file, true]);
  expect(proofOf(made)).toMatchObject({ passed: true });
  expect(proofOf(made).checks.length).toBeGreaterThan(1);
});

test('what is written is what recipients are served, and what programs of others read', async () => {
  const { handOuts } = await openCard(actor, cardId);
  const [code, tag, signature, paper] = (['code', 'tag', 'signature', 'print'] as const).map(
    (channel) => handOuts.find((each) => each.channel === channel)!.code,
  );
  // Each was made where it was missing, once.
  expect(handOuts.map(({ channel }) => channel).sort()).toEqual([
    'backdrop',
    'code',
    'pass',
    'print',
    'signature',
    'tag',
  ]);
  // A first screen comes with the page where it is made in time; what is said is the same.
  const lines = (text: string) =>
    text
      .replace(/<(style|script)>[^]*?<\/\1>/g, '')
      .replace(/<[^>]*>/g, ' ')
      .replace(/\s+/g, ' ');
  expect(lines(written('page', 'page.html').toString())).toBe(lines(await pageAt('/c/ilse-exported')));
  const contact = written('contact-file', 'contact.vcf').toString();
  expect(contact).toBe(String((await ask('/c/ilse-exported.vcf')).body));
  expect((ICAL.parse(contact) as [string])[0]).toBe('vcard');
  expect(zbarimg(path.join(folder, 'code', 'code.png'))).toEqual([`HTTP://CARDS.EXAMPLE/H/${code}`]);
  // NDEF 1.0, 3.2 and URI RTD 1.0, 3.2.2: a URI record whose first byte 3 stands for “http://”.
  const ndef = written('tag', 'tag.ndef');
  expect(ndef.toString('latin1')).toContain(`U\u0003cards.example/h/${tag}`);
  const html = written('signature', 'signature.html').toString();
  expect(html).toBe(String((await ask(`/h/${signature}/signature.html`)).body));
  expect(html).not.toMatch(/<(html|head|style|body)/);
  withPdf(written('print', 'print.pdf'), ({ pages, codes }) => {
    expect([pages, codes(2)]).toEqual([2, [`HTTP://CARDS.EXAMPLE/H/${paper}`]]);
  });
  const mail = await simpleParser(written('mail', 'mail.eml'));
  expect(mail.attachments.map(({ contentType, content }) => [contentType, content.toString()])).toEqual([
    ['text/vcard', contact],
  ]);
  for (const line of mail.text!.split('\n').filter(Boolean)) expect(mail.text).toContain(line);
  expect(mail.text).toContain(`http://cards.example/h/${code}`);
});

test('what cannot be is said in a sentence: no such channel, card or folder, a card that rests', async () => {
  for (const [args, told] of [
    [['ilse-exported', '--channel', 'fax', '--out', folder], './heathland export CARD-ADDRESS'],
    [['--channel', 'page', '--out', folder], './heathland export CARD-ADDRESS'],
    [['ilse-exported', '--channel', 'print', '--out', folder, '--size', 'poster'], './heathland export CARD-ADDRESS'],
    [['ilse-exported', '--channel', 'page'], './heathland export CARD-ADDRESS'],
    [['nobody-here', '--channel', 'page', '--out', folder], 'nobody-here'],
    [['../../etc/passwd', '--channel', 'page', '--out', folder], 'passwd'],
  ] as const) {
    const { status, stderr, stdout } = command(process.env, 'export', ...args);
    expect([args, status, `${stdout}${stderr}`.includes(told)]).toEqual([args, 1, true]);
  }
  const file = path.join(folder, 'a-file');
  writeFileSync(file, 'x');
  expect(command(process.env, 'export', 'ilse-exported', '--channel', 'page', '--out', file).status).toBe(1);
  await setState(actor, cardId, { state: 'resting', notice: '', instead: null }, clock);
  const resting = command(
    process.env,
    'export',
    'ilse-exported',
    '--channel',
    'signature',
    '--out',
    path.join(folder, 'no'),
  );
  expect([resting.status, existsSync(path.join(folder, 'no'))]).toEqual([1, false]);
});

test('a signature that rests is exported nowhere, and no second one is made in its place', async () => {
  await setState(actor, cardId, { state: 'published', notice: '', instead: null }, clock);
  const of = async () => (await openCard(actor, cardId)).handOuts.filter(({ channel }) => channel === 'signature');
  const { id } = (await of())[0]!;
  await setHandOutState(actor, id, { state: 'resting', notice: '' }, clock);
  expect(exported('signature').status).not.toBe(0);
  await setHandOutState(actor, id, { state: 'out', notice: '' }, clock);
  expect([exported('signature').status, (await of()).length]).toEqual([0, 1]);
});

test('every hand-out that is out is proven from the served bytes; a frozen one whose bytes were changed is named', async () => {
  await setState(actor, cardId, { state: 'published', notice: '', instead: null }, clock);
  const made = (input: object) => makeHandOut(actor, { cardId, placement: 'x', ...input }, clock);
  const { id } = await made({ channel: 'tag', frozen: true, placement: 'badge' });
  await made({ content: { what: 'contact', form: 'vCard 3.0', link: true } });
  await shareCard(actor, cardId, { placement: 'Shared', occasionId: null }, clock);
  for (const channel of ['message', 'profile'] as const)
    await reusedHandOut(actor, cardId, { channel, placement: 'x', occasionId: null }, clock);
  for (const channel of ['backdrop', 'pass'] as const)
    await addPiece(actor, { cardId, placement: channel, channel }, clock);
  const proven = () => {
    const { status, stdout, stderr } = command(process.env, 'prove');
    if (!stdout) throw new Error(stderr);
    return { status, stdout };
  };
  const good = proven();
  const { handOuts } = await openCard(actor, cardId);
  expect(new Set(handOuts.map(({ channel }) => channel)).size).toBe(9);
  const [, passed, of] = /(\d+) of (\d+) outputs/.exec(good.stdout)!.map(Number);
  expect([good.status, passed]).toEqual([0, of]);
  expect(of).toBeGreaterThan(2 * handOuts.length);
  // One letter in the bytes that lie in the tag.
  await inTenant(actor.organisationId, async (tx) => {
    const { frozen } = await tx('hand_outs').where({ id }).first<{ frozen: string }>('frozen');
    const bytes = Buffer.from(frozen, 'base64');
    bytes.write('X', bytes.indexOf('BEGIN:VCARD') + 'BEGIN:'.length);
    await asOwner(process.env.DATABASE_URL!, (client) =>
      client.query('UPDATE hand_outs SET frozen = $1 WHERE id = $2', [bytes.toString('base64'), id]),
    );
  });
  const bad = proven();
  expect([bad.status, bad.stdout.includes('ilse-exported, badge, tag:')]).toEqual([1, true]);
  expect(command(process.env, 'prove', 'never-published').status).not.toBe(0);
}, 90_000);
