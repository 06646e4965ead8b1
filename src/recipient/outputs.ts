import { createHash } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import type { Language } from '@/core/messages';
import { PAGE_STYLE, renderPage, TAP_SCRIPT } from '@/core/page';
import { contactFileName, writeContactFile, type VcardVersion } from '@/core/vcard';
import { contactContext } from '@/server/services/contact-context';
import type { PublishedCard } from '@/server/services/load-published';

/** One output ready to be sent, made once for each version of a card and hand-out. */
export type Output = { body: Buffer; gzip: Buffer | null; etag: string; headers: Record<string, string> };

const sha256 = (text: string) => `'sha256-${createHash('sha256').update(text).digest('base64')}'`;

/** The page's style sheet as a content security policy names it. */
export const PAGE_STYLE_HASH = sha256(PAGE_STYLE);

/** Only our own style sheet, script, pictures and fonts, each script and style by its hash; nothing typed can ever run. */
export const PAGE_POLICY = [
  "default-src 'none'",
  `style-src ${PAGE_STYLE_HASH}`,
  `script-src ${sha256(TAP_SCRIPT)}`,
  "img-src 'self'",
  "font-src 'self'",
  "connect-src 'self'",
  "base-uri 'none'",
  "form-action 'none'",
  "frame-ancestors 'none'",
].join('; ');

/** Headers that every answer to a recipient carries. */
export const COMMON_HEADERS = {
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'no-referrer',
};

function output(body: Buffer, compress: boolean, headers: Record<string, string>): Output {
  const etag = `"${createHash('sha256').update(body).digest('base64url').slice(0, 22)}"`;
  return { body, gzip: compress ? gzipSync(body, { level: 6 }) : null, etag, headers };
}

/** The page of a card as a hand-out or its short address gives it; links carry the hand-out's code. */
export function pageOutput(card: PublishedCard, base: string, publicUrl: string, language: Language): Output {
  const pictures = card.address ? `/c/${card.address}` : base;
  const html = renderPage(card.composition, {
    contactFile: `${base}.vcf`,
    // Of a preview nothing is counted, and nothing leads elsewhere.
    taps: card.address && `${base}/tap`,
    photo: card.photo && `${pictures}/photo-${card.photo.hash}.jpg`,
    logo: card.logo && `${pictures}/logo-${card.logo.hash}.png`,
    canonical: card.address && `${publicUrl}/c/${card.address}`,
    language,
  });
  return output(Buffer.from(html), true, {
    ...COMMON_HEADERS,
    'Content-Type': 'text/html; charset=utf-8',
    'Content-Language': language,
    'Content-Security-Policy': PAGE_POLICY,
    ...(card.address ? {} : { 'X-Robots-Tag': 'noindex' }),
    ...(card.composition.language ? {} : { Vary: 'Accept-Language' }),
  });
}

/**
 * The contact file; phones open `text/vcard` in their own address book, older ones `text/x-vcard` (common practice, no
 * published source).
 */
export function fileOutput(card: PublishedCard, version: VcardVersion): Output {
  const { cardId, address, publishedAt } = card;
  const served = {
    cardId,
    address,
    revised: publishedAt,
    photo: card.photo?.file ?? null,
    logo: card.logo?.file ?? null,
  };
  const text = writeContactFile(card.composition, contactContext(served, version));
  const name = contactFileName(card.composition);
  return output(Buffer.from(text), false, {
    ...COMMON_HEADERS,
    'Content-Type': `${version === '2.1' ? 'text/x-vcard' : 'text/vcard'}; charset=utf-8`,
    'Content-Disposition': `attachment; filename="${name}"`,
  });
}

/** A picture that the card shows. Its address holds its hash, so a copy is good for ever. */
export function pictureOutput(card: PublishedCard, which: 'photo' | 'logo'): Output {
  const type = which === 'photo' ? 'image/jpeg' : 'image/png';
  return output(card[which]!.page, false, { ...COMMON_HEADERS, 'Content-Type': type });
}
