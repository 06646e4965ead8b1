import { groundsOf, usesAccent, type Look } from './look';
import { nightOf, pairsOf, repaired, type Pair, type Palette } from './palette';

/** Every pair of colours that a look really puts together, by day and, where the page follows the night, by night. */
export function pairsInUse(look: Look): { by: 'day' | 'night'; pair: Pair }[] {
  const of = (palette: Palette, by: 'day' | 'night') =>
    pairsOf(palette, groundsOf({ ...look, palette }), usesAccent(look)).map((pair) => ({ by, pair }));
  const night = nightOf(look.palette);
  return [...of(look.palette, 'day'), ...(look.night && night !== look.palette ? of(night, 'night') : [])];
}

export const fails = ({ ratio, needs }: Pair): boolean => ratio < needs;

/** The nearest palette in which every pair of this look passes by day. */
export const proposalFor = (look: Look): Palette => repaired(look.palette, groundsOf(look), usesAccent(look));
