import type { Outlines } from '@/core/qr';
import { shippedTypesetter } from '@/server/fonts';

const n = (value: number): string => String(Math.round(value * 10_000) / 10_000);

/** An outline moved and scaled; those of fonts have M, L, Q, C and Z, all absolute. */
const moved = (path: string, scale: number, x: number, y: number): string =>
  path.replace(
    /(-?[\d.]+)[ ,](-?[\d.]+)/g,
    (_, along: string, up: string) => `${n(Number(along) * scale + x)} ${n(y - Number(up) * scale)}`,
  );

/** Words as outlines on one line, in sizes, y downwards from the line they stand on: painted alike wherever, without a font at hand. */
export async function codeWords({ text }: { text: string }): Promise<Outlines> {
  const typesetter = await shippedTypesetter();
  const setting = { family: 'atkinson', weight: 'heavy', size: 1, width: 1_000, most: 1 } as const;
  const { glyphs, widths } = typesetter.set(text, setting);
  const base = glyphs[0]?.y ?? 0;
  const d = glyphs
    .map((glyph) => {
      const { path, unitsPerEm } = typesetter.outline(glyph);
      return moved(path, 1 / unitsPerEm, glyph.x, glyph.y - base);
    })
    .join('');
  return { d, width: widths[0] ?? 0 };
}
