import { existsSync, mkdirSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { gzipSync } from 'node:zlib';
import { saidIn, type Composition } from '../src/core/card';
import { wordingOf, type Problem } from '../src/core/errors';
import { loadWords } from '../src/core/messages';
import { TAG_ROOM, tagMemory } from '../src/core/ndef';
import { proveContactFile, provePage, type Proof } from '../src/core/proof';
import { proveCode } from '../src/core/proof/code';
import { proveSignature } from '../src/core/proof/signature';
import { proveTag } from '../src/core/proof/tag';
import { codeSvg, drawCode, symbolFor } from '../src/core/qr';
import { writtenName } from '../src/core/record';
import { FIRST_SIGNATURE, writeSignature } from '../src/core/signature';
import { contactFileName } from '../src/core/vcard';
import { createAnswerer } from '../src/recipient';
import { systemClock } from '../src/server/clock';
import type { ExportParts } from '../src/server/services/hand-outs/export-parts';
import { withInstallation } from './archive/installation';
import { fromWhereCalled } from './place';
import { say, Stop } from './stop';

const CHANNELS = ['page', 'contact-file', 'code', 'tag', 'signature', 'mail'] as const;
type ExportChannel = (typeof CHANNELS)[number];

const USAGE = `./heathland export CARD-ADDRESS --channel ${CHANNELS.join('|')} --out DIR
writes what the card gives out there, as it is served, and proof.json; a missing hand-out is made. Exit code 1 where the proof fails`;

/** The hand-out and the ticks that a channel stands on. */
const OF = {
  page: ['code', 'page'],
  'contact-file': ['code', 'file'],
  code: ['code', 'page'],
  tag: ['tag', 'page'],
  signature: ['signature', 'signature'],
  mail: ['code', 'file'],
} as const satisfies Record<ExportChannel, readonly ['code' | 'tag' | 'signature', 'page' | 'file' | 'signature']>;

type Written = { files: Record<string, string | Uint8Array>; proof: Proof };

/** Answers as recipients get them; nothing is counted. */
async function servedBy(): Promise<(target: string) => Promise<Buffer>> {
  const { loadPublished, publishedVersion } = await import('../src/server/services/publishing/load-published');
  const answer = createAnswerer({
    clock: systemClock,
    load: (key) => loadPublished(key, systemClock),
    preview: () => Promise.resolve(null),
    version: publishedVersion,
    record: () => Promise.resolve({ recorded: false }),
    visitor: () => '',
  });
  return async (target) => {
    const header = (name: string) => (name === 'user-agent' ? 'heathland-export' : '');
    const request = {
      method: 'GET',
      path: target,
      query: new URLSearchParams(),
      header,
      address: '127.0.0.1',
      body: '',
    };
    const { status, body } = await answer(request);
    if (status !== 200) throw new Stop(`${target} was answered with ${status}.`);
    return Buffer.isBuffer(body) ? body : Buffer.from(body as string);
  };
}

const languageOf = ({ language }: Composition) => language ?? 'en';

async function page({ served, withheld }: ExportParts, get: (target: string) => Promise<Buffer>): Promise<Written> {
  const html = (await get(`/c/${served.address}`)).toString('utf8');
  const language = /<html[^>]* lang="([^"]+)"/.exec(html)?.[1] ?? 'en';
  const composition = saidIn(served.composition, language);
  return {
    files: { 'page.html': html },
    proof: provePage(html, gzipSync(html, { level: 6 }).length, composition, withheld),
  };
}

async function contactFile(
  { served, withheld }: ExportParts,
  get: (target: string) => Promise<Buffer>,
): Promise<Written> {
  const { contactContext } = await import('../src/server/services/publishing/contact-context');
  const { cardId, organisationId, address, publishedAt, inFile, composition } = served;
  const file = (await get(`/c/${address}.vcf`)).toString('utf8');
  const context = contactContext({ cardId, organisationId, address, revised: publishedAt, ...inFile }, '3.0');
  return { files: { 'contact.vcf': file }, proof: proveContactFile(file, composition, withheld, context) };
}

async function code({ served, withheld, text, drawn }: ExportParts): Promise<Written> {
  const { codeFile } = await import('../src/server/compute/tasks/code/picture');
  const { version, level, mask } = drawn;
  const symbol = symbolFor(text, { version, level, mask });
  const drawing = drawCode(symbol, drawn.style, drawn.words);
  const title = `Code of ${served.address}`;
  const png = await codeFile({ drawing, widthMm: 25, dpi: 300, format: 'png', title, spot: null });
  return {
    files: { 'code.svg': codeSvg(drawing, { title, widthMm: 25 }), 'code.png': png },
    proof: proveCode(symbol, text, withheld),
  };
}

function tag({ withheld, link }: ExportParts): Written {
  const memory = tagMemory(link, null);
  return {
    files: { 'tag.ndef': memory },
    proof: proveTag(memory, { link, contact: null }, withheld, Math.max(...TAG_ROOM)),
  };
}

async function signature(
  { served, withheld, below, code: own, link }: ExportParts,
  get: (target: string) => Promise<Buffer>,
): Promise<Written> {
  const [html, text] = [
    (await get(`/h/${own}/signature.html`)).toString('utf8'),
    (await get(`/h/${own}/signature.txt`)).toString('utf8'),
  ];
  const composition = saidIn(served.composition, languageOf(served.composition));
  const proof = proveSignature(
    { html, text, short: '' },
    {
      ...{ composition, withheld, below, link, pictures: 'linked', pictureBytes: 0 },
    },
  );
  return { files: { 'signature.html': html, 'signature.txt': text }, proof };
}

/** A mail with the card in it: the ticks of the contact file as text and HTML, the file attached. */
async function mail(parts: ExportParts, get: (target: string) => Promise<Buffer>): Promise<Written> {
  const { freshMessageId, writeMail } = await import('../src/server/mail');
  const { served, withheld, link } = parts;
  const composition = saidIn(served.composition, languageOf(served.composition));
  const all = { ...FIRST_SIGNATURE.reply, link: true };
  const context = { language: languageOf(served.composition), link, photo: null, logo: null };
  const made = writeSignature(composition, { layout: 'below', parts: all, channel: 'file' }, context);
  const from = { name: writtenName(composition.name), address: process.env.MAIL_FROM ?? 'nobody@heathland.invalid' };
  const bytes = await get(`/c/${served.address}.vcf`);
  const eml = await writeMail({
    ...{ id: freshMessageId(from.address), date: new Date(systemClock.now()), from, to: from, draft: true },
    ...{
      subject: from.name,
      text: `${made.text}\n`,
      html: `<!doctype html><html><head><meta charset="utf-8"></head><body>${made.html}</body></html>`,
    },
    attachments: [{ name: contactFileName(composition), type: 'text/vcard; charset=utf-8', bytes }],
  });
  const proof = proveSignature(made, {
    composition,
    withheld,
    link,
    pictures: 'linked',
    pictureBytes: 0,
    channel: 'file',
  });
  return { files: { 'mail.eml': eml }, proof };
}

/** What a card gives out on a channel, as files with their proof. */
export async function run(args: string[]): Promise<number> {
  const read = (() => {
    try {
      return parseArgs({
        args,
        allowPositionals: true,
        options: { channel: { type: 'string' }, out: { type: 'string' } },
      });
    } catch {
      throw new Stop(USAGE);
    }
  })();
  const channel = CHANNELS.find((each) => each === read.values.channel);
  const [address, ...more] = read.positionals;
  if (!channel || !address || more.length > 0 || !read.values.out) throw new Stop(USAGE);
  const out = fromWhereCalled(read.values.out);
  if (existsSync(out) && !statSync(out).isDirectory()) throw new Stop(`${read.values.out} is no folder.`);
  // The demo's own address, where nothing else is said.
  if (!process.env.DATABASE_URL) process.env.PUBLIC_URL ??= `http://127.0.0.1:${process.env.PORT ?? 4600}`;
  return withInstallation(async () => {
    const { exportParts } = await import('../src/server/services/hand-outs/export-parts');
    const { closeDb } = await import('../src/server/db/pool');
    const { closeCompute } = await import('../src/server/compute');
    try {
      const name = address
        .replace(/[?#].*$/, '')
        .replace(/\/+$/, '')
        .split('/')
        .at(-1)!
        .toLowerCase();
      const [handOut, ticks] = OF[channel];
      const parts = await exportParts(name, handOut, ticks, systemClock).catch((error: { problem?: Problem }) => {
        throw error.problem ? new Stop(`${name}: ${wordingOf(error.problem)}`) : error;
      });
      await loadWords(languageOf(parts.served.composition));
      const get = await servedBy();
      const { files, proof } = await { page, 'contact-file': contactFile, code, tag, signature, mail }[channel](
        parts,
        get,
      );
      mkdirSync(out, { recursive: true });
      for (const [file, bytes] of Object.entries({ ...files, 'proof.json': `${JSON.stringify(proof, null, 2)}\n` }))
        writeFileSync(path.join(out, file), bytes);
      say(
        `${[...Object.keys(files), 'proof.json'].join(', ')} in ${read.values.out}: ${proof.passed ? 'proven' : 'the proof fails'}.`,
      );
      return proof.passed ? 0 : 1;
    } finally {
      closeCompute();
      await closeDb();
    }
  });
}
