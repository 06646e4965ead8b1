import { kindIn, sayNotice, type NoticeText } from '@/core/messages';
import { pickLanguage, type Language } from '@/core/language';
import { noticeHouse, noticeStyles, renderNotice, type NoticeHouse } from '@/core/page';
import { COMMON_HEADERS, policyOf } from './outputs';
import type { PublishedCard } from '@/server/services/publishing/load-published';
import type { RecipientAnswer, RecipientRequest } from './request';

/** A page of ours that stands in for a card, in the recipient's language. */
function notice(
  request: RecipientRequest,
  status: number,
  title: NoticeText | ((language: Language) => string),
  text: NoticeText | '',
  more: {
    text?: string;
    instead?: { href: string; name: string };
    headers?: Record<string, string>;
    house?: (language: Language) => NoticeHouse;
  } = {},
): RecipientAnswer {
  const language = pickLanguage(null, request.header('accept-language'));
  const house = more.house?.(language) ?? null;
  const body = Buffer.from(
    renderNotice({
      title: typeof title === 'function' ? title(language) : sayNotice(title, language),
      text: more.text ?? (text && sayNotice(text, language)),
      instead: more.instead ? { ...more.instead, before: sayNotice('restingInstead', language) } : null,
      house,
      language,
    }),
  );
  return {
    status,
    headers: {
      ...COMMON_HEADERS,
      'Content-Type': 'text/html; charset=utf-8',
      'Content-Language': language,
      Vary: 'Accept-Language',
      'Content-Security-Policy': policyOf(noticeStyles(house?.look ?? null, language)),
      'Cache-Control': 'no-store',
      'Content-Length': String(body.length),
      ...more.headers,
    },
    body: request.method === 'HEAD' ? '' : body,
  };
}

export const notFound = (request: RecipientRequest): RecipientAnswer =>
  notice(request, 404, 'notFoundTitle', 'notFoundText');

/** A code that was made in advance and that nobody has yet. */
export const notYet = (request: RecipientRequest): RecipientAnswer => notice(request, 404, 'notYetTitle', 'notYetText');

/** An address to read and copy, where a device has no map that we know how to open. */
export const addressAlone = (request: RecipientRequest, address: string): RecipientAnswer =>
  notice(request, 200, (language) => kindIn(language, 'address'), '', { text: address });

/** A card that rests or is retired: what its holder has to say, and a colleague's card where one was chosen. */
export function gone(request: RecipientRequest, card: PublishedCard): RecipientAnswer {
  const resting = card.state === 'resting';
  const { notice: text, instead } = card;
  return notice(request, 410, resting ? 'restingTitle' : 'retiredTitle', resting ? 'restingText' : 'retiredText', {
    house: (language) => noticeHouse(card.composition, card.houseLines, logoOf(card), language),
    ...(text ? { text } : {}),
    ...(instead ? { instead: { href: `/c/${instead.address}`, name: instead.name } } : {}),
  });
}

/** The house's logo may be seen on what rests too: it is nobody's own. */
function logoOf({ address, isHouseLogo, logoOnBand, logo }: PublishedCard): string | null {
  const shown = isHouseLogo ? (logoOnBand ?? logo) : null;
  return shown && address && `/c/${address}/logo-${shown.hash}.png`;
}

/** A card that was deleted: its address and codes stay its own and say so. */
export const deleted = (request: RecipientRequest): RecipientAnswer =>
  notice(request, 410, 'deletedTitle', 'deletedText');

export const previewGone = (request: RecipientRequest): RecipientAnswer =>
  notice(request, 410, 'previewGoneTitle', 'previewGoneText');

export const away = (request: RecipientRequest): RecipientAnswer =>
  notice(request, 503, 'awayTitle', 'awayText', { headers: { 'Retry-After': '5' } });

export const notAllowed = (allow: string): RecipientAnswer => ({ status: 405, headers: { Allow: allow }, body: '' });
