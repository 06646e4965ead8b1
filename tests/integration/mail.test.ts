import { spawnSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { createServer, type AddressInfo, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { simpleParser } from 'mailparser';
import { SMTPServer, type SMTPServerOptions } from 'smtp-server';
import { keptMails, smtpDoor, startTray, writeMail, type Letter } from '@/server/mail';

const VCARD = Buffer.from('BEGIN:VCARD\r\nVERSION:3.0\r\nFN:Jörg Grüße\r\nEND:VCARD\r\n');
const LETTER: Letter = {
  ...{ id: '7c1f@tarnhope.example', date: new Date('2026-11-28T09:00:00Z') },
  from: { name: 'Jörg, of the Ropes', address: 'joerg@tarnhope.example' },
  to: { name: 'Ilse "Illy" Varrow', address: 'ilse@heath.example' },
  subject: 'Grüße vom Seil: Müller & Söhne 🐑',
  text: `Guten Tag,\n.\n${'ein langes Wort '.repeat(90)}\nGrüße`,
  html: '<p>Guten Tag, <b>Grüße</b></p>',
  attachments: [{ name: 'Jörg Grüße.vcf', type: 'text/vcard; charset=utf-8', bytes: VCARD }],
};
const plain = (text: unknown) => String(text).replace(/\r\n/g, '\n').trimEnd();
const closing: (() => unknown)[] = [];
afterAll(() => Promise.all(closing.map((close) => close())));

/** Python's email package, which has nothing of ours in it, says what a mail holds. */
function readByPython(raw: Buffer) {
  const program = `
import sys, json, email, email.policy
m = email.message_from_bytes(sys.stdin.buffer.read(), policy=email.policy.default)
a = [{'name': p.get_filename(), 'type': p.get_content_type(), 'bytes': p.get_payload(decode=True).decode()} for p in m.iter_attachments()]
print(json.dumps({'headers': [k.lower() for k in m.keys()], 'subject': m['subject'], 'from': [[x.display_name, x.addr_spec] for x in m['from'].addresses],
  'to': [[x.display_name, x.addr_spec] for x in m['to'].addresses], 'id': m['message-id'], 'defects': len(m.defects), 'attachments': a,
  'text': m.get_body(('plain',)).get_content(), 'html': m.get_body(('html',)).get_content()}))`;
  const { stdout, stderr } = spawnSync('python3', ['-c', program], { input: raw, encoding: 'utf8' });
  if (!stdout) throw new Error(stderr);
  return JSON.parse(stdout) as Record<string, unknown> & { headers: string[] };
}

test('a mail is read by two readers as it was meant: names, umlauts, both bodies, the attached contact (RFC 5322, RFC 2047, RFC 2231)', async () => {
  const raw = await writeMail(LETTER);
  const lines = raw.toString('latin1').split('\r\n');
  // RFC 5322, 2.1.1: no line over 998 characters, and every end of a line is CR LF.
  expect(Math.max(...lines.map(({ length }) => length))).toBeLessThanOrEqual(998);
  expect(raw.toString('latin1').replace(/\r\n/g, '')).not.toMatch(/[\r\n]/);
  const python = readByPython(raw);
  expect(python).toMatchObject({
    ...{ subject: LETTER.subject, defects: 0, id: '<7c1f@tarnhope.example>' },
    from: [['Jörg, of the Ropes', 'joerg@tarnhope.example']],
    to: [['Ilse "Illy" Varrow', 'ilse@heath.example']],
    attachments: [{ name: 'Jörg Grüße.vcf', type: 'text/vcard', bytes: VCARD.toString() }],
  });
  // RFC 2046, 4.1.1: a text's lines end with CR LF on the way.
  expect(plain(python.text)).toBe(LETTER.text);
  expect(plain(python.html)).toBe(LETTER.html);
  const other = await simpleParser(raw);
  expect([other.subject, other.from?.value, other.text?.trimEnd()]).toEqual([
    LETTER.subject,
    [LETTER.from],
    LETTER.text,
  ]);
  expect(other.attachments.map(({ filename, content }) => [filename, content.toString()])).toEqual([
    ['Jörg Grüße.vcf', VCARD.toString()],
  ]);
});

test.each([
  ['a name', { from: { name: 'Jörg\r\nBcc: all@heath.example', address: 'joerg@tarnhope.example' } }],
  ['a recipient’s name', { to: { name: 'Ilse>\r\nBcc: all@heath.example', address: 'ilse@heath.example' } }],
  ['a subject', { subject: 'Hello\r\nBcc: all@heath.example\r\n\r\nanother body' }],
  ['a bare line feed', { subject: 'Hello\nBcc: all@heath.example' }],
  ['a file name', { attachments: [{ name: 'a.vcf"\r\nBcc: all@heath.example', type: 'text/vcard', bytes: VCARD }] }],
  ['a type', { attachments: [{ name: 'a.vcf', type: 'text/vcard\r\nBcc: all@heath.example', bytes: VCARD }] }],
] as const)('%s with a line break begins no header', async (_, change) => {
  const { headers, to } = readByPython(await writeMail({ ...LETTER, ...(change as Partial<Letter>) }));
  expect(headers).not.toContain('bcc');
  expect([(to as unknown[]).length, new Set(headers).size]).toEqual([1, headers.length]);
});

test.each(['ilse@heath.example, all@heath.example', 'ilse@heath.example>\r\nRCPT TO:<all@heath.example', 'ilse', ''])(
  'what is no address of one person (%j) gets no mail',
  async (address) => {
    await expect(writeMail({ ...LETTER, to: { name: '', address } })).rejects.toMatchObject({
      problem: { code: 'EMAIL_UNREADABLE' },
    });
    const door = smtpDoor('smtp://127.0.0.1:1');
    const sent = door.send({ from: 'a@heath.example', to: address, raw: Buffer.from('') });
    await expect(sent).rejects.toMatchObject({ problem: { code: 'EMAIL_UNREADABLE' } });
  },
);

test('the tray keeps the very bytes before it says so, and whom each was for', async () => {
  const folder = mkdtempSync(path.join(tmpdir(), 'heathland-tray-'));
  const tray = await startTray(folder, 0);
  closing.push(tray.stop);
  const door = smtpDoor(`smtp://127.0.0.1:${tray.port}`);
  await door.greet();
  const raw = await writeMail(LETTER);
  const people = Array.from({ length: 12 }, (_, at) => `person-${at}@heath.example`);
  await Promise.all(people.map((to) => door.send({ from: 'cards@tarnhope.example', to, raw })));
  const kept = await keptMails(folder);
  expect(kept.map(({ to }) => to[0]).sort()).toEqual([...people].sort());
  expect(kept[0]).toMatchObject({ from: 'cards@tarnhope.example', subject: LETTER.subject, html: expect.any(String) });
  expect(kept[0]!.text.trimEnd()).toBe(LETTER.text);
  expect(kept[0]!.attachments).toEqual([{ name: 'Jörg Grüße.vcf', type: 'text/vcard', bytes: VCARD }]);
  // Larger than it takes: refused for good, and not kept.
  const large = Buffer.concat([raw, Buffer.alloc(26_000_000, 'a\r\n')]);
  await expect(door.send({ from: 'a@heath.example', to: people[0]!, raw: large })).rejects.toMatchObject({
    problem: { code: 'MAIL_REFUSED', status: 552 },
  });
  expect(await keptMails(folder)).toHaveLength(people.length);
});

/** A server of the registry's own, with what it is told to do. */
async function server(options: SMTPServerOptions): Promise<string> {
  const made = new SMTPServer({ disabledCommands: ['STARTTLS'], authOptional: true, ...options });
  made.on('error', () => undefined);
  await new Promise<void>((resolve) => made.listen(0, '127.0.0.1', resolve));
  closing.push(() => new Promise((resolve) => made.close(() => resolve(null))));
  return `127.0.0.1:${(made.server.address() as AddressInfo).port}`;
}
/** A server that says one thing, or nothing, and does what it likes then. */
async function rude(say: string | null, then: 'stay' | 'close'): Promise<string> {
  const made: Server = createServer((socket) => {
    socket.on('error', () => undefined);
    if (say !== null) socket.write(say);
    if (then === 'close') socket.end();
  });
  await new Promise<void>((resolve) => made.listen(0, '127.0.0.1', resolve));
  closing.push(() => made.close());
  return `127.0.0.1:${(made.address() as AddressInfo).port}`;
}
const answering = (responseCode: number) =>
  Object.assign(new Error('ilse@heath.example is not here'), { responseCode });
const sendTo = async (address: string) => {
  const door = smtpDoor(address, { connectMs: 400, talkMs: 800 });
  const raw = await writeMail(LETTER);
  return door.send({ from: 'a@heath.example', to: 'ilse@heath.example', raw }).then(
    () => 'sent',
    (error: { problem: unknown }) => error.problem,
  );
};

test('what is final and what passes: RFC 5321, 4.2.1 and 3.8', async () => {
  const refusing = (code: number) =>
    server({ onRcptTo: (_, __, done) => done(code === 250 ? undefined : answering(code)) });
  expect(await sendTo(`smtp://${await refusing(250)}`)).toBe('sent');
  expect(await sendTo(`smtp://${await refusing(550)}`)).toEqual({ code: 'MAIL_REFUSED', status: 550 });
  expect(await sendTo(`smtp://${await refusing(450)}`)).toEqual({ code: 'MAIL_UNAVAILABLE' });
  const passing = { code: 'MAIL_UNAVAILABLE' };
  // Away, silent, gone after its greeting, gone in the middle of the mail, no server of mail at all.
  expect(await sendTo('smtp://127.0.0.1:9')).toEqual(passing);
  expect(await sendTo(`smtp://${await rude(null, 'stay')}`)).toEqual(passing);
  expect(await sendTo(`smtp://${await rude('220 here\r\n', 'close')}`)).toEqual(passing);
  const leaving = await server({
    onData: (stream, session) => void stream.once('data', () => session && stream.destroy()),
  });
  expect(await sendTo(`smtp://${leaving}`)).toEqual(passing);
  expect(await sendTo(`smtp://${await rude('HTTP/1.1 400 Bad Request\r\n\r\n', 'stay')}`)).toEqual(passing);
});

test('it signs in with what the address says, and says nothing of it to a server that has no TLS but on this machine (RFC 3207)', async () => {
  let asked: string[] = [];
  const address = await server({
    ...{ authOptional: false, allowInsecureAuth: true },
    onAuth: ({ username, password }, _, done) => {
      asked.push(`${username} ${password}`);
      if (password === 'p:/@') done(null, { user: username });
      else done(answering(535));
    },
  });
  expect(await sendTo(`smtp://cards:p%3A%2F%40@${address}`)).toBe('sent');
  expect(asked).toEqual(['cards p:/@']);
  // A wrong password is mended by whoever keeps it, and the mail goes out then.
  expect(await sendTo(`smtp://cards:wrong@${address}`)).toEqual({ code: 'MAIL_UNAVAILABLE' });
  asked = [];
  // The same machine under a name that is not known to be it.
  expect(await sendTo(`smtp://cards:p%3A%2F%40@${address.replace('127.0.0.1', '127.1')}`)).toEqual({
    code: 'MAIL_UNAVAILABLE',
  });
  expect(asked).toEqual([]);
});
