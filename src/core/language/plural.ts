import { figure } from './figure';

const RULES = new Intl.PluralRules('en-GB');

/** A sentence in the form that a number asks for (Unicode plural rules of English); `#` becomes the number. */
export const plural = (count: number, forms: { one: string; other: string }): string =>
  (RULES.select(count) === 'one' ? forms.one : forms.other).replace('#', figure(count));
