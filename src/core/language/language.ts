/** A language as its tag says it, in canonical form (BCP 47): `en`, `pt-BR`, `zh-Hant`. */
export type Language = string;

/** The languages that our own words for recipients exist in. */
export const OUR_LANGUAGES = ['en', 'de', 'ar', 'fr', 'nl', 'es', 'it'] as const;
export type OurLanguage = (typeof OUR_LANGUAGES)[number];

const LONGEST_TAG = 35;

/** A tag in canonical form (RFC 5646 4.5; the longest of ordinary use is 35 letters, RFC 5646 4.4.1), or null where it is none. */
export function readLanguage(tag: string): Language | null {
  if (tag.length > LONGEST_TAG) return null;
  try {
    return Intl.getCanonicalLocales(tag)[0] ?? null;
  } catch {
    return null;
  }
}

const primaryOf = (language: Language): string => language.split('-', 1)[0]!.toLowerCase();

/** Ours that our own words are in where content is in `language`: the same one, else English. */
export const ourLanguage = (language: Language): OurLanguage =>
  OUR_LANGUAGES.find((each) => each === primaryOf(language)) ?? 'en';

/** Each once: a name is asked for on every page of a card in several languages. */
const names = new Map<Language, string>();

/** What a language is called in itself, as a person who reads it looks for it; the platform knows the names (CLDR). */
export function languageName(language: Language): string {
  const known = names.get(language);
  if (known !== undefined) return known;
  const name = new Intl.DisplayNames([language], { type: 'language' }).of(language) ?? language;
  const first = [...name][0]!;
  const made = first.toLocaleUpperCase(language) + name.slice(first.length);
  names.set(language, made);
  return made;
}

/** Scripts that are written from right to left, of those that languages of today are written in (Unicode Standard, Bidi_Class R and AL). */
const RIGHT_TO_LEFT = new Set(['Arab', 'Aran', 'Hebr', 'Thaa', 'Syrc', 'Nkoo', 'Adlm', 'Rohg', 'Mand', 'Samr']);

/** Which way a language is written: by its likely script (UTS 35, likely subtags). */
export const directionOf = (language: Language): 'ltr' | 'rtl' =>
  RIGHT_TO_LEFT.has(scriptOf(language)) ? 'rtl' : 'ltr';

const scripts = new Map<Language, string>();

/** The likely script of a language, as ISO 15924 codes it. Each line of a card asks, and finding out takes long. */
export function scriptOf(language: Language): string {
  const known = scripts.get(language);
  if (known !== undefined) return known;
  const found = new Intl.Locale(language).maximize().script ?? 'Latn';
  // Tags are as many as anybody writes: those of all the world's languages have room.
  if (scripts.size > 10_000) scripts.clear();
  scripts.set(language, found);
  return found;
}

/**
 * The language of a recipient's text: the card's own, else the first that the browser asks for and we have, or the card
 * (RFC 4647: filtering by the whole tag first, then by its first subtag, over the weights of RFC 9110 12.5.4), else the first of these.
 */
export function pickLanguage(
  ofCard: Language | null,
  acceptLanguage: string,
  among: readonly Language[] = OUR_LANGUAGES,
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
      return { range, weight: weight ? Number(weight.slice(2)) : 1, at };
    })
    .filter(({ weight }) => weight > 0)
    .sort((a, b) => b.weight - a.weight || a.at - b.at);
  for (const { range } of asked) {
    const known =
      among.find((language) => language.toLowerCase() === range) ??
      among.find((language) => primaryOf(language) === primaryOf(range));
    if (known) return known;
  }
  return among[0]!;
}
