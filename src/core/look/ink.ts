/**
 * What a colour is printed with where a brand says so: the four inks of offset print in per cent, cyan, magenta, yellow and black, and the name of a spot
 * colour of the print shop's own; empty where there is none.
 */
export type Ink = { colour: string; cmyk: [number, number, number, number]; spot: string };

/** Colours that a brand has inks for, at most. */
export const MOST_INKS = 8;
/** Letters of a spot colour's name, as print shops have them. */
export const SPOT_NAME = /^[\w .-]{0,60}$/;

/** The ink that a colour is printed with; null where nothing is said. */
export const inkOf = (inks: readonly Ink[], colour: string): Ink | null =>
  inks.find((each) => each.colour.toUpperCase() === colour.toUpperCase()) ?? null;

/** Four inks that come near a colour, for somebody to begin with: without a press condition nobody can say more (common practice, no published source). */
export function nearestInks(colour: string): Ink['cmyk'] {
  const [r, g, b] = [1, 3, 5].map((at) => Number.parseInt(colour.slice(at, at + 2), 16) / 255) as [
    number,
    number,
    number,
  ];
  const black = 1 - Math.max(r, g, b);
  const share = (part: number) => (black === 1 ? 0 : Math.round(((1 - part - black) / (1 - black)) * 100));
  return [share(r), share(g), share(b), Math.round(black * 100)];
}
