import type { CodeStyle, Cost, FinderShape, Gradient, ModuleShape } from '@/core/qr';
import type { Fault, Remedy, Repair, TrialKind } from '@/core/proof/scan';
import { figure } from '@/core/language';

const FAULTS: Record<Fault, string> = {
  'not read': 'No reader reads it.',
  misread: 'A reader read something else in it.',
  inverted: 'It is light on dark; most phones read dark on light alone.',
  finder: 'A corner square is damaged: a part of it is light that has to be dark, or the other way round.',
  contrast: 'Its dark and light parts stand too near each other for poor light.',
  margin: 'The white margin around it is too narrow: four of its squares are needed on every side.',
  'reads too little': 'It is not read often enough in poor light, out of focus, at an angle or from far away.',
};

const REMEDIES: Record<Remedy | 'plain', string> = {
  'white ground': 'Put it on white',
  'darken finders': 'Darken the corner squares',
  'darken gradient': 'Darken the pale end of the gradient',
  'darken ink': 'Darken the ink',
  'larger dots': 'Make the dots larger',
  'smaller mark': 'Make the logo smaller',
  'square finders': 'Make the corner squares square',
  'whole squares': 'Draw whole squares',
  'no gradient': 'Use one colour',
  'no mark': 'Leave the logo out',
  plain: 'Draw it plain, black on white',
};

const REPAIRS: Record<Repair['repair'], string> = {
  'add margin': 'Leave a white margin of four of its squares on every side',
  'turn over': 'Print it dark on light',
  'raise contrast': 'Print it darker on a lighter ground',
  'darken finders': 'Draw the corner squares whole and dark',
  'draw anew': 'Draw the code anew, dark on white',
};

const became = (change: string, { before, after, of }: { before: number; after: number; of: number }) =>
  `${change}: ${before} of ${of} become ${after}.`;

const millimetres = (mm: number) => `${figure(Math.round(mm))} mm`;
const distance = (mm: number) => (mm < 1_000 ? `${Math.round(mm / 10)} cm` : `${(mm / 1_000).toFixed(1)} m`);

/** Codes: their style, their proof, and what goes out. */
export const CODES = {
  faults: FAULTS,
  remedy: (remedy: Remedy | 'plain') => REMEDIES[remedy],
  remedied: (tested: { remedy: Remedy | 'plain'; before: number; after: number; of: number }) =>
    became(REMEDIES[tested.remedy], tested),
  repaired: (tested: Repair) => became(REPAIRS[tested.repair], tested),
  scansAt: (widthMm: number, distanceMm: number) =>
    `Scans at ${millimetres(widthMm)} from about ${distance(distanceMm)}.`,
  tooSmall: (widthMm: number, smallestMm: number) =>
    `Too small at ${millimetres(widthMm)}: print it at ${millimetres(smallestMm)} or more.`,
  doesNotScan: 'Does not scan reliably: do not print it like this.',
  pass: 'A pass means: each main reader read at least 22 of 24 trial pictures, dark and light are at least 100 grey levels apart, the white margin is four squares wide, and it is dark on light.',
  readBy: (name: string, read: number, of: number) => `${name} ${read} of ${of}`,
  kinds: {
    sharp: 'Sharp',
    'out of focus': 'Out of focus',
    dim: 'Dim light',
    'at an angle': 'At an angle',
    'glare and grain': 'Glare, grain',
    far: 'Far away',
  } satisfies Record<TrialKind, string>,
  costs: {
    nothing: 'Costs nothing',
    harder: 'Makes scanning harder',
    risky: 'Risky',
  } satisfies Record<Cost, string>,
  parts: {
    ink: 'Ink',
    ground: 'Printed on',
    finders: 'Corner squares’ colour',
    gradient: 'Gradient',
    modules: 'Dots',
    fill: 'Size of dots',
    finderShape: 'Corner squares',
    mark: 'Logo in the middle',
    words: 'Words below',
  } satisfies Record<keyof CodeStyle, string>,
  modules: { squares: 'squares', tiles: 'tiles', dots: 'round', soft: 'soft' } satisfies Record<ModuleShape, string>,
  finderShapes: { square: 'square', soft: 'soft', round: 'round' } satisfies Record<FinderShape, string>,
  ways: { down: 'downwards', across: 'across', outwards: 'outwards' } satisfies Record<Gradient['way'], string>,
};
