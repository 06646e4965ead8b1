import { createHash } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import { writeSignature, type Variant } from '@/core/signature';
import { linkedPicture, signatureContext, type PublishedStrip } from '@/server/services/hand-outs/signature-parts';
import type { PublishedCard } from '@/server/services/publishing/load-published';
import { mailPicture, type MailedPicture } from '@/server/services/media/mail-picture';
import { deliver } from './deliver';
import { keptOnceMade, ROOM_FOR } from './kept';
import { blockPicture, COMMON_HEADERS, type Output } from './outputs';
import type { RecipientAnswer, RecipientRequest } from './request';

/**
 * The signature of a card by the code of its hand-out, as HTML or as text, for a program that puts it into mail accounts; null where the code is of
 * something else. Its pictures are linked: they stay good for what was sent.
 */
export function signatureOutput(
  card: PublishedCard,
  link: string,
  { variant, form }: { variant: Variant; form: 'html' | 'txt' },
  strip: PublishedStrip | null,
): Output | null {
  if (!card.signature) return null;
  const { options } = card.signature;
  const language = card.composition.language ?? 'en';
  const context = signatureContext(card.signature, strip, link, language, (picture) => linkedPicture(link, picture));
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

/** A picture of nothing, one pixel high: what is scaled to a strip's width stays as good as invisible. */
const NOTHING = blockPicture(
  Buffer.from(
    'iVBORw0KGgoAAAANSUhEUgAAAeAAAAABCAMAAAAxZY00AAAAA1BMVEVMaXFNx9g6AAAAAXRSTlMAQObYZgAAAAlwSFlzAAAD6AAAA+gBtXtSawAAAA5JREFUGNNjYBgFwxoAAAHhAAHvA52QAAAAAElFTkSuQmCC',
    'base64',
  ),
);
/** Pictures of strips: one is asked for by every mail that somebody opens. */
const pictures = keptOnceMade<Output | null>(ROOM_FOR.strips, (made) => made?.body.length ?? 1);

/** So long a strip's picture may be kept on the way, in seconds; never beyond its end. */
const KEPT_SECONDS = 300;

export const emptyStrip = (request: RecipientRequest): RecipientAnswer =>
  deliver(request, NOTHING, `public, max-age=${KEPT_SECONDS}`, {});

/** The picture of a notice strip while it shows, by the code of a signature; before and after, and of one that is no more, an empty one. Error: STORE_UNAVAILABLE. */
export async function stripAnswer(
  request: RecipientRequest,
  { organisationId, signature, state }: PublishedCard,
  id: string,
  now: number,
): Promise<RecipientAnswer> {
  const strip = signature?.strips.find((each) => each.id === id);
  const shows = strip?.picture && state === 'published' && strip.from <= now && now < strip.until;
  if (!strip || !shows) return emptyStrip(request);
  const { picture } = strip as { picture: MailedPicture };
  const made = await pictures(`${organisationId} ${picture.hash}`, async () => {
    const bytes = await mailPicture(organisationId, picture);
    return bytes && blockPicture(bytes);
  });
  if (!made) return emptyStrip(request);
  const seconds = Math.min(KEPT_SECONDS, Math.floor((strip.until - now) / 1_000));
  return deliver(request, made, `public, max-age=${seconds}`, {});
}
