import { telUri, type Detail } from '@/core/record';

export const mailTo = (address: string): string => `mailto:${encodeURIComponent(address).replace(/%40/g, '@')}`;

/**
 * What a tap on a line opens: `tel:` (RFC 3966), `mailto:` (RFC 6068), the link itself or the map of an address. `map` is where the
 * recipient's own map is opened, if that can be said.
 */
export function hrefOf(detail: Detail, map: string | null = null): string | null {
  if (detail.kind === 'phone') return telUri(detail);
  if (detail.kind === 'email') return mailTo(detail.address);
  // What its holder gave comes first, be it a map or the place itself (RFC 5870).
  if (detail.kind === 'address') return detail.map ?? map ?? (detail.geo ? `geo:${detail.geo}` : null);
  return detail.kind === 'link' ? detail.url : null;
}

/** A link with its holder's parameters for their own web statistics, before its fragment (RFC 3986 3.4, 3.5); what is no web page stays as it is. */
export function withParameters(href: string, parameters: string | undefined): string {
  if (!parameters || !/^https?:/i.test(href)) return href;
  const [address, fragment] = href.split(/(?=#)/, 2) as [string, string?];
  const joint = !address.includes('?') ? '?' : /[?&]$/.test(address) ? '' : '&';
  return `${address}${joint}${parameters}${fragment ?? ''}`;
}
