import { TEN_TO_ONE } from '@/core/qr';
import { blurred, greyPicture, mapped, projection, shrunk, warped, type Grey } from './grey';
import { throughJpeg } from './jpeg';
import { TRIAL_KINDS, type TrialKind } from './shape';

/** One way in which a camera may see a code. Lengths are in modules where not said otherwise. */
export type Trial = {
  kind: TrialKind;
  /** Pixels a module that the picture would have; made less where it would be too large. */
  scale: number;
  /** Standard deviation of the blur. */
  blur?: number;
  /** Share of the contrast that is left, and the level of the dark end, 0 to 255. */
  contrast?: number;
  dark?: number;
  /** Degrees: turned in the picture's plane, tilted away from the camera. */
  turn?: number;
  tilt?: number;
  /** Standard deviation of the grain in grey levels; quality of JPEG. */
  grain?: number;
  jpeg?: number;
  /** Share of the code's width that a bright spot covers, and where it stands, as shares of the sides. */
  glare?: { size: number; x: number; y: number };
  /** Where its grain begins, so that a picture is the same at every run. */
  seed: number;
};

type Unseeded = Omit<Trial, 'seed'>;
const seeded = (trials: readonly Unseeded[]): Trial[] => trials.map((trial, at) => ({ ...trial, seed: at + 1 }));

/** The code to be tried: its picture, margin in, at so many pixels a module; `side` is its width in modules. */
export type Base = { picture: Grey; perModule: number; side: number };

/** The quick proof: 24 pictures, four of each kind (the proof's own choice; the limits of readers are those measured in `checks.md`). */
export const QUICK: readonly Trial[] = seeded([
  { kind: 'sharp', scale: 2.6 },
  { kind: 'sharp', scale: 3.4 },
  { kind: 'sharp', scale: 4.7 },
  { kind: 'sharp', scale: 7 },
  { kind: 'out of focus', scale: 4, blur: 0.3 },
  { kind: 'out of focus', scale: 5.5, blur: 0.36 },
  { kind: 'out of focus', scale: 3.3, blur: 0.38 },
  { kind: 'out of focus', scale: 6.3, blur: 0.42 },
  { kind: 'dim', scale: 4, contrast: 0.55, dark: 20 },
  { kind: 'dim', scale: 5, contrast: 0.4, dark: 30, blur: 0.2 },
  { kind: 'dim', scale: 6, contrast: 0.35, dark: 60, grain: 3 },
  { kind: 'dim', scale: 3.6, contrast: 0.45, dark: 10, grain: 3 },
  { kind: 'at an angle', scale: 5, tilt: 20 },
  { kind: 'at an angle', scale: 6, tilt: 22, turn: 12, blur: 0.15 },
  { kind: 'at an angle', scale: 4.4, turn: 33 },
  { kind: 'at an angle', scale: 5.4, turn: 90, tilt: 18, grain: 4 },
  { kind: 'glare and grain', scale: 5, glare: { size: 0.24, x: 0.62, y: 0.44 } },
  { kind: 'glare and grain', scale: 4.2, grain: 22 },
  { kind: 'glare and grain', scale: 5.6, grain: 12, glare: { size: 0.2, x: 0.44, y: 0.62 }, contrast: 0.8 },
  { kind: 'glare and grain', scale: 4.8, jpeg: 30, blur: 0.2 },
  { kind: 'far', scale: 2.6, blur: 0.25 },
  { kind: 'far', scale: 2.8, blur: 0.28, grain: 5 },
  { kind: 'far', scale: 3, blur: 0.3, jpeg: 60, contrast: 0.8 },
  { kind: 'far', scale: 3.2, blur: 0.34, tilt: 15, contrast: 0.7 },
]);

/** A sequence that is the same at every run (Park and Miller's generator), between 0 and 1. */
export function chanceFrom(seed: number): () => number {
  let state = (Math.abs(Math.trunc(seed)) % 2_147_483_646) + 1;
  return () => {
    state = (state * 48_271) % 2_147_483_647;
    return state / 2_147_483_647;
  };
}

/** How many pictures the full proof makes. */
export const FULL_TRIALS = 200;

/** The full proof: the same kinds, each drawn at random within what the quick proof asks; the same at every run. */
export function fullTrials(): Trial[] {
  const random = chanceFrom(20_260_711);
  const between = (least: number, most: number) => least + random() * (most - least);
  const trials = Array.from({ length: FULL_TRIALS }, (_, at): Unseeded => {
    const kind = TRIAL_KINDS[at % TRIAL_KINDS.length]!;
    switch (kind) {
      case 'sharp':
        return { kind, scale: between(2.5, 7) };
      case 'out of focus':
        return { kind, scale: between(3.2, 6.5), blur: between(0.25, 0.42) };
      case 'dim':
        return {
          ...{ kind, scale: between(3.5, 6.5), contrast: between(0.35, 0.6), dark: between(5, 60) },
          ...{ grain: between(0, 3), blur: between(0, 0.2) },
        };
      case 'at an angle':
        return { kind, scale: between(4.4, 6.5), tilt: between(5, 32), turn: between(0, 360), grain: between(0, 4) };
      case 'glare and grain':
        return {
          ...{ kind, scale: between(4.2, 6), grain: between(4, 18), jpeg: between(35, 90) },
          glare: { size: between(0.1, 0.24), x: between(0.4, 0.65), y: between(0.4, 0.65) },
        };
      case 'far':
        return { kind, scale: between(2.6, 3.2), blur: between(0.2, 0.32), grain: between(0, 5) };
    }
  });
  return seeded(trials);
}

/** A background around a tilted code, as a sheet has it. */
const AROUND = 1.12;

/** Where the corners of a square of width 1 are seen that is turned and tilted before a camera: as far away as a code is said to be read from at most. */
function seenAt({ turn = 0, tilt = 0 }: Unseeded): [number, number][] {
  const [a, b] = [(turn * Math.PI) / 180, (tilt * Math.PI) / 180];
  const far = TEN_TO_ONE;
  return [
    [-0.5, -0.5],
    [0.5, -0.5],
    [0.5, 0.5],
    [-0.5, 0.5],
  ].map(([x, y]): [number, number] => {
    const [along, down] = [x! * Math.cos(a) - y! * Math.sin(a), x! * Math.sin(a) + y! * Math.cos(a)];
    const depth = far + down * Math.sin(b);
    return [(along * far) / depth, (down * Math.cos(b) * far) / depth];
  });
}

/** How much larger a picture is that holds such a code, by the code's width. */
const reachOf = (trial: Unseeded): number => 2 * Math.max(...seenAt(trial).flat().map(Math.abs)) * AROUND;

/** The picture of a turned and tilted code; it grows around the code, which keeps its size. */
function angled(flat: Grey, trial: Unseeded, ground: number): Grey {
  const { width, height } = flat;
  const side = Math.ceil(reachOf(trial) * Math.max(width, height));
  const corners = seenAt(trial).map(([x, y]): [number, number] => [side / 2 + x * width, side / 2 + y * height]);
  const flatCorners: [number, number][] = [
    [0, 0],
    [width, 0],
    [width, height],
    [0, height],
  ];
  return warped(flat, projection(corners, flatCorners), side, side, ground);
}

/** Grains of a normal distribution with deviation 1 (sum of four even ones), drawn once: pictures begin at places of their own. */
const GRAINS = (() => {
  const random = chanceFrom(1_927);
  return Float32Array.from({ length: 16_384 }, () => (random() + random() + random() + random() - 2) * Math.sqrt(3));
})();

function grained(picture: Grey, deviation: number, random: () => number): Grey {
  const made = greyPicture(picture.width, picture.height);
  // Each row begins elsewhere, so that no pattern comes back.
  for (let y = 0, at = 0; y < picture.height; y += 1) {
    let grain = Math.floor(random() * GRAINS.length);
    for (let x = 0; x < picture.width; x += 1, at += 1, grain = (grain + 1) & (GRAINS.length - 1)) {
      const level = picture.data[at]! + GRAINS[grain]! * deviation;
      made.data[at] = level < 0 ? 0 : level > 255 ? 255 : level;
    }
  }
  return made;
}

/** A lamp's reflection: bright in its middle, gone at its edge. */
function withGlare(picture: Grey, { size, x, y }: NonNullable<Trial['glare']>): Grey {
  const made = { ...picture, data: Uint8Array.from(picture.data) };
  const radius = (size * picture.width) / 2;
  const [left, top] = [x * picture.width, y * picture.height];
  for (let row = Math.max(0, Math.floor(top - radius)); row < Math.min(picture.height, top + radius); row += 1)
    for (
      let column = Math.max(0, Math.floor(left - radius));
      column < Math.min(picture.width, left + radius);
      column += 1
    ) {
      const distance = Math.hypot(column - left, row - top) / radius;
      if (distance >= 1) continue;
      const strength = 0.75 * (1 - distance * distance);
      const at = row * picture.width + column;
      made.data[at] = made.data[at]! + (255 - made.data[at]!) * strength;
    }
  return made;
}

/** The light of a sheet, by which what a trial leaves free is filled. */
const groundOf = ({ picture }: Base): number => picture.data[0]!;

/**
 * The picture of one trial, at most `most` pixels a side; a code of so many modules that it would not have 2.6 pixels each is given them.
 */
export function trialPicture(base: Base, trial: Trial, most: number): Grey {
  const { picture, side } = base;
  const isAngled = Boolean(trial.turn || trial.tilt);
  const room = Math.max(most / (isAngled ? reachOf(trial) : 1), side * 2.6);
  const scale = Math.min(trial.scale, room / side, base.perModule);
  const width = Math.max(1, Math.round(side * scale));
  const random = chanceFrom(trial.seed * 7_919 + 17);
  let made = shrunk(picture, width, Math.max(1, Math.round((picture.height * width) / picture.width)));
  if (trial.blur) made = blurred(made, trial.blur * scale);
  if (isAngled) made = angled(made, trial, groundOf(base));
  if (trial.contrast !== undefined) {
    const { contrast, dark = 0 } = trial;
    made = mapped(made, (level) => dark + level * contrast);
  }
  if (trial.glare) made = withGlare(made, trial.glare);
  if (trial.grain) made = grained(made, trial.grain, random);
  if (trial.jpeg) made = throughJpeg(made, trial.jpeg);
  return made;
}
