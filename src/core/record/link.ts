import { err, ok, type Result } from '@/core/errors';
import { LIMITS } from '@/core/limits';

/** Schemes that a recipient may open from a card. Everything else (javascript, data, file …) could run or read something. */
const SCHEMES = new Set([
  'https:',
  'http:',
  'mailto:',
  'tel:',
  'sms:',
  'geo:',
  'xmpp:',
  'sip:',
  'sips:',
  'im:',
  'matrix:',
]);

/** Whether a stored address has a scheme that a recipient may open: what came by another way than {@link readLink} is held to it too. */
export const hasOpenScheme = (url: string): boolean =>
  SCHEMES.has(/^[a-z][a-z0-9+.-]*:/i.exec(url)?.[0].toLowerCase() ?? '');

/**
 * Reads a web address (WHATWG URL). Without a scheme it gets `https:` and `schemeAdded` says so.
 * Errors: LINK_SCHEME_REFUSED, LINK_UNREADABLE, TEXT_TOO_LONG.
 */
export function readLink(raw: string): Result<{ url: string; schemeAdded: boolean }> {
  const text = raw.trim();
  if (text.length > LIMITS.link) return err({ code: 'TEXT_TOO_LONG', limit: LIMITS.link });
  // The URL parser drops tabs and line feeds within a scheme, so they must not hide one from the check here.
  if (!text || /\s/.test(text)) return err({ code: 'LINK_UNREADABLE' });
  const scheme = /^([a-z][a-z0-9+.-]*):(?!\d+(\/|$))/i.exec(text)?.[1]?.toLowerCase();
  if (scheme && !SCHEMES.has(`${scheme}:`)) return err({ code: 'LINK_SCHEME_REFUSED', scheme: scheme.slice(0, 20) });
  const url = URL.canParse(scheme ? text : `https://${text}`) ? new URL(scheme ? text : `https://${text}`) : null;
  if (!url || !SCHEMES.has(url.protocol)) return err({ code: 'LINK_UNREADABLE' });
  const web = url.protocol === 'https:' || url.protocol === 'http:';
  if (web && (!url.hostname.includes('.') || url.username || url.password)) return err({ code: 'LINK_UNREADABLE' });
  return ok({ url: url.href, schemeAdded: !scheme });
}

/** A link as it is read aloud: without `https://`, `www.` and a bare closing slash. */
export function shownLink(url: string): string {
  return url
    .replace(/^https?:\/\/(www\.)?/, '')
    .replace(/^mailto:/, '')
    .replace(/\/$/, '');
}

/** An e-mail address: one `@`, no spaces, a host with a dot; RFC 5322's rarer forms are refused since recipients' programs do. */
export function readEmail(raw: string): Result<string> {
  const text = raw.trim().replace(/^mailto:/i, '');
  if (text.length > LIMITS.email) return err({ code: 'TEXT_TOO_LONG', limit: LIMITS.email });
  if (!/^[^\s@"<>(),:;\\[\]]+@[^\s@"<>(),:;\\[\]]+\.[^\s@."<>(),:;\\[\]]+$/u.test(text))
    return err({ code: 'EMAIL_UNREADABLE' });
  const at = text.lastIndexOf('@');
  return ok(text.slice(0, at + 1) + text.slice(at + 1).toLowerCase());
}
