/** What the listener answers or hands on (RFC 9110 9). TRACE would echo a session's cookie, CONNECT is a proxy's. */
const METHODS = new Set(['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS']);
const LONGEST_TARGET = 8_000;
/** Segments of letters that are never encoded, at the end perhaps a name with its type. */
const PLAIN = /^(?:\/[\w-]{1,200}){1,8}(?:\.[a-z0-9]{1,5})?$/;
/** Letters that need no percent-encoding, so that with it they are the same address (RFC 3986 2.3, 6.2.2.2). */
const UNRESERVED = /%(2d|2e|5f|7e|3[0-9]|[46][1-9a-f]|[57][0-9a])/gi;

export type Target = { ok: true; url: string } | { ok: false; status: 400 | 405 | 414 };

/**
 * The target of a request in its one normal form (RFC 3986 6.2.2 and 6.2.3): origin form, without dot segments, empty segments,
 * backslashes and needless percent-encoding, so that no other spelling of a recipient's address gets past the listener to a framework
 * that would read it as the same. What cannot be decoded as UTF-8 is refused, which that framework falls over.
 */
export function targetOf(method: string | undefined, raw: string | undefined): Target {
  if (!METHODS.has(method ?? '')) return { ok: false, status: 405 };
  // Nearly every target is in its normal form already.
  if (PLAIN.test(raw ?? '')) return { ok: true, url: raw! };
  const given = (raw ?? '').replace(/^https?:\/\/[^/?#]*(?=[/?#]|$)/i, '');
  if (given.length > LONGEST_TARGET) return { ok: false, status: 414 };
  const question = given.indexOf('?');
  const path = question < 0 ? given : given.slice(0, question);
  const query = question < 0 ? '' : given.slice(question);
  if (!path.startsWith('/') || /[\u0000-\u0020\u007f#]/.test(given)) return { ok: false, status: 400 };
  try {
    decodeURI(given);
  } catch {
    return { ok: false, status: 400 };
  }
  const plain = path
    .replace(UNRESERVED, (_, hex: string) => String.fromCharCode(Number.parseInt(hex, 16)))
    .replace(/\\|%5c/gi, '/');
  return { ok: true, url: withoutDots(plain) + query };
}

/** Without `.`, `..` and empty segments (RFC 3986 5.2.4). A slash at the end stays. */
function withoutDots(path: string): string {
  const kept: string[] = [];
  const segments = path.split('/').slice(1);
  for (const segment of segments) {
    if (segment === '..') kept.pop();
    else if (segment !== '.' && segment !== '') kept.push(segment);
  }
  const last = segments.at(-1);
  const open = kept.length > 0 && (last === '' || last === '.' || last === '..');
  return `/${kept.join('/')}${open ? '/' : ''}`;
}
