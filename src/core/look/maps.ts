import type { Area, AreaMap } from './layouts';

/** A map taken apart: areas by row and column (null where nothing lies), the columns' shares, and the rows' (0: what it needs). */
export type Cells = { cells: (Area | null)[][]; columns: number[]; shares: number[] };

/** Where an area lies: first and last column and row, counted from 0. */
export type Span = { left: number; right: number; top: number; bottom: number };

export function cellsOf({ columns, rows }: AreaMap): Cells {
  const read = rows.map((row) => row.split('/'));
  return {
    cells: read.map(([areas]) => areas!.split(' ') as Area[]),
    columns: [...columns],
    shares: read.map(([, share]) => Number(share ?? 0)),
  };
}

/** Each area's place, in the order of the map. An area is a rectangle on every map. */
export function spansOf({ cells }: Pick<Cells, 'cells'>): Map<Area, Span> {
  const spans = new Map<Area, Span>();
  cells.forEach((row, y) =>
    row.forEach((area, x) => {
      if (!area) return;
      const span = spans.get(area) ?? { left: x, right: x, top: y, bottom: y };
      spans.set(area, {
        left: Math.min(span.left, x),
        right: Math.max(span.right, x),
        top: span.top,
        bottom: y,
      });
    }),
  );
  return spans;
}

/** A map with the first column last, for photos on the other side and for writing from the right. */
export const mirrored = ({ cells, columns, shares }: Cells): Cells => ({
  cells: cells.map((row) => [...row].reverse()),
  columns: [...columns].reverse(),
  shares,
});

/**
 * A map with the areas that a card has, and no gap where another one lay: its neighbours beside it or, failing that, above or
 * below grow into its place; rows and columns that say nothing of their own fall away.
 */
export function mapWith(map: Cells, present: ReadonlySet<Area>): Cells {
  const cells = map.cells.map((row) => [...row]);
  for (const area of spansOf(map).keys()) {
    // Where an earlier one was missing, this one may have grown into its place.
    const span = present.has(area) ? undefined : spansOf({ cells }).get(area);
    if (span) fill(cells, span);
  }
  const rows = cells.flatMap((row, y) => {
    const empty = row.every((area) => area === null);
    const again = y > 0 && row.join() === cells[y - 1]!.join();
    return empty || again ? [] : [y];
  });
  const kept = rows.map((y) => cells[y]!);
  const columns = map.columns.flatMap((_, x) => {
    const column = (at: number) => kept.map((row) => row[at]).join();
    const empty = kept.every((row) => row[x] === null);
    return empty || (x > 0 && column(x) === column(x - 1)) ? [] : [x];
  });
  // A column that another one took over leaves its share to it.
  const width = (x: number, next: number) => map.columns.slice(x, next).reduce((sum, each) => sum + each, 0);
  const height = (y: number, next: number) => Math.max(0, ...map.shares.slice(y, next));
  return {
    cells: kept.map((row) => columns.map((x) => row[x]!)),
    columns: columns.map((x, at) => width(x, columns[at + 1] ?? map.columns.length)),
    shares: rows.map((y, at) => height(y, rows[at + 1] ?? map.shares.length)),
  };
}

/** Lets the neighbours of a place grow into it, or empties it. */
function fill(cells: (Area | null)[][], { left, right, top, bottom }: Span) {
  const spans = spansOf({ cells });
  const rows = Array.from({ length: bottom - top + 1 }, (_, at) => top + at);
  const columns = Array.from({ length: right - left + 1 }, (_, at) => left + at);
  const lies = (areas: (Area | null | undefined)[], within: (span: Span) => boolean) =>
    areas.length > 0 && areas.every((area) => area && within(spans.get(area)!));
  for (const x of [left - 1, right + 1]) {
    const beside = rows.map((y) => cells[y]![x]);
    if (lies(beside, (span) => span.top >= top && span.bottom <= bottom)) {
      for (const y of rows) for (const to of columns) cells[y]![to] = cells[y]![x]!;
      return;
    }
  }
  for (const y of [top - 1, bottom + 1]) {
    const over = columns.map((x) => cells[y]?.[x]);
    if (lies(over, (span) => span.left >= left && span.right <= right)) {
      for (const to of rows) for (const x of columns) cells[to]![x] = cells[y]![x]!;
      return;
    }
  }
  for (const y of rows) for (const x of columns) cells[y]![x] = null;
}

/**
 * What a band is painted on: the one rectangle around its areas, or each of them by itself where something else lies within that
 * rectangle, as can happen on cards that lack much.
 */
export function bandOn({ cells }: Pick<Cells, 'cells'>, band: readonly Area[]): Span[] {
  const spans = spansOf({ cells });
  const found = band.flatMap((area) => spans.get(area) ?? []);
  if (found.length === 0) return [];
  const box = {
    left: Math.min(...found.map(({ left }) => left)),
    right: Math.max(...found.map(({ right }) => right)),
    top: Math.min(...found.map(({ top }) => top)),
    bottom: Math.max(...found.map(({ bottom }) => bottom)),
  };
  const inside = cells.slice(box.top, box.bottom + 1).flatMap((row) => row.slice(box.left, box.right + 1));
  return inside.every((area) => area === null || band.includes(area)) ? [box] : found;
}

/** Room within an area at each of its edges, in steps: 2 at an edge of the form or of the band, 1 beside its own kind. */
export type Room = { top: number; bottom: number; left: number; right: number };

export function roomOf(area: Area, { cells }: Pick<Cells, 'cells'>, band: readonly Area[]): Room {
  const span = spansOf({ cells }).get(area)!;
  const onBand = band.includes(area);
  const apart = (areas: (Area | null | undefined)[]) =>
    areas.some((other) => !other || band.includes(other) !== onBand);
  const row = (y: number) => cells[y]?.slice(span.left, span.right + 1) ?? [null];
  const column = (x: number) => cells.slice(span.top, span.bottom + 1).map((each) => each[x]);
  return {
    top: apart(row(span.top - 1)) ? 2 : 1,
    bottom: apart(row(span.bottom + 1)) ? 2 : 1,
    left: apart(column(span.left - 1)) ? 2 : 1,
    right: apart(column(span.right + 1)) ? 2 : 1,
  };
}
