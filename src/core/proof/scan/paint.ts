import { Resvg } from '@resvg/resvg-wasm';
import { greyFrom, type Grey } from './grey';

/** Pixels of red, green, blue and alpha. */
export type Pixels = { data: Uint8Array; width: number; height: number };

/** SVG as pixels, by the painter that worker and server share; fonts are none, since letters come as outlines. `width` in pixels. */
export function painted(svg: string, width?: number): Pixels {
  const drawing = new Resvg(svg, {
    font: { loadSystemFonts: false },
    ...(width ? { fitTo: { mode: 'width' as const, value: width } } : {}),
  });
  const image = drawing.render();
  const made = { data: image.pixels, width: image.width, height: image.height };
  image.free();
  drawing.free();
  return made;
}

/** SVG as a grey picture on a ground, 0 to 255. */
export function paintedGrey(svg: string, width?: number, ground = 255): Grey {
  const { data, width: across, height } = painted(svg, width);
  return greyFrom(data, across, height, ground);
}
