import { LOOK_PARTS, type Look, type LookPart } from '@/core/look';
import { same } from '@/core/card';
import { PART_FIELDS } from './dress';
import type { HouseStyle } from './style';

/** What of a look's change is not the editor's to make: a locked part changed, or an override given or taken. */
export type Refused = { part: LookPart; what: 'locked' | 'override' | 'layout' };

/**
 * Holds a changed look against the locks. `mayOverride`: of those who may give a card something else than the house style says; the
 * overrides that they give are in `overridden`.
 */
export function judgeLook(
  before: Look,
  now: Look,
  house: HouseStyle | null,
  mayOverride: boolean,
): { refused: Refused[]; overridden: LookPart[] } {
  const given = now.overrides.filter((part) => !before.overrides.includes(part));
  const refused: Refused[] = [];
  for (const part of LOOK_PARTS) {
    const open = now.overrides.includes(part);
    if (!mayOverride && open !== before.overrides.includes(part)) refused.push({ part, what: 'override' });
    const changed = PART_FIELDS[part].some((field) => !same(before[field], now[field]));
    if (changed && !open && house?.locks[part] !== undefined) refused.push({ part, what: 'locked' });
  }
  const changedLayout = before.layout !== now.layout && !now.overrides.includes('layout');
  if (house && changedLayout && !house.layouts.includes(now.layout)) refused.push({ part: 'layout', what: 'layout' });
  return { refused, overridden: given };
}
