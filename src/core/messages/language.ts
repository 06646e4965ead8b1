/** The languages that recipients' texts exist in (BCP 47). */
export const LANGUAGES = ['en', 'de', 'ar'] as const;
export type Language = (typeof LANGUAGES)[number];

/** Each in its own words, as a person who reads it looks for it. */
export const LANGUAGE_NAMES: Record<Language, string> = { en: 'English', de: 'Deutsch', ar: 'العربية' };

/** Which way a language is written. */
export const directionOf = (language: Language): 'ltr' | 'rtl' => (language === 'ar' ? 'rtl' : 'ltr');

/**
 * The language of a recipient's text: the card's own, else the first that the browser asks for and we have, or the card
 * (the basic filtering of RFC 4647 3.3.1 over the weights of RFC 9110 12.5.4), else the first of these.
 */
export function pickLanguage(
  ofCard: Language | null,
  acceptLanguage: string,
  among: readonly Language[] = LANGUAGES,
): Language {
  if (ofCard) return ofCard;
  const asked = acceptLanguage
    .slice(0, 500)
    .split(',')
    .map((entry, at) => {
      const [range = '', ...params] = entry
        .trim()
        .toLowerCase()
        .split(/\s*;\s*/);
      const weight = params.find((param) => param.startsWith('q='));
      return { primary: range.split('-')[0]!, weight: weight ? Number(weight.slice(2)) : 1, at };
    })
    .filter(({ weight }) => weight > 0)
    .sort((a, b) => b.weight - a.weight || a.at - b.at);
  for (const { primary } of asked) {
    const known = among.find((language) => language === primary);
    if (known) return known;
  }
  return among[0]!;
}
