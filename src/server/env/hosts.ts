import { settings } from './settings';

/** Where an organisation's cards and codes are: its own host where the settings give it one, else the common one. */
export function publicUrlOf(organisation: string): string {
  const { CARD_HOSTS, PUBLIC_URL } = settings();
  const own = Object.entries(CARD_HOSTS).find(([, of]) => of === organisation);
  return own ? `${new URL(PUBLIC_URL).protocol}//${own[0]}` : PUBLIC_URL;
}

/** The organisation whose own host this is, or null: there every other's cards are not found. */
export const organisationOfHost = (host: string): string | null => settings().CARD_HOSTS[host.toLowerCase()] ?? null;

/** Hosts of the addresses in the settings; every request asks for them, so each is read once. */
const hosts = new Map<string, string>();

function hostOf(url: string): string {
  const known = hosts.get(url) ?? new URL(url).host.toLowerCase();
  hosts.set(url, known);
  return known;
}

/**
 * What a host is for where cards and studio have hosts of their own: neither answers on the other's. A host of neither, as a check of an
 * operator's asks, is for both.
 */
export function placeOf(host: string | undefined): 'studio' | 'cards' | 'both' {
  const { BASE_URL, PUBLIC_URL, CARD_HOSTS } = settings();
  const name = (host ?? '').toLowerCase();
  const [studio, cards] = [hostOf(BASE_URL), hostOf(PUBLIC_URL)];
  if (name === studio) return studio === cards ? 'both' : 'studio';
  return name === cards || Object.hasOwn(CARD_HOSTS, name) ? 'cards' : 'both';
}

/** Headers of every answer at one of our addresses, by setting: by TLS alone (RFC 6797), and what of a device pages may use. */
export function transportHeaders(url: string): Record<string, string> {
  const { HSTS_SECONDS, PERMISSIONS_POLICY } = settings();
  return {
    ...(PERMISSIONS_POLICY ? { 'Permissions-Policy': PERMISSIONS_POLICY } : {}),
    ...(url.startsWith('https:') && HSTS_SECONDS > 0
      ? { 'Strict-Transport-Security': `max-age=${HSTS_SECONDS}; includeSubDomains` }
      : {}),
  };
}
