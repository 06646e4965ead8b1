import { execFileSync } from 'node:child_process';
import fc from 'fast-check';
import { unwrittenMail, writeMail, writtenMail, type Letter } from './letter';

/** Python's package `email` reads a mail (RFC 5322, RFC 2045 to 2047) as another program would, for many at a time. */
const READ = `
import base64, json, sys
from email import message_from_bytes, policy
def read(raw):
    mail = message_from_bytes(base64.b64decode(raw), policy=policy.default)
    part = lambda kind: (mail.get_body(preferencelist=(kind,)) or None)
    text = lambda kind: part(kind).get_content() if part(kind) else None
    who = lambda name: [[a.display_name, a.addr_spec] for a in mail[name].addresses] if mail[name] else []
    return {
        'headers': sorted(set(k.lower() for k in mail.keys())), 'subject': str(mail['subject'] or ''), 'id': mail['message-id'],
        'from': who('from'), 'to': who('to'), 'reply': who('reply-to'), 'text': text('plain'), 'html': text('html'),
        'files': [[f.get_filename(), f.get_content_type(), base64.b64encode(f.get_payload(decode=True)).decode()] for f in mail.walk() if f.get_filename()],
        'defects': [type(d).__name__ for p in mail.walk() for d in p.defects],
    }
print(json.dumps([read(raw) for raw in json.load(sys.stdin)]))
`;
type ReadMail = {
  headers: string[];
  subject: string;
  id: string;
  from: [string, string][];
  to: [string, string][];
  reply: [string, string][];
  text: string;
  html: string | null;
  files: [string, string, string][];
  defects: string[];
};
const read = (mails: Buffer[]) =>
  JSON.parse(
    execFileSync('python3', ['-c', READ], {
      input: JSON.stringify(mails.map((mail) => mail.toString('base64'))),
      encoding: 'utf8',
      maxBuffer: 64e6,
    }),
  ) as ReadMail[];

const LETTER: Letter = {
  ...{
    id: 'a1b2@studio.heath.example',
    date: new Date('2026-11-30T10:00:00Z'),
    subject: 'Your card',
    text: 'Up we go',
  },
  ...{
    from: { name: 'Heathland', address: 'post@heath.example' },
    to: { name: 'Ilse', address: 'ilse@tarnhope.example' },
  },
};
/** Letters that headers have to encode or fold, and what would end a header and begin another one. */
const words = fc
  .array(
    fc.constantFrom(
      'Grüße',
      'إلسه',
      '🐑',
      'Rope',
      ',',
      ';',
      ':',
      '"',
      '<',
      '>',
      '@',
      '\\',
      '=?utf-8?q?x?=',
      '\r\nBcc: all@evil.example',
      '\n',
      ' ',
      'x'.repeat(90),
    ),
    { maxLength: 8 },
  )
  .map((parts) => parts.join(' '));
const body = fc
  .array(fc.constantFrom('.', 'From ', '=', 'ß', '\n', '\n.\n', '--', 'x'.repeat(1_200), ' '), {
    minLength: 1,
    maxLength: 12,
  })
  .map((parts) => `${parts.join('')}x`);
const letter: fc.Arbitrary<Letter> = fc.record(
  {
    ...{
      id: fc.constant(LETTER.id),
      date: fc.constant(LETTER.date),
      subject: words,
      text: body,
      html: body.map((text) => `<p>${text}</p>`),
    },
    from: words.map((name) => ({ ...LETTER.from, name })),
    to: words.map((name) => ({ ...LETTER.to, name })),
    replyTo: words.map((name) => ({ name, address: 'odile@brandreth.example' })),
    attachments: fc.array(
      fc.record({
        name: fc.constantFrom('card.vcf', 'Prüfung 1.pdf', '../../etc/x'),
        type: fc.constant('text/vcard'),
        bytes: fc.uint8Array({ minLength: 1, maxLength: 90 }).map(Buffer.from),
      }),
      { maxLength: 2 },
    ),
  },
  { requiredKeys: ['id', 'date', 'from', 'to', 'subject', 'text'] },
) as fc.Arbitrary<Letter>;
/** A line of a header as it may be read: its blanks are one. */
const plain = (text: string) => text.replace(/\s+/g, ' ').trim();

test('whatever it says, a mail is read by another program as it was meant, and nothing that was typed becomes a header (RFC 5322, MIME)', async () => {
  const letters = fc.sample(letter, { numRuns: 60, seed: 20_261_130 });
  const written = await Promise.all(letters.map(writeMail));
  read(written).forEach((found, at) => {
    const meant = letters[at]!;
    expect(found.defects).toEqual([]);
    expect([found.id, found.from.length, found.to.length]).toEqual([`<${LETTER.id}>`, 1, 1]);
    expect([found.from[0]![1], found.to[0]![1]]).toEqual(['post@heath.example', 'ilse@tarnhope.example']);
    expect(found.reply.map(([, address]) => address)).toEqual(meant.replyTo ? ['odile@brandreth.example'] : []);
    const known = [
      'content-disposition',
      'content-transfer-encoding',
      'content-type',
      'date',
      'from',
      'message-id',
      'mime-version',
      'reply-to',
      'subject',
      'to',
    ];
    expect(found.headers.filter((name) => !known.includes(name))).toEqual([]);
    // RFC 5322, 2.1.1: lines of at most 998 octets, ended by CR LF.
    const lines = written[at]!.toString('latin1').split('\r\n');
    expect(lines.every((line) => line.length <= 998 && !/[\r\n]/.test(line))).toBe(true);
    expect(plain(found.text)).toBe(plain(meant.text));
    expect(found.html && plain(found.html)).toBe(meant.html ? plain(meant.html) : null);
    // Nobody's folder is written to by an attachment's name: it is the last part of a path to whoever saves it.
    expect(found.files.map(([, , bytes]) => bytes)).toEqual(
      (meant.attachments ?? []).map(({ bytes }) => bytes.toString('base64')),
    );
  });
});

test('the same mail has the same bytes however often it is written, and one that waits is written as it would have been', async () => {
  for (const each of fc.sample(letter, { numRuns: 20, seed: 7 })) {
    const [one, other] = await Promise.all([writeMail(each), writeMail(each)]);
    expect(one.equals(other)).toBe(true);
    expect((await writtenMail(unwrittenMail(each))).equals(one)).toBe(true);
    expect((await writtenMail(one)).equals(one)).toBe(true);
  }
});

test.each(['a@b.example, c@d.example', 'a@b.example>\r\nBcc: c@d.example', 'nobody', '', 'a b@c.example'])(
  'what is no address of one person is refused before anything waits: “%s”',
  async (address) => {
    for (const who of ['to', 'from', 'replyTo'] as const) {
      const wrong = { ...LETTER, [who]: { name: 'Ilse', address } };
      expect(() => unwrittenMail(wrong)).toThrow(expect.objectContaining({ problem: { code: 'EMAIL_UNREADABLE' } }));
      await expect(writeMail(wrong)).rejects.toMatchObject({ problem: { code: 'EMAIL_UNREADABLE' } });
    }
  },
);

test('a draft says that it was never sent, and a picture within the text is named by its part (RFC 2392)', async () => {
  const picture = { name: 'face.png', type: 'image/png', bytes: Buffer.from('\x89PNG'), id: 'face' };
  const raw = await writeMail({ ...LETTER, html: '<img src="cid:face">', attachments: [picture], draft: true });
  const [found] = read([raw]);
  expect(found!.headers).toContain('x-unsent');
  expect(raw.toString()).toContain('Content-ID: <face>');
  expect(found!.files).toEqual([['face.png', 'image/png', picture.bytes.toString('base64')]]);
  // A text that looks like an address or a path is a text.
  const [path] = read([await writeMail({ ...LETTER, text: 'file:///etc/passwd', html: 'https://evil.example/' })]);
  expect([path!.text.trim(), path!.html!.trim()]).toEqual(['file:///etc/passwd', 'https://evil.example/']);
});
