import { telUri, type Detail } from '@/core/record';

export const mailTo = (address: string): string => `mailto:${encodeURIComponent(address).replace(/%40/g, '@')}`;

/** What a tap on a line opens: `tel:` (RFC 3966), `mailto:` (RFC 6068), the link itself or the map of an address. */
export function hrefOf(detail: Detail): string | null {
  if (detail.kind === 'phone') return telUri(detail);
  if (detail.kind === 'email') return mailTo(detail.address);
  // A map only where its holder gave one, or the place itself (RFC 5870): a guess could lead a guest astray.
  if (detail.kind === 'address') return detail.map ?? (detail.geo ? `geo:${detail.geo}` : null);
  return detail.kind === 'link' ? detail.url : null;
}
