import { createHash } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import { writeSignature, type Variant } from '@/core/signature';
import { linkedPicture, signatureContext } from '@/server/services/hand-outs/signature-parts';
import type { PublishedCard } from '@/server/services/publishing/load-published';
import { COMMON_HEADERS, type Output } from './outputs';

/**
 * The signature of a card by the code of its hand-out, as HTML or as text, for a program that puts it into mail accounts; null where the code is of
 * something else. Its pictures are linked: they stay good for what was sent.
 */
export function signatureOutput(
  card: PublishedCard,
  link: string,
  { variant, form }: { variant: Variant; form: 'html' | 'txt' },
): Output | null {
  if (!card.signature) return null;
  const { options } = card.signature;
  const language = card.composition.language ?? 'en';
  const context = signatureContext(card.signature, link, language, (picture) => linkedPicture(link, picture));
  const { html, text } = writeSignature(card.composition, { layout: options.layout, parts: options[variant] }, context);
  const body = Buffer.from(form === 'html' ? html : `${text}\n`);
  return {
    body,
    gzip: gzipSync(body, { level: 6 }),
    etag: `"${createHash('sha256').update(body).digest('base64url').slice(0, 22)}"`,
    headers: {
      ...COMMON_HEADERS,
      'Content-Type': form === 'html' ? 'text/html; charset=utf-8' : 'text/plain; charset=utf-8',
      'Content-Language': language,
      // A fragment that somebody opens by itself shows its own pictures and runs nothing.
      'Content-Security-Policy':
        "default-src 'none'; img-src 'self'; style-src-attr 'unsafe-inline'; frame-ancestors 'none'; base-uri 'none'; form-action 'none'",
      'X-Robots-Tag': 'noindex',
    },
  };
}
