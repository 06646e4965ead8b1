import {
  bandOn,
  cellsOf,
  coloursOf,
  layoutOf,
  mapWith,
  mirrored,
  spansOf,
  type Area,
  type Cells,
  type Look,
  type Span,
} from '@/core/look';
import { blocksOf, type AreaBlock } from './area-blocks';
import type { Attempt } from './attempt';
import type { Face, FaceContent, FaceItem, FaceSize } from './face';
import type { Typesetter } from './typeset';

/** Sizes of a line in shares of the face's shorter side, from which it is made smaller until everything has room. */
const LARGEST = 0.058;
const LARGEST_ALONE = 0.105;
const STEP = 0.94;

const SCALE = { small: 0.9, normal: 1, large: 1.12 } as const;
const PHOTO_SHARE = { small: 0.74, normal: 1, large: 1.3 } as const;

/** What name and pictures keep of their own sizes before lines are left out for them, and at the very least. */
const EASED = 0.55;
const LEAST_SHARE = 0.25;

/**
 * Lays out a face of a card by its layout's description. Type is made smaller down to the face's least, then name and pictures; then lines are
 * left out from the last on, then words are cut, and the face says which. Sizes in the unit of `size`.
 */
export function layFace(look: Look, content: FaceContent, size: FaceSize, typesetter: Typesetter): Face {
  const shorter = Math.min(size.width, size.height);
  const alone = content.lines.length === 0 && size.form !== 'back';
  const least = size.leastType;
  let base = Math.max(least, shorter * (alone ? LARGEST_ALONE : LARGEST) * SCALE[look.scale]);
  // More than two columns of the smallest type hold is left out before anything is measured.
  const most = Math.min(content.lines.length, 2 * Math.ceil(size.height / least));
  const tried = (count: number, tight: boolean, share = 1) =>
    attempt({ look, content, size, typesetter, base, count, tight, share });
  for (;;) {
    const all = tried(most, false);
    if (all.fits) return all.draw();
    if (base <= least) break;
    base = Math.max(least, base * STEP);
  }
  for (let share = STEP; share >= EASED; share *= STEP) {
    const all = tried(most, false, share);
    if (all.fits) return all.draw();
  }
  // The largest number of lines that fits: each one more takes more room.
  let [low, high] = [0, most - 1];
  let best = most > 0 ? tried(0, false) : null;
  if (best?.fits) {
    while (low < high) {
      const middle = Math.ceil((low + high) / 2);
      const part = tried(middle, false);
      if (part.fits) [low, best] = [middle, part];
      else high = middle - 1;
    }
    return best.draw();
  }
  let last = tried(0, true);
  for (let share = STEP; !last.fits && share >= LEAST_SHARE; share *= STEP) last = tried(0, true, share);
  return last.draw();
}

/** The areas that a face has something for. */
function presentOn({ content, count, size, look }: Attempt): Set<Area> {
  const filled: [Area, unknown][] = [
    ['photo', content.photo],
    ['logo', content.logo],
    ['name', content.name],
    ['role', content.role],
    ['firm', content.firm],
    ['alarm', content.alarm],
    ['lines', count > 0],
  ];
  const present = new Set(filled.flatMap(([area, is]) => (is ? area : [])));
  // A back with neither firm nor logo would be empty.
  const onMap = spansOf(cellsOf(layoutOf(look.layout).map[size.form]));
  if (![...present].some((area) => onMap.has(area))) present.add('name');
  return present;
}

function attempt(of: Attempt): { fits: boolean; draw: () => Face } {
  const { look, content, size, base } = of;
  const layout = layoutOf(look.layout);
  const own = cellsOf(layout.map[size.form]);
  const map = turned(size.whole ? completed(own, of) : own, look, content.toRight);
  const mapped = mapWith(map, presentOn(of));
  // Where the map has a place for nothing that there is, the name has it all.
  const cells: Cells = mapped.cells.length > 0 ? mapped : { cells: [['name']], columns: [1], shares: [1] };
  const spans = spansOf(cells);
  const onBand = (area: Area) => size.form === 'back' || (layout.band as readonly Area[]).includes(area);
  const edges = edgesOf(columnWidths(cells, size.width, look));
  const room = (area: Area) => roomOn(area, spans.get(area)!, cells, onBand, size, base);
  const blocks = new Map<Area, AreaBlock>();
  for (const [area, span] of spans) {
    const { left, right } = room(area);
    const width = Math.max(base, edges[span.right + 1]! - edges[span.left]! - left - right);
    blocks.set(area, blocksOf[area](of, width, onBand(area)));
  }
  const heights = cells.cells.map(() => 0);
  const needs = (area: Area) => blocks.get(area)!.height + room(area).top + room(area).bottom;
  for (const [area, span] of spans)
    if (span.top === span.bottom) heights[span.top] = Math.max(heights[span.top]!, needs(area));
  for (const [area, span] of spans) if (span.top < span.bottom) spread(heights, span, needs(area), cells.shares);
  const left = size.height - heights.reduce((sum, each) => sum + each, 0);
  share(heights, Math.max(0, left), cells.shares);
  const tops = edgesOf(heights);
  const withinOf = (area: Area, span: Span) => {
    const place = placeOf(span, edges, tops);
    const rooms = room(area);
    const within = {
      x: place.x + rooms.left,
      y: place.y + rooms.top,
      width: Math.max(0, place.width - rooms.left - rooms.right),
      height: Math.max(0, place.height - rooms.top - rooms.bottom),
    };
    return { place, within };
  };
  const each = [...spans].map(([area, span]) => ({
    area,
    span,
    block: blocks.get(area)!,
    ...withinOf(area, span),
  }));
  // What would reach out of its place does not fit, however much room is left elsewhere.
  const inside = each.every(({ block, within }) => block.height <= within.height + 0.01);
  const cut = each.flatMap(({ area, block }) => (block.cut ? area : []));
  // A word broken in two is the last resort but leaving it out.
  const broken = each.some(({ block }) => block.broken);
  const short = (cut.length > 0 && !of.tight) || (broken && base > size.leastType);
  const fits = left >= -0.01 && inside && !short;
  const draw = (): Face => {
    const colours = coloursOf(look.palette);
    const items: FaceItem[] = [
      { kind: 'sheet', x: 0, y: 0, width: size.width, height: size.height, colour: colours.sheet },
    ];
    const band =
      size.form === 'back'
        ? [{ left: 0, right: cells.columns.length - 1, top: 0, bottom: heights.length - 1 }]
        : bandOn(cells, layout.band);
    // In several pieces a gradient or picture would not meet.
    const ground = band.length > 1 ? ({ kind: 'plain' } as const) : look.ground;
    for (const one of band) items.push({ kind: 'band', ...placeOf(one, edges, tops), colour: colours.band, ground });
    for (const { block, span, place, within } of each)
      items.push(...block.draw(block.fills ? place : within, { lifted: lifted(span, spans), whole: place }));
    return {
      width: size.width,
      height: size.height,
      items,
      smallestType: Math.min(...each.map(({ block }) => block.smallestType)),
      leftOut: content.lines.slice(of.count).map(({ id }) => id),
      // What reaches out of its place all the same is told as well.
      cut: fits || cut.length > 0 ? cut : ['name'],
      missing: [...new Set(each.flatMap(({ block }) => block.missing()))],
    };
  };
  return { fits, draw };
}

/** What says something. */
const SAYING = ['name', 'role', 'firm', 'alarm', 'lines'] as const satisfies Area[];

/** A map with rows below it for what is said and has no place on it. */
function completed({ cells, columns, shares }: Cells, of: Attempt): Cells {
  const mapped = spansOf({ cells });
  const present = presentOn(of);
  const added = SAYING.filter((area) => present.has(area) && !mapped.has(area));
  return {
    cells: [...cells, ...added.map((area) => columns.map((): Area => area))],
    columns,
    shares: [...shares, ...added.map(() => 0)],
  };
}

/** The map as this card has it: the photo on the wanted side, and the first column where reading begins. */
function turned(cells: Cells, look: Look, toRight: boolean): Cells {
  const turn = (look.photo.side === 'end') !== toRight;
  return turn ? mirrored(cells) : cells;
}

/** Columns in the unit of the face; that of the photo by the share that it was given. */
function columnWidths({ cells, columns }: Cells, width: number, look: Look): number[] {
  const shares = columns.map((share, x) =>
    columns.length > 1 && cells.some((row) => row[x] === 'photo') ? share * PHOTO_SHARE[look.photo.share] : share,
  );
  const whole = shares.reduce((sum, each) => sum + each, 0);
  return shares.map((share) => (share / whole) * width);
}

const edgesOf = (sizes: number[]): number[] =>
  sizes.reduce<number[]>((edges, each) => [...edges, edges.at(-1)! + each], [0]);

const placeOf = (span: Span, edges: number[], tops: number[]) => ({
  x: edges[span.left]!,
  y: tops[span.top]!,
  width: edges[span.right + 1]! - edges[span.left]!,
  height: tops[span.bottom + 1]! - tops[span.top]!,
});

/** Gives rows what an area over several of them needs: to those that take what is left, else to the first and the last alike. */
function spread(heights: number[], { top, bottom }: Span, need: number, shares: number[]) {
  const rows = heights.slice(top, bottom + 1);
  const lacking = need - rows.reduce((sum, each) => sum + each, 0);
  if (lacking <= 0) return;
  const open = rows.flatMap((_, at) => (shares[top + at]! > 0 ? top + at : []));
  const takers = open.length > 0 ? open : [top, bottom];
  for (const row of takers) heights[row]! += lacking / takers.length;
}

/** Gives rows what is left over: by their shares, or to all alike. */
function share(heights: number[], left: number, shares: number[]) {
  const whole = shares.reduce((sum, each) => sum + each, 0);
  heights.forEach((height, row) => {
    heights[row] = height + left * (whole > 0 ? shares[row]! / whole : 1 / heights.length);
  });
}

/** Whether an area stands in the first row of several that something beside it spans: it is then set to the bottom of its row. */
const lifted = (span: Span, spans: Map<Area, Span>): boolean =>
  span.top === span.bottom &&
  [...spans.values()].some((other) => other.top === span.top && other.bottom > span.bottom && other.left !== span.left);

function roomOn(
  area: Area,
  span: Span,
  { cells, columns }: Cells,
  onBand: (area: Area) => boolean,
  { margin }: FaceSize,
  base: number,
) {
  const own = onBand(area);
  const apart = (others: (Area | null | undefined)[]) => others.some((other) => other && onBand(other) !== own);
  const row = (y: number) => cells[y]?.slice(span.left, span.right + 1) ?? [];
  const column = (x: number) => cells.slice(span.top, span.bottom + 1).map((each) => each[x]);
  const room = (edge: boolean, others: (Area | null | undefined)[], inner: number) =>
    edge ? margin : base * (apart(others) ? 0.75 : inner);
  return {
    top: room(span.top === 0, row(span.top - 1), 0.14),
    bottom: room(span.bottom === cells.length - 1, row(span.bottom + 1), 0.14),
    left: room(span.left === 0, column(span.left - 1), 0.45),
    right: room(span.right === columns.length - 1, column(span.right + 1), 0.45),
  };
}
