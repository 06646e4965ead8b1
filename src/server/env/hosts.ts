import { settings } from './settings';

/** Where an organisation's cards and codes are: its own host where the settings give it one, else the common one. */
export function publicUrlOf(organisation: string): string {
  const { CARD_HOSTS, PUBLIC_URL } = settings();
  const own = Object.entries(CARD_HOSTS).find(([, of]) => of === organisation);
  return own ? `${new URL(PUBLIC_URL).protocol}//${own[0]}` : PUBLIC_URL;
}

/** What this process starts from now on reads the hosts as they are here, each with its organisation's id. */
export function tellCardHosts(): void {
  process.env.CARD_HOSTS = Object.entries(settings().CARD_HOSTS)
    .map((pair) => pair.join('='))
    .join(',');
}

/** The organisation whose own host this is, or null: there every other's cards are not found. */
export function organisationOfHost(host: string): string | null {
  const { CARD_HOSTS } = settings();
  const name = host.toLowerCase();
  return Object.hasOwn(CARD_HOSTS, name) ? CARD_HOSTS[name]! : null;
}

/** Hosts of the addresses in the settings; every request asks for them, so each is read once. */
const hosts = new Map<string, string>();

function hostOf(url: string): string {
  const known = hosts.get(url) ?? new URL(url).host.toLowerCase();
  hosts.set(url, known);
  return known;
}

/** This machine has several names for itself, and what goes through it may have another port: a demo answers under each. */
const isLoopback = (host: string): boolean => /^(localhost|127(\.\d{1,3}){3}|\[::1\])(:\d+)?$/i.test(host);

/** What a host is for: neither answers what is the other's, and a host that no setting names answers nothing. */
export function placeOf(host: string | undefined): 'studio' | 'cards' | 'both' | 'none' {
  const { BASE_URL, PUBLIC_URL, CARD_HOSTS } = settings();
  const name = (host ?? '').toLowerCase();
  const own = { studio: hostOf(BASE_URL), cards: hostOf(PUBLIC_URL) };
  const named = name === own.studio || name === own.cards;
  const is = (each: string) => (named ? name === each : isLoopback(name) && isLoopback(each));
  if (is(own.studio)) return is(own.cards) ? 'both' : 'studio';
  return is(own.cards) || Object.hasOwn(CARD_HOSTS, name) ? 'cards' : 'none';
}

/**
 * The origin (RFC 6454) that changes of the studio come from: its own, whatever host a request names; under another of this machine's own
 * names, that one.
 */
export function studioOrigin(host: string): string {
  const { origin, protocol } = new URL(settings().BASE_URL);
  const alias = isLoopback(host) && isLoopback(hostOf(settings().BASE_URL));
  return alias ? `${protocol}//${host.toLowerCase()}` : origin;
}

/** Where a request belongs that came without TLS to an address of ours that has it, or null where it came as it should. */
export function securedUrl(host: string, protocol: string, target: string): string | null {
  if (protocol !== 'http') return null;
  const { BASE_URL, PUBLIC_URL } = settings();
  const place = placeOf(host);
  const wanted = place === 'studio' ? BASE_URL : PUBLIC_URL;
  return place !== 'none' && wanted.startsWith('https:') ? `https://${host.toLowerCase()}${target}` : null;
}

/** Headers of every answer at one of our addresses, by setting: by TLS alone (RFC 6797), and what of a device pages may use. */
export function transportHeaders(url: string): Record<string, string> {
  const { HSTS_SECONDS, HSTS_SUBDOMAINS, PERMISSIONS_POLICY } = settings();
  return {
    ...(PERMISSIONS_POLICY ? { 'Permissions-Policy': PERMISSIONS_POLICY } : {}),
    ...(url.startsWith('https:') && HSTS_SECONDS > 0
      ? { 'Strict-Transport-Security': `max-age=${HSTS_SECONDS}${HSTS_SUBDOMAINS ? '; includeSubDomains' : ''}` }
      : {}),
  };
}
