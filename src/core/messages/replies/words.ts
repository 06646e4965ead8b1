import type { EN } from './en';

/** What is said to whoever leaves their details, in one language: pages, and the one mail. */
export type ReplyWords = Record<keyof typeof EN, string>;
