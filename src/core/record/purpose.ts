import { readLink } from './link';
import type { Purpose } from './kinds';
import type { DetailOf } from './record';

/** What the scheme of a link tells of its purpose (RFC 5724 sms, RFC 5870 geo, the registry of URI schemes). */
const BY_SCHEME: Record<string, Purpose> = {
  'sms:': 'chat',
  'xmpp:': 'chat',
  'sip:': 'chat',
  'sips:': 'chat',
  'im:': 'chat',
  'matrix:': 'chat',
  'geo:': 'map',
};

/** Words of a host or path that tell what a link is for (common practice, no published source); no service is known by name. */
const BY_WORD: [RegExp, Purpose][] = [
  [
    /^(book|booking|bookings|appointment|appointments|reserve|reservation|reservations|termin|termine|buchen|meet|visit)$/,
    'booking',
  ],
  [/^(pay|payment|payments|donate|donation|tip|invoice|zahlen|spende)$/, 'payment'],
  [/^(chat|message|messages|msg|talk|dm)$/, 'chat'],
  [/^(map|maps|karte|directions|route|place|places)$/, 'map'],
  [/^(catalogue|catalog|katalog|products|shop|store|menu)$/, 'catalogue'],
  [/^(in|u|user|users|profile|profiles|people|profil)$/, 'profile'],
];

/** What a link is for: what its holder said, else what its address tells, else a web site. */
export function purposeOf({ url, purpose }: Pick<DetailOf<'link'>, 'url' | 'purpose'>): Purpose {
  if (purpose) return purpose;
  let told = TOLD.get(url);
  if (!told) {
    told = toldBy(url);
    if (TOLD.size >= MOST_TOLD) TOLD.clear();
    TOLD.set(url, told);
  }
  return told;
}

/** A page is written anew with every key stroke: what an address tells is worked out once. */
const TOLD = new Map<string, Purpose>();
const MOST_TOLD = 5_000;

function toldBy(url: string): Purpose {
  const read = readLink(url);
  if (!read.ok) return 'web';
  const { protocol, hostname, pathname } = new URL(read.value.url);
  if (BY_SCHEME[protocol]) return BY_SCHEME[protocol];
  if (/^\/@[^/]+\/?$/.test(pathname)) return 'profile';
  const words = [...hostname.split('.').slice(0, -2), ...pathname.split('/').slice(0, 3)].filter(Boolean);
  for (const word of words) {
    const found = BY_WORD.find(([pattern]) => pattern.test(word.toLowerCase()));
    if (found) return found[1];
  }
  return 'web';
}

/** The host name of a web address without `www.`; empty for other schemes. */
export const hostOf = (url: string): string =>
  /^https?:/.test(url) && URL.canParse(url) ? new URL(url).hostname.replace(/^www\./, '') : '';
