import { languageName, readLanguage, type Language } from '@/core/language';

/** Tags of languages that are offered by name; every other one is taken by its tag (BCP 47). */
const OFFERED =
  'af ar az be bg bn bs ca cs cy da de el en es et eu fa fi fr fy ga gd gl gu he hi hr hu hy id is it ja ka kk km kn ko ku lb lt lv mk ml mn mr ms mt my nb ne nl nn pa pl ps pt pt-BR rm ro ru si sk sl sq sr sr-Latn sv sw ta te th tr uk ur uz vi zh-Hans zh-Hant zu'.split(
    ' ',
  );

const english = new Intl.DisplayNames('en', { type: 'language' });

export type NamedLanguage = { tag: Language; name: string; english: string };

/** Languages by their English names, in the order of the alphabet. */
export const LANGUAGE_LIST: NamedLanguage[] = OFFERED.map((tag) => ({
  tag,
  name: languageName(tag),
  english: english.of(tag) ?? tag,
})).sort((a, b) => a.english.localeCompare(b.english, 'en'));

/** The language that somebody typed by its name in English, its own name or its tag; null where it is none of these. */
export function languageTyped(typed: string): Language | null {
  const wanted = typed.trim().toLowerCase();
  const named = LANGUAGE_LIST.find(({ tag, name, english: also }) =>
    [tag, name, also].some((each) => each.toLowerCase() === wanted),
  );
  if (named) return named.tag;
  const tag = readLanguage(typed.trim());
  // Any word of two to eight letters is a tag by its form; one that the platform has no name for is a slip.
  return tag && english.of(tag) !== tag ? tag : null;
}
