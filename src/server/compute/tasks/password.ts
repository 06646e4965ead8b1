import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import { adjacencyGraphs, dictionary as common } from '@zxcvbn-ts/language-common';
import { dictionary as german } from '@zxcvbn-ts/language-de';
import { dictionary as english } from '@zxcvbn-ts/language-en';
import type { PasswordWeakness } from '@/core/errors';

/** Further letters make it no easier to guess; looking at all of them takes seconds. */
const LOOKED_AT = 64;
/** Of the library's grades of 0 to 4: withstands 10 to the 8th guesses at least. */
const STRONG = 3;

/** So many letters must be left of a password without the account's own words. */
const OF_NOBODYS = 7;

const withoutWords = (password: string, words: string[]): string =>
  [...words]
    .sort((a, b) => b.length - a.length)
    .reduce((left, word) => left.replaceAll(word.toLowerCase(), ''), password.slice(0, 200).toLowerCase());

let factory: ZxcvbnFactory | undefined;

/** The library's warnings in our words. */
const REASONS: Record<string, PasswordWeakness> = {
  straightRow: 'keys in a row',
  keyPattern: 'keys in a row',
  simpleRepeat: 'repeats',
  extendedRepeat: 'repeats',
  sequences: 'a sequence',
  recentYears: 'a date',
  dates: 'a date',
  topTen: 'known',
  topHundred: 'known',
  common: 'known',
  similarToCommon: 'known',
  pwned: 'known',
  wordByItself: 'a word',
  namesByThemselves: 'a name',
  commonNames: 'a name',
  userInputs: 'your own words',
};

/**
 * Why a password is too easily guessed, or null: held against the shipped lists of passwords that were broken, of words and names in
 * English and German, and against `own` words of the account, by a strength library.
 */
export function judgePassword({ password, own }: { password: string; own: string[] }): PasswordWeakness | null {
  factory ??= new ZxcvbnFactory({ dictionary: { ...common, ...english, ...german }, graphs: adjacencyGraphs });
  const words = own.flatMap((text) => [text, ...text.split(/[^\p{L}\p{N}]+/u)]).filter((word) => word.length > 2);
  if (withoutWords(password, ['heathland', ...words]).length < OF_NOBODYS) return 'your own words';
  const { score, feedback } = factory.check(password.slice(0, LOOKED_AT), ['heathland', ...words]);
  if (score >= STRONG) return null;
  return REASONS[feedback.warning ?? ''] ?? 'short';
}
