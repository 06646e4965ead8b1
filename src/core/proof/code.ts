import decodeQR from 'qr/decode.js';
import { QUIET_ZONE, type Symbol } from '@/core/qr';
import { leakedIn } from './leaked';
import { proofOf, type Proof } from './proof';

/** Pixels a module at which a code is read back: one scale proves nothing. */
const SCALES = [3, 4, 6, 8];

/** A symbol as pixels, RGBA, quiet zone included, `scale` pixels a module. */
function pixelsOf(symbol: Symbol, scale: number): { data: Uint8ClampedArray; side: number } {
  const side = (symbol.size + 2 * QUIET_ZONE) * scale;
  const data = new Uint8ClampedArray(side * side * 4).fill(255);
  for (let y = 0; y < symbol.size * scale; y += 1)
    for (let x = 0; x < symbol.size * scale; x += 1) {
      if (!symbol.dark[Math.floor(y / scale) * symbol.size + Math.floor(x / scale)]) continue;
      const at = ((y + QUIET_ZONE * scale) * side + x + QUIET_ZONE * scale) * 4;
      data.fill(0, at, at + 3);
    }
  return { data, side };
}

/**
 * The proof of a code before it is printed: a reader that did not draw it (that of the package `qr`, which needs no program of its own) reads the
 * modules back at several scales and must find `text`, letter by letter; nothing of `withheld` may be in it.
 */
export function proveCode(symbol: Symbol, text: string, withheld: string[]): Proof {
  const read = SCALES.filter((scale) => {
    const { data, side } = pixelsOf(symbol, scale);
    try {
      return decodeQR({ width: side, height: side, data }) === text;
    } catch {
      // Not found is told by throwing.
      return false;
    }
  }).length;
  const leaked = leakedIn(text, withheld);
  return proofOf([
    { name: 'read back', passed: read === SCALES.length, finding: { code: 'CODE_READ', read, of: SCALES.length } },
    {
      name: 'unticked lines',
      passed: leaked.length === 0,
      finding: { code: 'UNTICKED', still: leaked.length, of: withheld.length },
    },
  ]);
}
