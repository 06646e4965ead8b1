import { create } from 'qrcode';

/** Error correction levels of ISO/IEC 18004: about 7, 15, 25 and 30 % of the codewords can be restored. */
export type Level = 'L' | 'M' | 'Q' | 'H';

/** A QR code's modules: `size` modules a side, row by row, true for dark; `version` 1 to 40. */
export type Symbol = { size: number; version: number; level: Level; dark: boolean[] };

const RISING: Level[] = ['L', 'M', 'Q', 'H'];

function symbolAt(text: string, level: Level): Symbol {
  const made = create(text, { errorCorrectionLevel: level });
  return {
    size: made.modules.size,
    version: made.version,
    level,
    dark: Array.from(made.modules.data, (bit) => bit === 1),
  };
}

/**
 * The symbol for a text (ISO/IEC 18004), at least at level `atLeast`; the level is raised as far as it costs no larger
 * version. Upper-case addresses take the alphanumeric mode, two characters in 11 bits.
 */
export function symbolFor(text: string, atLeast: Level = 'M'): Symbol {
  let best = symbolAt(text, atLeast);
  for (const level of RISING.slice(RISING.indexOf(atLeast) + 1)) {
    const stronger = symbolAt(text, level);
    if (stronger.version > best.version) break;
    best = stronger;
  }
  return best;
}
