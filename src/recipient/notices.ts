import { pickLanguage, say, type RecipientText } from '@/core/messages';
import { renderNotice } from '@/core/page';
import { COMMON_HEADERS, PAGE_POLICY } from './outputs';
import type { RecipientAnswer, RecipientRequest } from './request';

function notice(
  request: RecipientRequest,
  status: number,
  title: RecipientText,
  text: RecipientText,
  headers: Record<string, string> = {},
): RecipientAnswer {
  const language = pickLanguage(null, request.header('accept-language'));
  const body = Buffer.from(renderNotice({ title: say(title, language), text: say(text, language), language }));
  return {
    status,
    headers: {
      ...COMMON_HEADERS,
      'Content-Type': 'text/html; charset=utf-8',
      'Content-Language': language,
      Vary: 'Accept-Language',
      'Content-Security-Policy': PAGE_POLICY,
      'Cache-Control': 'no-store',
      'Content-Length': String(body.length),
      ...headers,
    },
    body: request.method === 'HEAD' ? '' : body,
  };
}

export const notFound = (request: RecipientRequest): RecipientAnswer =>
  notice(request, 404, 'notFoundTitle', 'notFoundText');

export const gone = (request: RecipientRequest): RecipientAnswer => notice(request, 410, 'restingTitle', 'restingText');

export const away = (request: RecipientRequest): RecipientAnswer =>
  notice(request, 503, 'awayTitle', 'awayText', {
    'Retry-After': '5',
  });

export const notAllowed = (allow: string): RecipientAnswer => ({ status: 405, headers: { Allow: allow }, body: '' });
