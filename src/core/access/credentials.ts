import { err, ok, type Result } from '@/core/errors';

/** NIST SP 800-63B 3.1.1.2: at least 8 characters where it is one of several factors; longer is asked for one alone. */
export const PASSWORD_LENGTH = { shortest: 10, longest: 200 } as const;

export function checkPassword(password: string): Result<string> {
  if (password.length < PASSWORD_LENGTH.shortest)
    return err({ code: 'PASSWORD_SHORT', shortest: PASSWORD_LENGTH.shortest });
  if (password.length > PASSWORD_LENGTH.longest)
    return err({ code: 'PASSWORD_LONG', longest: PASSWORD_LENGTH.longest });
  return ok(password);
}

/**
 * Whether a request that changes something comes from our own pages: its Origin is ours, or the browser says same-origin
 * (Fetch Metadata). A request without either header comes from no browser that keeps our cookie, and is refused as well.
 */
export function isSameOrigin(headers: {
  origin: string | null;
  fetchSite: string | null;
  /** The origin (RFC 6454) of our own pages. */
  ours: string;
}): boolean {
  if (headers.fetchSite !== null && headers.fetchSite !== 'same-origin') return false;
  if (headers.origin === null) return headers.fetchSite === 'same-origin';
  return URL.canParse(headers.origin) && new URL(headers.origin).origin === headers.ours;
}

/**
 * The network that an address belongs to, for counting: of IPv6 the first 64 bits, which one household or office has to itself
 * (RFC 6177, RFC 4291 2.5.4); an IPv4 address as it is, also where it is written within IPv6 (RFC 4291 2.5.5.2).
 */
export function networkOf(address: string): string {
  const mapped = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/i.exec(address)?.[1];
  if (mapped || !address.includes(':')) return mapped ?? address;
  const [head = '', tail] = address.toLowerCase().split('%')[0]!.split('::');
  const groups = head.split(':').filter(Boolean);
  const after = (tail ?? '').split(':').filter(Boolean);
  const missing = tail === undefined ? 0 : Math.max(0, 8 - groups.length - after.length);
  const whole = [...groups, ...Array<string>(missing).fill('0'), ...after];
  return `${whole
    .slice(0, 4)
    .map((group) => group.replace(/^0+(?=.)/, ''))
    .join(':')}::/64`;
}

/** What a session was begun with, told by kind alone: a user agent says much more, and none of it is kept. */
export const DEVICES = ['phone', 'tablet', 'computer', 'program'] as const;
export type Device = (typeof DEVICES)[number];
export function deviceOf(userAgent: string): Device {
  if (!/^Mozilla\//.test(userAgent)) return 'program';
  if (/\b(iPad|Tablet)\b|Android(?!.*\bMobile\b)/.test(userAgent)) return 'tablet';
  return /\bMobile\b|iPhone/.test(userAgent) ? 'phone' : 'computer';
}

/** So long after the password was typed what needs it fresh may be done, in milliseconds. */
export const FRESH_MS = 15 * 60_000;
