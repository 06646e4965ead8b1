import { colourOf, luminance, readable, seen } from './contrast';
import { groundsOf, type Look } from './look';
import { coloursOf, TEXT_RATIO, type Palette } from './palette';

/** The palette nearest to this one in which every pair passes: inks give way, the brand's colours stay. */
export function repaired(palette: Palette, grounds: readonly string[] = [palette.band]): Palette {
  return {
    ...palette,
    ink: readable(palette.ink, [palette.sheet], TEXT_RATIO),
    onBand: readable(palette.onBand, grounds, TEXT_RATIO),
    onAct: readable(palette.onAct, [palette.act], TEXT_RATIO),
  };
}

/** A whole palette from one colour of a brand, or two: bands in the first, buttons in the second. All of its pairs pass. */
export function paletteFrom(brand: string, second: string = brand): Palette {
  const { hue, chroma } = seen(brand);
  const tint = Math.min(chroma, 0.02);
  const sheet = colourOf({ lightness: 0.99, chroma: tint / 4, hue });
  const ink = colourOf({ lightness: 0.26, chroma: tint, hue });
  const dark = luminance(brand) < 0.3;
  return repaired({
    sheet,
    ink,
    band: brand,
    onBand: colourOf({ lightness: dark ? 0.97 : 0.22, chroma: tint, hue }),
    act: second,
    onAct: luminance(second) < 0.3 ? '#FFFFFF' : '#14100D',
  });
}

/** The nearest palette in which every pair of this look passes by day. */
export const proposalFor = (look: Look): Palette => repaired(look.palette, groundsOf(look));

/**
 * The last offer: the button's colour itself shifted to the nearest shade that shows on the sheet without another edge; null where it
 * shows already.
 */
export function shiftedFor({ palette }: Look): Palette | null {
  const { edge } = coloursOf(palette);
  return edge === palette.act ? null : repaired({ ...palette, act: edge });
}
