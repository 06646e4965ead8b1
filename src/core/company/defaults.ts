import type { Language } from '@/core/language';
import { LIMITS } from '@/core/limits';
import type { Pattern } from '@/core/record';

/** What an organisation gives its members to begin with. */
export type CompanyDefaults = {
  /** Languages of its cards: a new card begins in the first, the others are offered first. */
  languages: Language[];
  /** What recipients read of a card that rests or is retired, until somebody words it for one card. */
  texts: { resting: string; retired: string };
  /** Whom members ask. */
  ask: string;
  /** Services whose links are made from a number or a user name. */
  patterns: Pattern[];
  /** Whether a new lead is its holder's alone, and how many months it is kept after the last contact. */
  leads: { private: boolean; months: number };
};

export const COMPANY_DEFAULTS: CompanyDefaults = {
  languages: [],
  texts: { resting: '', retired: '' },
  ask: '',
  patterns: [],
  leads: { private: true, months: LIMITS.leadMonths },
};
