import { greyPicture, mapped, type Grey } from './grey';
import { AROUND, straightened } from './locate';
import { measure } from './measure';
import { faultsOf, QUICK_PIXELS, tryCode } from './prove';
import { MAIN_READERS, readByBoth } from './shape';
import type { FoundReport } from './report';
import { QUICK, type Base } from './trials';

/** What would make a printed design's code read better, by code, the least change first. */
export const REPAIRS = ['add margin', 'turn over', 'raise contrast', 'darken finders', 'draw anew'] as const;

/** A change that was made to the very picture and tried: pictures that both main readers read, before and after. */
export type Repair = { repair: (typeof REPAIRS)[number]; before: number; after: number; of: number };

/** A base with a part of its modules painted: `level` answers null where a module stays as it is. */
function repainted({ picture, perModule, side }: Base, level: (row: number, column: number) => number | null): Base {
  const made = { ...picture, data: Uint8Array.from(picture.data) };
  for (let row = 0; row < side; row += 1)
    for (let column = 0; column < side; column += 1) {
      const paint = level(row - AROUND, column - AROUND);
      if (paint === null) continue;
      for (let y = row * perModule; y < (row + 1) * perModule; y += 1)
        made.data.fill(paint, y * made.width + column * perModule, y * made.width + (column + 1) * perModule);
    }
  return { picture: made, perModule, side };
}

/** Levels between which nearly all of a symbol's pixels lie. */
function ends({ picture, perModule }: Base): [number, number] {
  const counts = new Uint32Array(256);
  const from = AROUND * perModule;
  for (let y = from; y < picture.height - from; y += 1)
    for (let x = from; x < picture.width - from; x += 1) counts[picture.data[y * picture.width + x]!]! += 1;
  const all = counts.reduce((sum, each) => sum + each, 0);
  const place = (share: number) => {
    let sum = 0;
    return counts.findIndex((count) => (sum += count) >= all * share);
  };
  return [place(0.05), place(0.95)];
}

const CHANGES: Record<Repair['repair'], (base: Base, of: FoundReport) => Base> = {
  'add margin': (base, { size }) => {
    const [dark, light] = ends(base);
    const inside = (at: number) => at >= 0 && at < size;
    return repainted(base, (row, column) => (inside(row) && inside(column) ? null : Math.max(dark, light)));
  },
  'turn over': (base) => ({ ...base, picture: mapped(base.picture, (level) => 255 - level) }),
  'raise contrast': (base) => {
    const [dark, light] = ends(base);
    return { ...base, picture: mapped(base.picture, (level) => ((level - dark) * 255) / Math.max(1, light - dark)) };
  },
  'darken finders': (base, { size }) =>
    repainted(base, (row, column) => {
      for (const [y, x] of [
        [3, 3],
        [3, size - 4],
        [size - 4, 3],
      ] as const) {
        const distance = Math.max(Math.abs(row - y), Math.abs(column - x));
        if (distance <= 3) return distance === 2 ? 255 : 0;
      }
      return null;
    }),
  'draw anew': (base, { size, modules }) => ({
    ...repainted({ ...base, picture: greyPicture(base.picture.width, base.picture.height) }, (row, column) =>
      row >= 0 && column >= 0 && row < size && column < size && modules[row * size + column] === 1 ? 0 : 255,
    ),
  }),
};

/** Which repairs a fault suggests; what reads too little may lack anything. */
function suggested({ faults, found }: FoundReport): Repair['repair'][] {
  const all = [...REPAIRS];
  const wanted = all.filter(
    (repair) =>
      (repair === 'add margin' && faults.includes('margin')) ||
      (repair === 'turn over' && (faults.includes('inverted') || found.inverted)) ||
      (repair === 'raise contrast' && (faults.includes('contrast') || faults.includes('reads too little'))) ||
      (repair === 'darken finders' &&
        (faults.includes('finder') || faults.includes('contrast') || faults.includes('reads too little'))),
  );
  return [...wanted, 'draw anew'];
}

/** The least change to a picture that lets its code pass, found by making each and trying it; null where none does. */
export async function repairOf(picture: Grey, report: FoundReport): Promise<Repair | null> {
  const base = straightened(picture, report.found);
  const before = readByBoth(report.proof).read;
  for (const repair of suggested(report)) {
    const changed = CHANGES[repair](base, report);
    const proof = (await tryCode(changed, report.text, QUICK, { readers: MAIN_READERS, pixels: QUICK_PIXELS }))!;
    const measures = measure(changed, { size: report.size, margin: AROUND, expected: report.modules });
    const { read: after, of } = readByBoth(proof);
    if (faultsOf(proof, measures).length === 0 && after >= before) return { repair, before, after, of };
  }
  return null;
}
