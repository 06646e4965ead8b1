import type { FaceItem } from './face';

type Size = { width: number; height: number };

/** A logo as large as it fits into so much height and width, at its own proportions. */
export function logoWithin({ width, height }: Size, high: number, wide: number): Size {
  const share = Math.min(high / height, wide / width);
  return { width: width * share, height: height * share };
}

/** A logo, on its plate where it needs one: within that it keeps a rim of a tenth. */
export function drawnLogo(box: Size & { x: number; y: number }, plate: string | null | undefined): FaceItem[] {
  if (!plate) return [{ kind: 'picture', which: 'logo', ...box, shape: 'whole' }];
  const rim = box.height / 10;
  const inner = { x: box.x + rim, y: box.y + rim, width: box.width - 2 * rim, height: box.height - 2 * rim };
  return [
    { kind: 'sheet', ...box, colour: plate },
    { kind: 'picture', which: 'logo', ...inner, shape: 'whole' },
  ];
}
