import type { Composition } from '@/core/card';
import { writtenName } from '@/core/record';
import type { Typesetter } from './typeset';

/** Side of an icon in pixels; what matters lies within a circle of four fifths of it (W3C Web App Manifest, 2.6: maskable). */
const SIDE = 512;
/** Letters so high, and at most so wide together: their corners are then within that circle. */
const HIGH = SIDE * 0.42;
const WIDEST = SIDE * 0.7;

/** First letters of the first and the last word of a name. */
export function initialsOf(name: string): string {
  const words = name.split(/\s+/).filter((word) => /\p{L}/u.test(word));
  const letters = [words[0], words.length > 1 ? words.at(-1) : undefined].map(
    (word) => word?.match(/\p{L}/u)?.[0] ?? '',
  );
  return letters.join('').toLocaleUpperCase() || '·';
}

/** Initials in the look's title family on its band, as SVG. */
export function iconSvg({ name, look }: Composition, typesetter: Typesetter): string {
  const set = (size: number) =>
    typesetter.set(initialsOf(writtenName(name)), {
      family: look.title,
      weight: 'heavy',
      size,
      width: SIDE * 2,
    });
  const [wide = 0] = set(HIGH).widths;
  const size = HIGH * Math.min(1, WIDEST / Math.max(wide, 1));
  const text = set(size);
  const left = (SIDE - (text.widths[0] ?? 0)) / 2;
  const top = (SIDE - text.height) / 2;
  const letters = text.glyphs.map((glyph) => {
    const { path, unitsPerEm } = typesetter.outline(glyph);
    const scale = size / unitsPerEm;
    return `<path transform="translate(${(left + glyph.x).toFixed(1)} ${(top + glyph.y).toFixed(1)}) scale(${scale.toFixed(5)} ${(-scale).toFixed(5)})" d="${path}"/>`;
  });
  const { band, onBand } = look.palette;
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${SIDE}" height="${SIDE}"><rect width="${SIDE}" height="${SIDE}" fill="${band}"/><g fill="${onBand}">${letters.join('')}</g></svg>`;
}
