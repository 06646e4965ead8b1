/** A colour as its red, green and blue, 0 to 1 in sRGB. */
export type Rgb = readonly [number, number, number];

/** Reads `#RRGGBB`; anything else is black. */
export function rgbOf(hex: string): Rgb {
  const value = /^#[0-9a-f]{6}$/i.test(hex) ? Number.parseInt(hex.slice(1), 16) : 0;
  return [(value >> 16) / 255, ((value >> 8) & 255) / 255, (value & 255) / 255];
}

/** A colour as `#RRGGBB`, what lies outside sRGB brought to its edge. */
export const hexOf = (rgb: Rgb): string =>
  `#${rgb
    .map((each) =>
      Math.round(Math.min(1, Math.max(0, each)) * 255)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`.toUpperCase();

const linear = (each: number): number => (each <= 0.04045 ? each / 12.92 : ((each + 0.055) / 1.055) ** 2.4);
const gamma = (each: number): number =>
  each <= 0.0031308 ? each * 12.92 : 1.055 * Math.max(0, each) ** (1 / 2.4) - 0.055;

/** Relative luminance, 0 (black) to 1 (white): WCAG 2.2, definition of relative luminance. */
export function luminance(hex: string): number {
  const [r, g, b] = rgbOf(hex).map(linear) as unknown as Rgb;
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

/** Contrast of two colours, 1 to 21: WCAG 2.2, definition of contrast ratio. */
export function contrast(a: string, b: string): number {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x) as [number, number];
  return (light + 0.05) / (dark + 0.05);
}

/** Two colours mixed in sRGB; `share` of the second, 0 to 1. It is how a half-transparent layer of it looks over the first. */
export function mix(first: string, second: string, share: number): string {
  const [a, b] = [rgbOf(first), rgbOf(second)];
  return hexOf(a.map((each, at) => each + (b[at]! - each) * share) as unknown as Rgb);
}

/** Lightness (0 to 1), chroma and hue (radians) as eyes see them: OKLab, CSS Color Module Level 4, 10.2 and its sample code. */
type Seen = { lightness: number; chroma: number; hue: number };

export function seen(hex: string): Seen {
  const [r, g, b] = rgbOf(hex).map(linear) as unknown as Rgb;
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  const a = 1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s;
  const c = 0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s;
  return {
    lightness: 0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    chroma: Math.hypot(a, c),
    hue: Math.atan2(c, a),
  };
}

function rgbSeen({ lightness, chroma, hue }: Seen): Rgb {
  const [a, b] = [chroma * Math.cos(hue), chroma * Math.sin(hue)];
  const l = (lightness + 0.3963377774 * a + 0.2158037573 * b) ** 3;
  const m = (lightness - 0.1055613458 * a - 0.0638541728 * b) ** 3;
  const s = (lightness - 0.0894841775 * a - 1.291485548 * b) ** 3;
  return [
    gamma(4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s),
    gamma(-1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s),
    gamma(-0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s),
  ];
}

const within = (rgb: Rgb): boolean => rgb.every((each) => each >= -0.0005 && each <= 1.0005);

/** The colour of a hue at a lightness, as strong as asked for or as sRGB can show it. */
export function colourOf(wanted: Seen): string {
  let { chroma } = wanted;
  while (chroma > 0.002 && !within(rgbSeen({ ...wanted, chroma }))) chroma *= 0.93;
  return hexOf(rgbSeen({ ...wanted, chroma }));
}

/**
 * A colour that stands out from all of `against` by at least `ratio`: the given one where it does, else the nearest of the same hue
 * in lightness, lighter or darker; black or white where no hue reaches it. What fails then can't be had with these grounds.
 */
export function readable(hex: string, against: readonly string[], ratio: number): string {
  const passes = (each: string) => against.every((ground) => contrast(each, ground) >= ratio);
  if (passes(hex)) return hex;
  const from = seen(hex);
  for (let step = 0.005; step <= 1; step += 0.005)
    for (const lightness of [from.lightness - step, from.lightness + step]) {
      if (lightness < 0 || lightness > 1) continue;
      const tried = colourOf({ ...from, lightness });
      if (passes(tried)) return tried;
    }
  return against.every((ground) => luminance(ground) > 0.18) ? '#000000' : '#FFFFFF';
}
