import { renderNotice } from '@/core/page';
import { COMMON_HEADERS, PAGE_POLICY } from './outputs';
import type { RecipientAnswer, RecipientRequest } from './request';

function notice(
  request: RecipientRequest,
  status: number,
  title: string,
  text: string,
  headers: Record<string, string> = {},
): RecipientAnswer {
  const body = Buffer.from(renderNotice({ title, text, language: 'en' }));
  return {
    status,
    headers: {
      ...COMMON_HEADERS,
      'Content-Type': 'text/html; charset=utf-8',
      'Content-Security-Policy': PAGE_POLICY,
      'Cache-Control': 'no-store',
      'Content-Length': String(body.length),
      ...headers,
    },
    body: request.method === 'HEAD' ? '' : body,
  };
}

export const notFound = (request: RecipientRequest): RecipientAnswer =>
  notice(
    request,
    404,
    'No card here',
    'Check the address for a slip. If it came from a printed code, ask the person who gave it to you.',
  );

export const gone = (request: RecipientRequest): RecipientAnswer =>
  notice(request, 410, 'This card is resting', 'Its owner has taken it back for now.');

export const away = (request: RecipientRequest): RecipientAnswer =>
  notice(request, 503, 'One moment', 'The card cannot be reached just now. Try again in a few seconds.', {
    'Retry-After': '5',
  });

export const notAllowed = (allow: string): RecipientAnswer => ({ status: 405, headers: { Allow: allow }, body: '' });
