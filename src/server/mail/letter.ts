import { createHash } from 'node:crypto';
import { createTransport } from 'nodemailer';
import { orRefuse } from '@/core/errors';
import { cleanLine, readEmail } from '@/core/record';

export type Correspondent = { name: string; address: string };

/** A mail before it is written. `id` is its Message-ID without angle brackets, so that one that is sent again is the same mail. */
export type Letter = {
  id: string;
  date: Date;
  from: Correspondent;
  to: Correspondent;
  replyTo?: Correspondent;
  subject: string;
  text: string;
  html?: string;
  /** A part with an `id` is shown within the HTML, which names it as `cid:` (RFC 2392). */
  attachments?: { name: string; type: string; bytes: Buffer; id?: string }[];
  /** It was never sent: programs that know this open it as something to be written (common practice). */
  draft?: true;
};

/** Letters of a header at most, so that no mail program has to cut it where it likes. */
const MOST_SUBJECT = 200;
/** A line without controls: what would end a header and begin another one is a blank. */
const line = (text: string, most = MOST_SUBJECT): string => cleanLine(text).text.slice(0, most);

/** One person by name and address, never a list: an address that has commas or brackets in it is refused. Error: EMAIL_UNREADABLE. */
const person = ({ name, address }: Correspondent) => ({ name: line(name), address: orRefuse(readEmail(address)) });

/** Writes every mail; making one takes longer than a short mail. */
const writer = createTransport({ streamTransport: true, buffer: true, newline: 'windows' });

/** A mail as it goes over the wire (RFC 5322, MIME), lines ended by CR LF. Error: EMAIL_UNREADABLE. */
export async function writeMail(letter: Letter): Promise<Buffer> {
  const { id, date, from, to, replyTo, subject, text, html, attachments = [], draft } = letter;
  const { message } = await writer.sendMail({
    ...{ messageId: `<${id}>`, date, from: person(from), to: person(to), subject: line(subject), text, html },
    ...(replyTo ? { replyTo: person(replyTo) } : {}),
    // Nothing is fetched or read because a text looks like an address or a path.
    ...{ disableFileAccess: true, disableUrlAccess: true },
    ...(draft ? { headers: { 'X-Unsent': '1' } } : {}),
    // The same mail has the same bytes however often it is written.
    ...{ baseBoundary: createHash('sha256').update(id).digest('hex').slice(0, 24) },
    attachments: attachments.map(({ name, type, bytes, id: part }) => ({
      ...{ filename: line(name), contentType: line(type), content: bytes },
      ...(part ? { cid: line(part), contentDisposition: 'inline' as const } : {}),
    })),
  });
  return message as Buffer;
}

/** Before a mail that is still to be written; no mail begins so. */
const UNWRITTEN = 0;

/**
 * A mail as what it says, to be written by whoever sends it: writing takes longer than everything else that a recipient waits for. Its addresses are read now.
 * Error: EMAIL_UNREADABLE.
 */
export function unwrittenMail(letter: Letter): Buffer {
  for (const each of [letter.from, letter.to, letter.replyTo]) if (each) person(each);
  const attachments = letter.attachments?.map((each) => ({ ...each, bytes: each.bytes.toString('base64') }));
  return Buffer.concat([Buffer.of(UNWRITTEN), Buffer.from(JSON.stringify({ ...letter, attachments }))]);
}

/** A mail as it goes over the wire, whether it was written before or not. */
export async function writtenMail(raw: Buffer): Promise<Buffer> {
  if (raw[0] !== UNWRITTEN) return raw;
  type Kept = Omit<Letter, 'date' | 'attachments'> & {
    date: string;
    attachments?: { name: string; type: string; bytes: string }[];
  };
  const { attachments, date, ...kept } = JSON.parse(raw.subarray(1).toString('utf8')) as Kept;
  const files = attachments?.map((each) => ({ ...each, bytes: Buffer.from(each.bytes, 'base64') }));
  return writeMail({ ...kept, date: new Date(date), ...(files ? { attachments: files } : {}) });
}
