import sharp from 'sharp';
import { hexOf, seen } from '@/core/look';

/** Side to which a picture is brought before its pixels are looked at: each is then about as large as a stroke of type. */
const SIDE = 96;

/** What a picture's pixels say: its strongest colours by how much of it they fill, its darkest and its lightest. */

export type PictureColours = { colours: string[]; darkest: string; lightest: string };

/** The colours of a picture: its strongest, and its darkest and lightest pixel. */
export async function coloursOf({ bytes }: { bytes: Buffer }): Promise<PictureColours> {
  const { data, info } = await sharp(bytes)
    .resize(SIDE, SIDE, { fit: 'inside' })
    .ensureAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const groups = new Map<string, { count: number; sum: [number, number, number] }>();
  let [darkest, lightest] = [
    { sum: 766, hex: '#000000' },
    { sum: -1, hex: '#FFFFFF' },
  ];
  for (let at = 0; at < data.length; at += info.channels) {
    // What is nearly transparent shows the ground.
    if (data[at + 3]! < 128) continue;
    const rgb = [data[at]!, data[at + 1]!, data[at + 2]!] as [number, number, number];
    const sum = rgb[0] * 0.64 + rgb[1] * 2.15 + rgb[2] * 0.22;
    const hex = hexOf([rgb[0] / 255, rgb[1] / 255, rgb[2] / 255]);
    if (sum < darkest.sum) darkest = { sum, hex };
    if (sum > lightest.sum) lightest = { sum, hex };
    const key = rgb.map((each) => each >> 5).join();
    const group = groups.get(key) ?? { count: 0, sum: [0, 0, 0] };
    groups.set(key, {
      count: group.count + 1,
      sum: [group.sum[0] + rgb[0], group.sum[1] + rgb[1], group.sum[2] + rgb[2]],
    });
  }
  const colours = [...groups.values()]
    .map(({ count, sum }) => ({
      count,
      hex: hexOf([sum[0] / count / 255, sum[1] / count / 255, sum[2] / count / 255]),
    }))
    // White, black and greys are a brand's colour only where there is no other.
    .map((each) => ({ ...each, weight: each.count * (0.02 + seen(each.hex).chroma) }))
    .sort((a, b) => b.weight - a.weight)
    .map(({ hex }) => hex);
  return { colours: apart(colours).slice(0, 6), darkest: darkest.hex, lightest: lightest.hex };
}

/** Colours that differ enough to be told apart, the first ones kept. */
function apart(colours: string[]): string[] {
  const kept: string[] = [];
  for (const hex of colours) {
    const own = seen(hex);
    const near = kept.some((other) => {
      const { lightness, chroma, hue } = seen(other);
      const distance = Math.hypot(
        own.lightness - lightness,
        own.chroma * Math.cos(own.hue) - chroma * Math.cos(hue),
        own.chroma * Math.sin(own.hue) - chroma * Math.sin(hue),
      );
      return distance < 0.09;
    });
    if (!near) kept.push(hex);
  }
  return kept;
}
