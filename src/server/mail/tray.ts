import { randomUUID } from 'node:crypto';
import { mkdir, open, readdir, readFile, rename } from 'node:fs/promises';
import path from 'node:path';
import PostalMime from 'postal-mime';
import { SMTPServer, type SMTPServerDataStream } from 'smtp-server';

/** The largest mail that the tray takes, in bytes. */
const MOST_BYTES = 25_000_000;

/** A mail that the tray kept, as a reader that is not its writer's finds it. */
export type KeptMail = {
  at: string;
  /** Its Message-ID without angle brackets; empty where it has none. */
  id: string;
  /** Whom it was handed over for (RFC 5321), whatever its own headers say. */
  from: string;
  to: string[];
  subject: string;
  text: string;
  html: string;
  headers: Record<string, string>;
  attachments: { name: string; type: string; bytes: Buffer }[];
};

/** Writes a file that is whole under its name, or not there: what was said to be kept outlives this process. */
async function keep(file: string, bytes: Buffer): Promise<void> {
  const unfinished = `${file}.unfinished`;
  const handle = await open(unfinished, 'wx');
  try {
    await handle.writeFile(bytes);
    await handle.sync();
  } finally {
    await handle.close();
  }
  await rename(unfinished, file);
}

async function bytesOf(stream: SMTPServerDataStream): Promise<Buffer | null> {
  const pieces: Buffer[] = [];
  let size = 0;
  for await (const piece of stream as AsyncIterable<Buffer>) {
    size += piece.length;
    // What is too large is read to its end and not kept.
    if (size <= MOST_BYTES) pieces.push(piece);
  }
  return size > MOST_BYTES ? null : Buffer.concat(pieces);
}

/** Of the header alone, in which a line begins with its name (RFC 5322, 2.2). */
const idIn = (raw: Buffer): string =>
  /^message-id:\s*<([^<>\s]{1,200})>/im.exec(raw.subarray(0, 16_000).toString('latin1').split('\r\n\r\n')[0]!)?.[1] ??
  '';

const refused = (message: string, responseCode: number) => Object.assign(new Error(message), { responseCode });

/**
 * The mail tray: a server that speaks SMTP on this machine alone and sends nothing on. Each mail is a file of its very bytes (`.eml`), and one beside it that says for
 * whom it was handed over, both kept before the server says that it has the mail.
 */
export async function startTray(folder: string, port: number): Promise<{ port: number; stop: () => Promise<void> }> {
  // What people write to each other is nobody else's on this machine.
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const server = new SMTPServer({
    ...{ authOptional: true, disabledCommands: ['STARTTLS', 'AUTH'], size: MOST_BYTES, banner: 'mail tray' },
    onData(stream, { envelope }, done) {
      const take = async () => {
        const raw = await bytesOf(stream);
        if (!raw) throw refused('Larger than the tray takes', 552);
        const at = new Date().toISOString();
        const name = path.join(folder, `${at.replace(/[:.]/g, '-')}-${randomUUID().slice(0, 8)}`);
        const from = envelope.mailFrom ? envelope.mailFrom.address : '';
        const to = envelope.rcptTo.map(({ address }) => address);
        await keep(`${name}.json`, Buffer.from(JSON.stringify({ at, id: idIn(raw), from, to })));
        await keep(`${name}.eml`, raw);
      };
      take().then(
        () => done(),
        (error: Error & { responseCode?: number }) => done(error.responseCode ? error : refused('Not kept', 451)),
      );
    },
  });
  // A client that goes in the middle of a talk is no fault of the tray.
  server.on('error', () => undefined);
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  const { port: taken } = server.server.address() as { port: number };
  return { port: taken, stop: () => new Promise((resolve) => server.close(() => resolve())) };
}

/** A mail of a tray by its name there, as it was handed over, before anybody reads it. */
export type KeptHead = Pick<KeptMail, 'at' | 'id' | 'from' | 'to'> & { name: string };

const mailsIn = async (folder: string): Promise<string[]> =>
  (await readdir(folder).catch(() => [])).filter((name) => name.endsWith('.eml')).sort();

async function headOf(folder: string, name: string): Promise<KeptHead> {
  const told = JSON.parse(await readFile(path.join(folder, name.replace(/\.eml$/, '.json')), 'utf8')) as object;
  return { id: '', ...(told as Omit<KeptHead, 'name' | 'id'>), name };
}

/** The latest mails of a tray, the newest first; none where there is no tray. */
export const latestHeads = async (folder: string, most: number): Promise<KeptHead[]> =>
  Promise.all(
    (await mailsIn(folder))
      .slice(-most)
      .reverse()
      .map((name) => headOf(folder, name)),
  );

/** The mails that a tray kept, the oldest first; none where there is no tray. */
export const keptMails = async (folder: string): Promise<KeptMail[]> =>
  Promise.all((await mailsIn(folder)).map(async (name) => readKept(folder, await headOf(folder, name))));

/** A mail of a tray as a reader that is not its writer's finds it. */
export async function readKept(folder: string, { name, ...head }: KeptHead): Promise<KeptMail> {
  const read = await PostalMime.parse(await readFile(path.join(folder, name)));
  return {
    ...head,
    ...{ subject: read.subject ?? '', text: read.text ?? '', html: read.html ?? '' },
    headers: Object.fromEntries(read.headers.map(({ key, value }) => [key, value])),
    attachments: read.attachments.map(({ filename, mimeType, content }) => ({
      ...{ name: filename ?? '', type: mimeType },
      bytes: typeof content === 'string' ? Buffer.from(content) : Buffer.from(content as ArrayBuffer),
    })),
  };
}
