import { squeeze, type Composition } from '@/core/card';
import { CALL, BACKDROP, LEAST_TYPE, SITTER } from '@/core/backdrop';
import type { Face, FaceItem } from '@/core/face';
import { QUIET_ZONE } from '@/core/qr';
import { found, linesWanted, PAINTED_RATIO, PRINT_READERS, textsOf, untickedIn } from './print';
import { proofOf, type Check, type Proof } from './proof';

/** A code as readers found it in a call's picture: the symbol without its margin, in the backdrop's own pixels from its top left. */
export type CalledCode = { text: string; x: number; y: number; width: number; modules: number; readers: number };

/** A backdrop as it was read back from its bytes, made small and coarse as calls make it. */
export type ReadBackdrop = {
  width: number;
  height: number;
  codes: CalledCode[];
  /** The contrast of each text with what lies around it (WCAG 2.2), as painted. */
  contrasts: number[];
};

export type HeldBackdrop = {
  composition: Composition;
  withheld: string[];
  face: Face;
  link: string;
  bytes: number;
};

/** A code that is read further from its place than that was moved, in pixels: one and a half of a call's. */
const MOVED = (1.5 * BACKDROP.width) / CALL.width;

type Box = { x: number; y: number; width: number; height: number };
const meet = (a: Box, b: Box): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

/** Where an item stands; null of what covers everything. */
function boxOf(item: FaceItem): Box | null {
  if (item.kind === 'band') return null;
  if (item.kind !== 'text') return item;
  const lefts = item.text.widths.map((_, at) => item.x + item.shifts[at]!);
  const rights = item.text.widths.map((width, at) => lefts[at]! + width);
  const x = Math.min(...lefts);
  return { x, y: item.y, width: Math.max(...rights) - x, height: item.text.height };
}

/**
 * The proof of a backdrop from the bytes of its picture, after a call made it small and coarse: its code is still read where it was put, the
 * middle is free, every ticked line stands on it in a size that can be read, and no other.
 */
export function proveBackdrop(read: ReadBackdrop, { composition, withheld, face, link, bytes }: HeldBackdrop): Proof {
  const said = squeeze(textsOf(face).join('\n'));
  const free = face.items.every((item) => {
    const box = boxOf(item);
    return box === null || !meet(box, SITTER);
  });
  const pixels = (face.smallestType * CALL.width) / BACKDROP.width;
  const least = (LEAST_TYPE * CALL.width) / BACKDROP.width;
  const reads = read.contrasts.filter((each) => each >= PAINTED_RATIO).length;
  const cut = face.cut.length > 0;
  return proofOf([
    { name: 'room', passed: !cut, finding: { code: 'CALL_ROOM', cut } },
    { name: 'letters', passed: face.missing.length === 0, finding: { code: 'LETTERS', missing: face.missing } },
    codeCheck(read, face, link),
    { name: 'middle', passed: free, finding: { code: 'SITTER', free } },
    found('ON_PAPER', linesWanted(composition, 'backdrop'), said),
    untickedIn(said, withheld),
    ...(Number.isFinite(pixels)
      ? [{ name: 'type', passed: pixels >= least - 0.01, finding: { code: 'CALL_TYPE' as const, pixels, least } }]
      : []),
    {
      name: 'contrast',
      passed: reads === read.contrasts.length,
      finding: {
        code: 'CONTRAST',
        ...{ read: reads, of: read.contrasts.length, worst: Math.min(21, ...read.contrasts), needs: PAINTED_RATIO },
      },
    },
    {
      name: 'size',
      passed: read.width === BACKDROP.width && read.height === BACKDROP.height,
      finding: { code: 'SIZE', bytes, photo: 0 },
    },
  ]);
}

function codeCheck({ codes }: ReadBackdrop, face: Face, link: string): Check {
  const item = face.items.find((each) => each.kind === 'code');
  const here = codes.find(({ text }) => text === link);
  const module = item ? item.width / item.drawing.width : 0;
  const near = (a: number, b: number) => Math.abs(a - b) <= MOVED;
  const placed =
    item !== undefined &&
    (here === undefined || (near(here.x, item.x + QUIET_ZONE * module) && near(here.y, item.y + QUIET_ZONE * module)));
  const readers = here?.readers ?? 0;
  return {
    name: 'code',
    passed: placed && readers === PRINT_READERS,
    finding: {
      ...{ code: 'CALL_CODE', readers, of: PRINT_READERS, placed },
      pixels: (module * CALL.width) / BACKDROP.width,
    },
  };
}
