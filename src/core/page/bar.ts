import { PLACEMENT, type BarButton } from '@/core/card';
import type { Detail } from '@/core/record';
import { hrefOf, mailTo } from './links';

/** A text with the placement put in; where nobody knows it, what surrounds it closes up. */
export const placed = (text: string, placement: string | null): string =>
  placement === null
    ? text.replace(/[ \t]*\(?\{placement\}\)?/g, '').trim()
    : text.replaceAll(PLACEMENT, () => placement);

/** One line break is CRLF in the body of a mail (RFC 6068 5). */
const encoded = (text: string): string => encodeURIComponent(text.replace(/\r?\n/g, '\r\n'));

/**
 * What a button of the action bar opens: a mail with its subject and body (RFC 6068 2), a text with its body (RFC 5724 2.2), a chat
 * whose link takes the text as `text` (common practice, no published source), else what the line itself opens.
 */
export function barHref(
  button: BarButton,
  detail: Detail,
  placement: string | null,
  map: string | null = null,
): string | null {
  const text = placed(button.text, placement);
  if (button.act === 'mail' && detail.kind === 'email') {
    const subject = placed(button.subject, placement);
    const fields = [subject && `subject=${encoded(subject)}`, text && `body=${encoded(text)}`].filter(Boolean);
    return mailTo(detail.address) + (fields.length > 0 ? `?${fields.join('&')}` : '');
  }
  if (button.act === 'text' && detail.kind === 'phone')
    return `sms:${detail.number}${text ? `?body=${encoded(text)}` : ''}`;
  if (button.act === 'chat' && detail.kind === 'link' && text) return withText(detail.url, text);
  return hrefOf(detail, map);
}

function withText(url: string, text: string): string {
  if (/^sms:/i.test(url)) return `${url}${url.includes('?') ? '&' : '?'}body=${encoded(text)}`;
  if (!URL.canParse(url) || !/^https?:/i.test(url)) return url;
  const opened = new URL(url);
  opened.searchParams.set('text', text);
  return opened.href;
}
