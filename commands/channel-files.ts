import { gzipSync } from 'node:zlib';
import { saidIn, type Composition } from '../src/core/card';
import { wordsAbove } from '../src/core/letter';
import { liveTag, tagContent } from '../src/core/code';
import { TAG_ROOM } from '../src/core/ndef';
import { heldInTag } from '../src/core/specimen/tag-held';
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
import { Stop } from './stop';

export type Written = { files: Record<string, string | Uint8Array>; proof: Proof };

/** Answers as recipients get them; nothing is counted. */
export async function servedBy(): Promise<(target: string) => Promise<Buffer>> {
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

export const languageOf = ({ language }: Composition) => language ?? 'en';

export async function page(
  { served, withheld, base }: ExportParts,
  get: (target: string) => Promise<Buffer>,
): Promise<Written> {
  const html = (await get(base)).toString('utf8');
  const language = /<html[^>]* lang="([^"]+)"/.exec(html)?.[1] ?? 'en';
  const composition = saidIn(served.composition, language);
  return {
    files: { 'page.html': html },
    proof: provePage(html, gzipSync(html, { level: 6 }).length, composition, withheld),
  };
}

export async function contactFile(
  { served, withheld, base }: ExportParts,
  get: (target: string) => Promise<Buffer>,
): Promise<Written> {
  const { contactContext } = await import('../src/server/services/publishing/contact-context');
  const { cardId, organisationId, address, publishedAt, inFile, composition } = served;
  const file = (await get(`${base}.vcf`)).toString('utf8');
  const context = contactContext({ cardId, organisationId, address, revised: publishedAt, ...inFile }, '3.0');
  return { files: { 'contact.vcf': file }, proof: proveContactFile(file, composition, withheld, context) };
}

export async function code({ served, withheld, text, drawn }: ExportParts): Promise<Written> {
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

export function tag({ withheld, link, frozen, content }: ExportParts): Written {
  const does = tagContent(content, frozen !== null);
  const memory = frozen ?? liveTag(does, link);
  const held = heldInTag(memory, does, link);
  return {
    files: { 'tag.ndef': memory },
    proof: proveTag(memory, held, withheld, Math.max(...TAG_ROOM)),
  };
}

export async function signature(
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
export async function mail(parts: ExportParts, get: (target: string) => Promise<Buffer>): Promise<Written> {
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
    ...{ subject: from.name, ...wordsAbove('', made) },
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
