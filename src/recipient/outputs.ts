import { createHash } from 'node:crypto';
import { gzipSync } from 'node:zlib';
import { layoutOf, type Plates } from '@/core/look';
import { ourLanguage, type Language } from '@/core/language';
import { languagesOf, saidIn, type Composition } from '@/core/card';
import {
  renderPage,
  stylesOf,
  hasReplyForm,
  REPLY_LOADER,
  TAP_SCRIPT,
  TYPE_SCRIPT,
  type FirstScreen,
  type PageContext,
} from '@/core/page';
import { contactFileName, writeContactFile, type VcardVersion } from '@/core/vcard';
import { drawSymbol, liveCodeText, symbolFor } from '@/core/qr';
import { writtenName } from '@/core/record';
import { transportHeaders } from '@/server/env';
import { contactContext } from '@/server/services/publishing/contact-context';
import { drawingKey } from '@/server/services/media/draw-card';
import { pageBytes, type PublishedCard } from '@/server/services/publishing/load-published';
import { replyWords } from '@/core/messages/replies';
import { keptCopyWorker, manifestOf, replyProgramText } from './app-files';

/** One output ready to be sent, made once for each version of a card and hand-out; its brotli form comes later, see `brotli.ts`. */
export type Output = {
  body: Buffer;
  gzip: Buffer | null;
  brotli?: Buffer | null;
  etag: string;
  headers: Record<string, string>;
};

const sha256 = (text: string) => `'sha256-${createHash('sha256').update(text).digest('base64')}'`;

/** Only our own style sheets, script, pictures and fonts, each script and style by its hash; nothing typed can ever run. */
export const policyOf = (styles: string[], { player = false, brings = false, form = false } = {}): string =>
  [
    "default-src 'none'",
    `style-src ${styles.map(sha256).join(' ')}`,
    // A form's script lies at an address of ours, and is fetched when the form is touched.
    `script-src ${[TAP_SCRIPT, ...(brings ? [TYPE_SCRIPT] : []), ...(form ? [REPLY_LOADER] : [])].map(sha256).join(' ')}${form ? " 'self'" : ''}`,
    "worker-src 'self'",
    "manifest-src 'self'",
    // What a first screen brings along stands in its style sheet.
    brings ? "img-src 'self' data:" : "img-src 'self'",
    "media-src 'self'",
    brings ? "font-src 'self' data:" : "font-src 'self'",
    "connect-src 'self'",
    // Of a card with a player elsewhere: a frame may come in, over https, once its recipient asks for it.
    ...(player ? ['frame-src https:'] : []),
    "base-uri 'none'",
    form ? "form-action 'self'" : "form-action 'none'",
    "frame-ancestors 'none'",
  ].join('; ');

/** Whether a card's layout fills the page with its photo, which is a larger one then. */
export const fillsWithPhoto = ({ look }: Composition): boolean => layoutOf(look.layout).photo === 'fills';

const hasPlayer = ({ blocks }: Composition): boolean =>
  blocks.some((block) => block.kind === 'video' && block.videos.some(({ player }) => player !== ''));

/** Headers that every answer to a recipient carries. */
export const COMMON_HEADERS = {
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'no-referrer',
};

/** What an output weighs on the wire where it is taken compressed, in bytes: with its headers, and those that the server adds itself. */
export const weightOf = ({ body, gzip, headers }: Output): number =>
  (gzip ?? body).length +
  Object.entries(headers).reduce((sum, [name, value]) => sum + name.length + value.length + 4, 0) +
  SERVER_HEADERS;

/** Status line, Date, Connection, Keep-Alive, ETag, Cache-Control, Content-Length, Content-Encoding and what told of the event; measured. */
const SERVER_HEADERS = 330;

function output(body: Buffer, compress: boolean, headers: Record<string, string>): Output {
  const etag = `"${createHash('sha256').update(body).digest('base64url').slice(0, 22)}"`;
  return { body, gzip: compress ? gzipSync(body, { level: 6 }) : null, etag, headers };
}

/** What a page has besides its card: its first screen, and what stands behind its logo. */
export type Brought = { first: FirstScreen | null; plates: Plates | undefined };

/** The page of a card as a hand-out or its short address gives it; links carry the hand-out's code. */
export function pageOutput(
  card: PublishedCard,
  base: string,
  publicUrl: string,
  language: Language,
  now: number,
  { first, plates }: Brought = { first: null, plates: undefined },
): Output {
  const languages = languagesOf(card.composition);
  const inLanguage = languages.length > 1 ? `?lang=${language}` : '';
  const pictures = card.address ? `/c/${card.address}` : base;
  const key = drawingKey(card);
  const broad = fillsWithPhoto(card.composition) ? '-broad' : '';
  const context: PageContext = {
    contactFile: `${base}.vcf${inLanguage}`,
    // Of a preview nothing is counted, and nothing leads elsewhere.
    taps: card.address && `${base}/tap`,
    photo: card.photo && `${pictures}/photo-${card.photo.hash}.jpg`,
    lightPhoto: card.photo && { src: `${pictures}/photo-${card.photo.hash}${broad}.avif`, type: 'image/avif' },
    logo: card.logo && `${pictures}/logo-${card.logo.hash}.png`,
    nightLogo: card.logoByNight && `${pictures}/logo-${card.logoByNight.hash}.png`,
    canonical: card.address && `${publicUrl}/c/${card.address}`,
    language,
    languages: languages.map((each) => ({ language: each, href: `${base}?lang=${each}` })),
    fileAt: (hash) => (card.files.has(hash) ? `${pictures}/file-${hash}` : null),
    mapAt: (line) => `${base}/map-${line}`,
    code: card.address && `/c/${card.address}/code.svg`,
    lightFileAt: (hash) => (card.files.get(hash)?.bytes === null ? `${pictures}/file-${hash}.webp` : null),
    drawn: {
      picture: (format) => `${pictures}/picture-${language}-${key}.${format}`,
      link: `${pictures}/link-${language}-${key}.jpg`,
    },
    app: card.address
      ? {
          manifest: `${base}/manifest.webmanifest`,
          icon: `${pictures}/icon-${key}.png`,
          // The worker keeps the form's script too: whoever fills it in may have lost the network by then.
          worker: `${base}/worker.js${hasReplyForm(card.composition.blocks) ? `?reply=${ourLanguage(language)}` : ''}`,
        }
      : null,
    now,
    placement: card.placement,
    parameters: card.parameters,
    legal: card.legal,
    reply: {
      action: card.address && `${base}/reply`,
      script: card.address && `${base}/reply-${ourLanguage(language)}.js`,
      months: card.leads.months,
    },
    first,
    plates,
  };
  const html = renderPage(card.composition, context);
  return output(Buffer.from(html), true, {
    ...COMMON_HEADERS,
    ...transportHeaders(publicUrl),
    'Content-Type': 'text/html; charset=utf-8',
    'Content-Language': language,
    'Content-Security-Policy': policyOf(stylesOf(card.composition, context), {
      player: hasPlayer(card.composition),
      brings: first !== null,
      form: card.address !== null && hasReplyForm(card.composition.blocks),
    }),
    ...(card.address ? {} : { 'X-Robots-Tag': 'noindex' }),
    ...(languages.length === 1 ? {} : { Vary: 'Accept-Language' }),
  });
}

/**
 * The contact file; phones open `text/vcard` in their own address book, older ones `text/x-vcard` (common practice, no
 * published source).
 */
export function fileOutput(card: PublishedCard, version: VcardVersion, language: Language): Output {
  const { cardId, organisationId, address, publishedAt } = card;
  const served = {
    cardId,
    organisationId,
    address,
    revised: publishedAt,
    ...card.inFile,
  };
  // 4.0 carries every language in one file; before it the one that was asked for.
  const composition = version === '4.0' ? card.composition : saidIn(card.composition, language);
  const text = writeContactFile(composition, contactContext(served, version));
  const name = contactFileName(composition);
  return output(Buffer.from(text), false, {
    ...COMMON_HEADERS,
    'Content-Type': `${version === '2.1' ? 'text/x-vcard' : 'text/vcard'}; charset=utf-8`,
    'Content-Disposition': `attachment; filename="${name}"`,
  });
}

/** The code of a card's short address, as its page shows it; a draft has none. */
export function codeOutput({ address, composition }: PublishedCard, publicUrl: string): Output {
  const symbol = symbolFor(liveCodeText(`${publicUrl}/c/${address ?? ''}`));
  return output(Buffer.from(drawSymbol(symbol, { title: writtenName(composition.name) })), true, {
    ...COMMON_HEADERS,
    'Content-Type': 'image/svg+xml',
    'Content-Security-Policy': "default-src 'none'",
  });
}

/** A picture that the card shows. Its address holds its hash, so a copy is good for ever. */
export function pictureOutput(card: PublishedCard, which: 'photo' | 'logo' | 'logoOnBand' | 'logoByNight'): Output {
  return blockPicture(pageBytes(card[which]!));
}

/** A picture drawn by us, its type by its format. */
export const drawnOutput = (bytes: Buffer, type: 'jpeg' | 'webp' | 'png' | 'avif'): Output =>
  output(bytes, false, { ...COMMON_HEADERS, 'Content-Type': `image/${type}` });

/** The script of a reply form with its words in a language. */
export function replyScript(language: Language): Output {
  const { offline, later, sending } = replyWords(language);
  return output(
    Buffer.from(`var heathlandWords=${JSON.stringify({ offline, later, sending })};${replyProgramText()}`),
    true,
    {
      ...COMMON_HEADERS,
      'Content-Type': 'text/javascript; charset=utf-8',
    },
  );
}

/** Manifest of a card, and the worker that keeps its copy; the worker may answer for the card's own address and what lies below. */
export function appOutput(card: PublishedCard, what: 'manifest' | 'worker', base: string, language: Language): Output {
  if (what === 'worker')
    return output(keptCopyWorker(), true, {
      ...COMMON_HEADERS,
      'Content-Type': 'text/javascript; charset=utf-8',
      'Service-Worker-Allowed': base.replace(/[^/]*$/, ''),
    });
  const pictures = card.address ? `/c/${card.address}` : base;
  return output(Buffer.from(manifestOf(card, base, `${pictures}/icon-${drawingKey(card)}.png`, language)), true, {
    ...COMMON_HEADERS,
    'Content-Type': 'application/manifest+json; charset=utf-8',
  });
}

/** A picture that a block shows, its type told by its first byte. */
export const blockPicture = (bytes: Buffer): Output =>
  output(bytes, false, { ...COMMON_HEADERS, 'Content-Type': bytes[0] === 0x89 ? 'image/png' : 'image/jpeg' });

/** Headers of a film or its captions; captions are text in UTF-8 by definition (W3C WebVTT 10.3). */
export const filmHeaders = (type: string): Record<string, string> => ({ ...COMMON_HEADERS, 'Content-Type': type });
