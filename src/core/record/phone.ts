import { getCountries as knownCountries, parsePhoneNumberFromString, type CountryCode } from 'libphonenumber-js/min';
import { err, ok, type Result } from '@/core/errors';

/** A telephone number: `number` is E.164 (ITU-T E.164: `+` and at most 15 digits) or, for short codes, digits alone. */
export type PhoneNumber = { number: string; extension?: string };

/** Short codes such as 112 have no international form; three to six digits are kept as they are dialled. */
const SHORT_CODE = /^[0-9*#]{3,6}$/;
/** Digits, brackets and an extension are shorter; what is longer is not looked at. */
const LONGEST_PHONE = 250;
const PHONE_CHARACTERS = /^[+()\d\s./\-–‑*#]+$/;

/**
 * Reads a number as people write it (spaces, brackets, `(0)` after a country code, `ext. 12`, a `tel:` URI of RFC 3966).
 * A national form is read by `country` (ISO 3166-1 alpha-2). What is merely not assigned is not refused.
 */
export function readPhone(raw: string, country: string): Result<PhoneNumber> {
  if (raw.length > LONGEST_PHONE) return err({ code: 'PHONE_UNREADABLE' });
  const text = raw
    .trim()
    .replace(/^tel:/i, '')
    .replace(/;phone-context=[^;]*/i, '')
    .replace(/;ext=/i, ' ext. ');
  const parsed = parsePhoneNumberFromString(text, { defaultCountry: country as CountryCode, extract: false });
  if (parsed?.isPossible()) return ok({ number: parsed.number, ...(parsed.ext ? { extension: parsed.ext } : {}) });
  const bare = text.replace(/[\s()./\-–‑]/g, '');
  if (SHORT_CODE.test(bare)) return ok({ number: bare });
  // Ranges reserved for fiction are partly unknown to the metadata: an international form of plausible length stands.
  if (PHONE_CHARACTERS.test(text) && /^(\+|00)\d{7,15}$/.test(bare)) return ok({ number: bare.replace(/^00/, '+') });
  if (parsed && PHONE_CHARACTERS.test(text) && /^\d{7,15}$/.test(bare)) return ok({ number: bare });
  return err({ code: 'PHONE_UNREADABLE' });
}

/** The number as a stranger from anywhere reads it: international form, with its extension. */
export function internationalForm({ number, extension }: PhoneNumber): string {
  let shown = KNOWN_FORMS.get(number);
  if (shown === undefined) {
    shown = parsePhoneNumberFromString(number)?.formatInternational() ?? number;
    if (KNOWN_FORMS.size >= MOST_FORMS) KNOWN_FORMS.clear();
    KNOWN_FORMS.set(number, shown);
  }
  return extension ? `${shown} ext. ${extension}` : shown;
}

/** A page is written anew with every key stroke: the form of a number is worked out once. */
const KNOWN_FORMS = new Map<string, string>();
const MOST_FORMS = 5_000;

/** The number as it is dialled within `country`; the international form when it belongs to another one. */
export function nationalForm(phone: PhoneNumber, country: string): string {
  const parsed = parsePhoneNumberFromString(phone.number, country as CountryCode);
  if (!parsed || parsed.countryCallingCode !== callingCodeOf(country)) return internationalForm(phone);
  const shown = parsed.formatNational();
  return phone.extension ? `${shown} ext. ${phone.extension}` : shown;
}

function callingCodeOf(country: string): string | undefined {
  return parsePhoneNumberFromString('2025550123', country as CountryCode)?.countryCallingCode;
}

/** `tel:` URI of RFC 3966, extension included. */
export function telUri({ number, extension }: PhoneNumber): string {
  return `tel:${number}${extension ? `;ext=${extension}` : ''}`;
}

/** The countries (ISO 3166-1 alpha-2) whose numbering is known. */
export const getCountries = (): string[] => knownCountries();
