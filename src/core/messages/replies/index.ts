import { ourLanguage, type Language, type OurLanguage } from '@/core/language';
import { AR } from './ar';
import { DE } from './de';
import { EN } from './en';
import { ES } from './es';
import { FR } from './fr';
import { IT } from './it';
import { NL } from './nl';
import type { ReplyWords } from './words';

const WORDS: Record<OurLanguage, ReplyWords> = { en: EN, de: DE, ar: AR, fr: FR, nl: NL, es: ES, it: IT };

/** What is said to whoever leaves their details. Browsers get it with what is shown: no bundle of theirs carries it. */
export const replyWords = (language: Language): ReplyWords => WORDS[ourLanguage(language)];

export type ReplyText = keyof ReplyWords;
