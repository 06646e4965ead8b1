import { contrast, mix } from './contrast';
import { groundsOf, leastVeil, usesAccent, type Ground, type Look } from './look';
import { nightOf, pairsOf, TEXT_RATIO, type Pair, type Palette } from './palette';

/** A look as the page wears it where the recipient's phone is dark: its palette by night, and a ground on which the name reads. */
export function nightLook(look: Look): Look {
  const palette = nightOf(look.palette);
  if (!look.night || palette === look.palette) return look;
  return { ...look, palette, ground: nightGround(look.ground, palette) };
}

function nightGround(ground: Ground, palette: Palette): Ground {
  if (ground.kind === 'plain') return ground;
  if (ground.kind === 'picture') return { ...ground, veil: Math.max(ground.veil, leastVeil(palette, ground)) };
  const reads = groundsOf({ palette, ground }).every((each) => contrast(palette.onBand, each) >= TEXT_RATIO);
  return reads ? ground : { ...ground, to: mix(palette.band, palette.onBand, 0.1) };
}

/** Every pair of colours that a look really puts together, by day and, where the page follows the night, by night. */
export function pairsInUse(look: Look): { by: 'day' | 'night'; pair: Pair }[] {
  const of = (worn: Look, by: 'day' | 'night') =>
    pairsOf(worn.palette, groundsOf(worn), usesAccent(worn)).map((pair) => ({ by, pair }));
  const night = nightLook(look);
  return [...of(look, 'day'), ...(night === look ? [] : of(night, 'night'))];
}

export const fails = ({ ratio, needs }: Pair): boolean => ratio < needs;

/**
 * How well the colours of a look read: how many pairs there are, how many fail, and the weakest, which is one that fails where any does.
 * Ratios as of WCAG 2.2 (1.4.3, 1.4.11).
 */
export function measureContrast(look: Look): { of: number; failing: number; worst: number; needs: number } {
  const pairs = pairsInUse(look).map(({ pair }) => pair);
  const failing = pairs.filter(fails);
  const worst = pairs.reduce((low, each) => (each.ratio / each.needs < low.ratio / low.needs ? each : low));
  return { of: pairs.length, failing: failing.length, worst: worst.ratio, needs: worst.needs };
}
