import { parsePhoneNumberFromString } from 'libphonenumber-js/max';

/**
 * Whether a number (E.164) may take text messages, by the numbering plan: a known land line does not (common practice, no
 * published source), a mobile does, of others nothing is known. The full numbering data is large: import this file where it
 * is needed, not by the door of the record.
 */
export function takesTexts(number: string): boolean | null {
  const type = parsePhoneNumberFromString(number)?.getType();
  if (type === 'MOBILE' || type === 'FIXED_LINE_OR_MOBILE') return type === 'MOBILE' ? true : null;
  return type === 'FIXED_LINE' || type === 'TOLL_FREE' || type === 'PREMIUM_RATE' ? false : null;
}
