import { figure } from '@/core/language';
import type { Artwork, PlacedLine, SideName } from '@/core/print';

const mm = (value: number): string => figure(Math.round(value * 10) / 10);

/** A piece on somebody's own design. */
export const ARTWORK = {
  ground: 'Ground',
  grounds: { look: 'the look of the card', artwork: 'your own design' },
  note: 'A finished design in its size, with 3 mm of bleed: PDF, PNG or JPEG, 20 MB at most. Of a PDF the second page is the back.',
  give: { front: 'Choose the front', back: 'Choose a back' } satisfies Record<SideName, string>,
  other: { front: 'Another front', back: 'Another back' } satisfies Record<SideName, string>,
  drop: { front: 'Take the design away', back: 'Take the back away' } satisfies Record<SideName, string>,
  told: (name: string, bytes: number) =>
    `${name || 'without a name'} · ${figure(Math.max(1, Math.round(bytes / 1_000)))} KB`,
  measures: ({ kind, width, height }: Artwork) =>
    kind === 'picture' ? `${figure(width)} × ${figure(height)} pixels` : `${mm(width)} × ${mm(height)} mm in all`,
  enlarge: 'Enlarge it until it has 3 mm of bleed',
  placed: 'On the design',
  code: 'The code',
  gone: 'not ticked for paper any more',
  choose: (what: string) => `Choose ${what}`,
  side: 'Side',
  x: 'From the left, mm',
  y: 'From the top, mm',
  width: 'Wide, mm',
  points: 'Type, points',
  colour: 'Colour',
  align: 'Within its width',
  aligns: { left: 'left', middle: 'in the middle', right: 'right' } satisfies Record<PlacedLine['align'], string>,
  heavy: 'Heavy',
  plate: 'On a plate of its own ground',
  plateNote: 'Without one the margin of the code is the design, which has to be even and light there.',
  add: 'Place a line',
  addHint: 'choose one',
  noMore: 'Every line that is ticked for paper stands on it.',
  name: 'Name',
  remove: (what: string) => `Take ${what} off`,
  undo: 'Undo',
  moved: (what: string, x: number, y: number) => `${what}, ${mm(x)} mm from the left, ${mm(y)} mm from the top`,
  keys: 'Drag it, or move it with the arrow keys: a millimetre at a time, with Shift a tenth.',
  resize: (what: string) => `Make ${what} wider or narrower`,
} as const;
