import { ourLanguage, type Language, type OurLanguage } from '@/core/language';
import { EN } from './en';
import type { Words } from './words';

/** Our words in a browser: English, and each further language once it was loaded. */
export const WORDS: Partial<Record<OurLanguage, Words>> = { en: EN };

/* eslint-disable no-restricted-syntax -- the one place of the core where something is loaded late: only browsers come here. */
const FURTHER: Record<Exclude<OurLanguage, 'en'>, () => Promise<Words>> = {
  de: () => import('./de').then(({ DE }) => DE),
  ar: () => import('./ar').then(({ AR }) => AR),
  fr: () => import('./fr').then(({ FR }) => FR),
  nl: () => import('./nl').then(({ NL }) => NL),
  es: () => import('./es').then(({ ES }) => ES),
  it: () => import('./it').then(({ IT }) => IT),
};

/** Loads our words for what is said in a language; what is shown before, or while the line is lost, stands in English. */
export async function loadWords(language: Language): Promise<void> {
  const ours = ourLanguage(language);
  if (ours === 'en' || WORDS[ours]) return;
  const come = await FURTHER[ours]().catch(() => null);
  if (come) WORDS[ours] = come;
}
