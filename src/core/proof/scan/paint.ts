import { Resvg } from '@resvg/resvg-wasm';
import { greyFrom, type Grey } from './grey';

/** Pixels of red, green, blue and alpha. */
export type Pixels = { data: Uint8Array; width: number; height: number };

/**
 * SVG as pixels, by the painter that worker and server share; fonts are none, since letters come as outlines. `longer` is what its longer side has in
 * pixels: a drawing may be a million times as tall as it is wide. Throws where it cannot be painted.
 */
export function painted(svg: string, longer?: number): Pixels {
  const font = { loadSystemFonts: false };
  let drawing = new Resvg(svg, { font });
  if (longer) {
    const mode = drawing.height > drawing.width ? 'height' : 'width';
    drawing.free();
    drawing = new Resvg(svg, { font, fitTo: { mode, value: longer } });
  }
  const image = drawing.render();
  const made = { data: image.pixels, width: image.width, height: image.height };
  image.free();
  drawing.free();
  return made;
}

/** SVG as a grey picture on a ground, 0 to 255. */
export function paintedGrey(svg: string, longer: number, ground = 255): Grey {
  const { data, width: across, height } = painted(svg, longer);
  return greyFrom(data, across, height, ground);
}
