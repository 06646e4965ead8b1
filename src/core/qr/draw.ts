import type { Symbol } from './symbol';

/** Light modules around the symbol that every reader needs (ISO/IEC 18004, 4 modules); part of every download. */
export const QUIET_ZONE = 4;

/**
 * A symbol as SVG, quiet zone included: each run of dark modules is one rectangle of a single path, on white. One module
 * is one user unit; `widthMm`, if given, sets the printed width of the whole picture in millimetres. `colours` are `#RRGGBB`.
 */
export function drawSymbol(
  symbol: Symbol,
  options: { title: string; widthMm?: number; colours?: { ink: string; ground: string } },
): string {
  const side = symbol.size + 2 * QUIET_ZONE;
  const runs: string[] = [];
  for (let row = 0; row < symbol.size; row += 1) {
    for (let column = 0; column < symbol.size; column += 1) {
      if (!symbol.dark[row * symbol.size + column]) continue;
      const start = column;
      while (column + 1 < symbol.size && symbol.dark[row * symbol.size + column + 1]) column += 1;
      runs.push(`M${start + QUIET_ZONE} ${row + QUIET_ZONE}h${column - start + 1}v1H${start + QUIET_ZONE}z`);
    }
  }
  const size = options.widthMm ? ` width="${options.widthMm}mm" height="${options.widthMm}mm"` : '';
  const { ink, ground } = options.colours ?? { ink: '#000', ground: '#fff' };
  const title = options.title.replace(/&/g, '&amp;').replace(/</g, '&lt;');
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${side} ${side}"${size} shape-rendering="crispEdges" role="img">` +
    `<title>${title}</title><path fill="${ground}" d="M0 0h${side}v${side}H0z"/><path fill="${ink}" d="${runs.join('')}"/></svg>`
  );
}
