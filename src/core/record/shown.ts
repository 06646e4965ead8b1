import { labelIn } from './label';
import type { Language } from '@/core/language';
import { shownHours } from './hours';
import { shownLink } from './link';
import { internationalForm } from './phone';
import type { Detail, DetailOf } from './record';

/** The value of a detail as people read it, on one or more lines, its days in a language. A picture reads as nothing. */
export function shownValue(detail: Detail, language: Language = 'en'): string {
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
    case 'hours':
      return shownHours(detail, language);
    case 'photo':
    case 'logo':
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

/** The label of a detail: its own words, else kind and uses ("Mobile, work", "Phone, home"). */
export const defaultLabel = (detail: Detail): string => detail.label || labelIn('en', detail);
