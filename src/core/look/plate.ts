import { contrast } from './contrast';
import { SHAPE_RATIO } from './palette';

/** Strongest colours of a logo, `#RRGGBB`, as they were read from its pixels. */
export type LogoColours = readonly string[];

/** What stands behind a logo by day and by night, `#RRGGBB`; null where its own ground does. */
export type Plates = { day: string | null; night: string | null };

/** Whether a logo shows on each of these grounds: the best of its colours counts (WCAG 2.2, 1.4.11 asks 3 to 1 of a shape). */
const standsOut = (colours: LogoColours, grounds: readonly string[]): boolean =>
  grounds.every((ground) => colours.some((colour) => contrast(colour, ground) >= SHAPE_RATIO));

/** Plates to choose from after the sheet: the lightest and a dark one. */
const OTHERS = ['#FFFFFF', '#14100D'];

/** The plate that a logo needs where it would vanish, the first on which it shows; null where none is needed, or none helps. */
export function plateFor(colours: LogoColours, grounds: readonly string[], sheet: string): string | null {
  if (colours.length === 0 || standsOut(colours, grounds)) return null;
  return [sheet, ...OTHERS].find((each) => standsOut(colours, [each])) ?? null;
}

/**
 * The plate that a logo needs which is shown on all of these grounds at different times, as a mail is by day and by night; null where each
 * shows as many of its colours as a plate would. Every colour counts: a word in black beside a sign in red is part of the logo.
 */
export function plateForAll(colours: LogoColours, grounds: readonly string[]): string | null {
  const shown = (ground: string) => colours.filter((colour) => contrast(colour, ground) >= SHAPE_RATIO).length;
  const [white, dark] = OTHERS as [string, string];
  const plate = shown(dark) > shown(white) ? dark : white;
  return grounds.some((ground) => shown(ground) < shown(plate)) ? plate : null;
}
