import type { EN } from './en';

type Same<K extends PropertyKey> = Record<K, string>;

/** All that Heathland itself says to recipients, in one language. What people typed is never translated. */
export type Words = {
  texts: Same<keyof typeof EN.texts>;
  kinds: Same<keyof typeof EN.kinds>;
  purposes: Partial<Same<keyof typeof EN.purposes>>;
  uses: Same<keyof typeof EN.uses>;
  /** What stands in for a card: nothing here, resting, retired, out of reach for the moment. */
  notices: Same<keyof typeof EN.notices>;
  /** Of a day without hours. */
  closed: string;
  /** Between two words of a list. */
  joint: string;
};
