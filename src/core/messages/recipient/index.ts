import { hostOf, purposeOf } from '@/core/record/purpose';
import type { Use } from '@/core/record/kinds';
import type { Detail } from '@/core/record/record';
import { loadWords, WORDS } from '#recipient-words';
import { ourLanguage, type Language } from '../language';
import { EN } from './en';
import type { Words } from './words';

export { loadWords };

/** Whether our words for what is said in a language are at hand ({@link loadWords}). */
export const hasWords = (language: Language): boolean => WORDS[ourLanguage(language)] !== undefined;

/** Our own words in a language, or in ours that is nearest to it. */
const wordsIn = (language: Language): Words => WORDS[ourLanguage(language)] ?? EN;

/** All that stands on a page, by name. */
export const TEXTS = Object.keys(EN.texts) as RecipientText[];

export type RecipientText = keyof Words['texts'];
export type NoticeText = keyof Words['notices'];

export const say = (text: RecipientText, language: Language): string => wordsIn(language).texts[text];

export const sayNotice = (text: NoticeText, language: Language): string => wordsIn(language).notices[text];

/** The word for a kind of detail. */
export const kindIn = (language: Language, kind: Detail['kind']): string => wordsIn(language).kinds[kind];

/** The word for a use. */
export const wordOfUse = (language: Language, use: Use): string => wordsIn(language).uses[use];

/** Of a day without hours. */
export const closedIn = (language: Language): string => wordsIn(language).closed;

/**
 * The label of a detail in its kind's and uses' own words: "Mobile, work", "Telefon, privat". A link to a profile or a chat is
 * labelled by its host: no service is known by name.
 */
export function labelIn(language: Language, detail: Detail): string {
  const { kinds, purposes, uses: names, joint } = wordsIn(language);
  if (detail.kind === 'link' && detail.uses.length === 0) {
    const purpose = purposeOf(detail);
    if (purpose === 'profile' || purpose === 'chat') return hostOf(detail.url) || kinds.link;
    return purposes[purpose] ?? kinds.link;
  }
  const uses = 'uses' in detail ? detail.uses.filter((use) => use !== 'text') : [];
  const device = detail.kind === 'phone' ? uses.find((use) => use !== 'work' && use !== 'home') : undefined;
  const first = device ? names[device] : kinds[detail.kind];
  const others = uses.filter((use) => use !== device).map((use) => names[use]);
  return [first.charAt(0).toUpperCase() + first.slice(1), ...others].join(joint);
}
