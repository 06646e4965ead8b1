import { loadWords, WORDS } from '#recipient-words';
import { ourLanguage, type Language } from '@/core/language';
import { EN } from './en';
import type { Words } from './words';

export { loadWords };

/** Whether our words for what is said in a language are at hand ({@link loadWords}). */
export const hasWords = (language: Language): boolean => WORDS[ourLanguage(language)] !== undefined;

/** Our own words in a language, or in ours that is nearest to it. */
export const wordsIn = (language: Language): Words => WORDS[ourLanguage(language)] ?? EN;

/** All that stands on a page, by name. */
export const TEXTS = Object.keys(EN.texts) as RecipientText[];

export type RecipientText = keyof Words['texts'];
export type NoticeText = keyof Words['notices'];

export const say = (text: RecipientText, language: Language): string => wordsIn(language).texts[text];

export const sayNotice = (text: NoticeText, language: Language): string => wordsIn(language).notices[text];

/** The word for a kind of detail. */
export const kindIn = (language: Language, kind: keyof Words['kinds']): string => wordsIn(language).kinds[kind];

/** The word for a use. */
export const wordOfUse = (language: Language, use: keyof Words['uses']): string => wordsIn(language).uses[use];

/** Of a day without hours. */
export const closedIn = (language: Language): string => wordsIn(language).closed;
