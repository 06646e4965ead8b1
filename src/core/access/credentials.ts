import { bad, good, type Result } from '@/core/errors';

/** NIST SP 800-63B 3.1.1.2: at least 8 characters where it is one of several factors; longer is asked for one alone. */
export const PASSWORD_LENGTH = { shortest: 10, longest: 200 } as const;

export function checkPassword(password: string): Result<string> {
  if (password.length < PASSWORD_LENGTH.shortest)
    return bad({ code: 'PASSWORD_SHORT', shortest: PASSWORD_LENGTH.shortest });
  if (password.length > PASSWORD_LENGTH.longest)
    return bad({ code: 'PASSWORD_LONG', longest: PASSWORD_LENGTH.longest });
  return good(password);
}

/**
 * Whether a request that changes something comes from our own pages: its Origin is ours, or the browser says same-origin
 * (Fetch Metadata). A request without either header comes from no browser that keeps our cookie, and is refused as well.
 */
export function isSameOrigin(headers: {
  origin: string | null;
  fetchSite: string | null;
  host: string | null;
}): boolean {
  if (headers.fetchSite !== null && headers.fetchSite !== 'same-origin') return false;
  if (headers.origin === null) return headers.fetchSite === 'same-origin';
  return URL.canParse(headers.origin) && new URL(headers.origin).host === headers.host;
}
