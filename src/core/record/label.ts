import type { Language } from '@/core/language';
import { wordsIn } from '@/core/messages';
import type { Purpose } from './kinds';
import { hostOf, purposeOf } from './purpose';
import type { Detail } from './record';

/**
 * The label of a detail in its kind's and uses' own words: "Mobile, work", "Telefon, privat". A link to a profile or a chat is
 * labelled by its host: no service is known by name.
 */
export function labelIn(language: Language, detail: Detail): string {
  const { kinds, purposes, uses: names, joint } = wordsIn(language);
  if (detail.kind === 'link' && detail.uses.length === 0) {
    const purpose = purposeOf(detail);
    if (purpose === 'profile' || purpose === 'chat') return hostOf(detail.url) || kinds.link;
    return (purposes as Partial<Record<Purpose, string>>)[purpose] ?? kinds.link;
  }
  const uses = 'uses' in detail ? detail.uses.filter((use) => use !== 'text') : [];
  const device = detail.kind === 'phone' ? uses.find((use) => use !== 'work' && use !== 'home') : undefined;
  const first = device ? names[device] : kinds[detail.kind];
  const others = uses.filter((use) => use !== device).map((use) => names[use]);
  return [first.charAt(0).toUpperCase() + first.slice(1), ...others].join(joint);
}
