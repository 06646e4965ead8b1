import { linesOn, saidIn, type Composition } from '@/core/card';
import type { Language } from '@/core/language';
import { shownValue } from '@/core/record';
import { settings } from '@/server/env';
import type { PublishedCard } from '@/server/services/publishing/load-published';
import { languageFor } from './language';
import { addressAlone, notFound } from './notices';
import { COMMON_HEADERS } from './outputs';
import type { RecipientAnswer, RecipientRequest } from './request';

/**
 * Where an address is opened, by the family of device that asks (from memory): phones and tablets of the one family open `geo:`
 * (RFC 5870) with the words to look for as `q`, those of the other the scheme `maps:`; both start the map that their owner has
 * chosen. Everything else gets the map service of the settings, if there is one. Null where the card shows no such address.
 */
export function mapOf(
  composition: Composition,
  line: string,
  language: Language,
  userAgent: string,
): { address: string; href: string | null } | null {
  const found = linesOn(saidIn(composition, language), 'page').find(({ id }) => id.toLowerCase() === line);
  if (found?.detail.kind !== 'address') return null;
  const address = shownValue(found.detail, language);
  return { address, href: hrefFor(address, found.detail.geo, userAgent) };
}

function hrefFor(address: string, geo: string | undefined, userAgent: string): string | null {
  const words = encodeURIComponent(address.replace(/\s*\n\s*/g, ', '));
  if (/Android/i.test(userAgent)) return `geo:${geo ?? '0,0'}?q=${words}`;
  if (/iPhone|iPad|iPod/i.test(userAgent)) return `maps:?q=${words}${geo ? `&ll=${geo}` : ''}`;
  return settings().MAP_SERVICE?.replace('{address}', () => words) ?? null;
}

/** An address on the recipient's own map, or to read where none can be opened. */
export function mapAnswer(request: RecipientRequest, { composition }: PublishedCard, line: string): RecipientAnswer {
  const language = languageFor({ composition }, request);
  const found = mapOf(composition, line, language, request.header('user-agent').slice(0, 500));
  if (!found) return notFound(request);
  if (!found.href) return addressAlone(request, found.address);
  return {
    status: 302,
    headers: { ...COMMON_HEADERS, Location: found.href, Vary: 'User-Agent', 'Cache-Control': 'no-store' },
    body: '',
  };
}
