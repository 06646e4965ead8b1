import { shownLink } from './link';
import { internationalForm } from './phone';
import type { Detail, DetailOf, Use } from './record';

/** The value of a detail as people read it, on one or more lines. A photo reads as nothing. */
export function shownValue(detail: Detail): string {
  switch (detail.kind) {
    case 'phone':
      return internationalForm(detail);
    case 'email':
      return detail.address;
    case 'link':
      return shownLink(detail.url);
    case 'address':
      return shownAddress(detail);
    case 'organisation':
      return [detail.name, ...detail.units].filter(Boolean).join(' · ');
    case 'birthday':
      return detail.date;
    case 'photo':
      return '';
    default:
      return detail.text;
  }
}

/** Countries that write the postcode after the town (Universal Postal Union's addressing guides; from memory). */
const POSTCODE_LAST =
  /^(united kingdom|uk|great britain|england|scotland|wales|northern ireland|ireland|usa?|united states.*|canada|australia|new zealand|india)$/i;

function shownAddress(address: DetailOf<'address'>): string {
  const last = address.country ? POSTCODE_LAST.test(address.country.trim()) : /[a-z]/i.test(address.postcode);
  const town = (last ? [address.locality, address.postcode] : [address.postcode, address.locality])
    .filter(Boolean)
    .join(' ');
  return [address.poBox, address.extended, address.street, town, address.region, address.country]
    .filter(Boolean)
    .join(', ');
}

const USE_WORDS: Record<Use, string> = {
  mobile: 'mobile',
  work: 'work',
  home: 'home',
  fax: 'fax',
  emergency: 'emergency',
  text: 'texts',
  pager: 'pager',
  video: 'video',
};

const KIND_WORDS: Record<Detail['kind'], string> = {
  phone: 'Phone',
  email: 'E-mail',
  link: 'Web',
  address: 'Address',
  organisation: 'Firm',
  title: 'Job title',
  role: 'Role',
  licence: 'Licence',
  credential: 'Credential',
  pronouns: 'Pronouns',
  nickname: 'Known as',
  note: 'Note',
  birthday: 'Birthday',
  photo: 'Photo',
  own: 'Own',
};

/** The word for a kind of detail. */
export const kindWord = (kind: Detail['kind']): string => KIND_WORDS[kind];

/** The label of a detail: its own words, else kind and uses ("Mobile, work", "Phone, home"). */
export function defaultLabel(detail: Detail): string {
  if (detail.label) return detail.label;
  const uses = 'uses' in detail ? detail.uses.filter((use) => use !== 'text') : [];
  const device = detail.kind === 'phone' ? uses.find((use) => use !== 'work' && use !== 'home') : undefined;
  if (device) {
    const word = USE_WORDS[device];
    const others = uses.filter((use) => use !== device).map((use) => USE_WORDS[use]);
    return [word.charAt(0).toUpperCase() + word.slice(1), ...others].join(', ');
  }
  return [KIND_WORDS[detail.kind], ...uses.map((use) => USE_WORDS[use])].join(', ');
}
