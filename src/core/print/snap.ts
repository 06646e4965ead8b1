/** Edges nearer to a line than this go onto it, in millimetres. */
const SNAP_MM = 1.2;

type Size = { width: number; height: number };
type Box = { x: number; y: number } & Size;

/** Where a box comes to lie, and the lines that it went onto, in millimetres from the trim's top left. */
export type Snapped = { x: number; y: number; across: number | null; down: number | null };

/**
 * Takes a box that is moved by hand to what is near: the safe area, the middle, and the edges and middles of what else is there. Nothing leaves
 * the trim.
 */
export function snap(box: Box, trim: Size, margin: number, others: Box[]): Snapped {
  const [x, across] = along(
    box.x,
    box.width,
    [margin, trim.width / 2, trim.width - margin, ...others.flatMap((each) => edges(each.x, each.width))],
    trim.width,
  );
  const [y, down] = along(
    box.y,
    box.height,
    [margin, trim.height / 2, trim.height - margin, ...others.flatMap((each) => edges(each.y, each.height))],
    trim.height,
  );
  return { x, y, across, down };
}

const edges = (from: number, size: number): number[] => [from, from + size / 2, from + size];

function along(from: number, size: number, lines: number[], whole: number): [place: number, line: number | null] {
  let best: { by: number; line: number } | null = null;
  for (const line of lines)
    for (const edge of edges(from, size)) {
      const by = line - edge;
      if (Math.abs(by) <= SNAP_MM && (!best || Math.abs(by) < Math.abs(best.by))) best = { by, line };
    }
  const place = from + (best?.by ?? 0);
  const within = Math.max(0, Math.min(place, whole - size));
  return [Math.round(within * 100) / 100, within === place ? (best?.line ?? null) : null];
}
