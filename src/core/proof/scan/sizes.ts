import { READ } from './readers';
import { MAIN_READERS } from './shape';
import { trialPicture, type Base } from './trials';

/** Pixels a module that are tried, from few to many. */
const SCALES = [1.6, 1.8, 2, 2.2, 2.4, 2.7, 3, 3.4, 3.9, 4.5, 5.2, 6, 7, 8];

/** Of a few pictures of one scale, as a hand moves: a little out of focus, grainy, shaded. */
const HANDS = [
  { blur: 0.2, grain: 3 },
  { blur: 0.28, grain: 5 },
  { blur: 0.24, grain: 4, contrast: 0.8, dark: 10 },
];

/**
 * The fewest pixels a module at which both main readers read every picture that a hand would take; null where they do at none. Read at two scales
 * in a row, since one scale proves nothing.
 */
export async function fewestPixels(base: Base, text: string): Promise<number | null> {
  let before: number | null = null;
  for (const [at, scale] of SCALES.entries()) {
    if (scale > base.perModule) break;
    let all = true;
    for (const [each, hand] of HANDS.entries()) {
      const picture = trialPicture(base, { kind: 'far', scale, ...hand, seed: at * 10 + each + 1 }, scale * base.side);
      for (const name of MAIN_READERS) all &&= (await READ[name](picture)) === text;
      if (!all) break;
    }
    if (all && before !== null) return before;
    before = all ? scale : null;
  }
  return before;
}
