/** Why a password is too easily guessed. */
export const WEAKNESSES = [
  'known',
  'your own words',
  'keys in a row',
  'repeats',
  'a sequence',
  'a date',
  'a word',
  'a name',
  'short',
] as const;
export type PasswordWeakness = (typeof WEAKNESSES)[number];
