import { parsePhoneNumberFromString } from 'libphonenumber-js/max';

/** What the numbering plan tells of a number: a mobile, a line of a house or a firm, or nothing (as where both look alike). */
export type LineType = 'mobile' | 'land' | null;

/**
 * The type of a number (E.164) by the numbering plan. The full numbering data is large: import this file where it is needed,
 * not by the door of the record.
 */
export function lineTypeOf(number: string): LineType {
  const type = parsePhoneNumberFromString(number)?.getType();
  if (type === 'MOBILE') return 'mobile';
  return type === 'FIXED_LINE' || type === 'TOLL_FREE' || type === 'PREMIUM_RATE' ? 'land' : null;
}

/**
 * Whether a number (E.164) may take text messages: a known land line does not (common practice, no published source), a mobile
 * does, of others nothing is known.
 */
export function takesTexts(number: string): boolean | null {
  const type = lineTypeOf(number);
  return type && type === 'mobile';
}
