import type { Composition } from '@/core/card';
import { LOOK_PARTS, nightLook, type Look } from '@/core/look';

/** A card as a dark phone shows it, whatever the screen here is. */
export const byNight = (composition: Composition, shown: Look): Composition => ({
  ...composition,
  look: { ...nightLook(shown), night: false, overrides: [...LOOK_PARTS] },
});
