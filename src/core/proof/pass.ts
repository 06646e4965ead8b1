import { squeeze, type Composition } from '@/core/card';
import { found, linesWanted, untickedIn } from './print';
import { proofOf, type Proof } from './proof';

/** A pass as it was read back from its bytes: the names in it, those whose digest is not the manifest's, what its signature tells, and `pass.json`. */
export type ReadPass = {
  names: string[];
  wrong: string[];
  signature: { fits: boolean; chained: boolean; from: string; until: string; passType: string; team: string };
  pass: Record<string, unknown>;
};

type Held = {
  composition: Composition;
  withheld: string[];
  link: string;
  passType: string;
  team: string;
  /** Whether the card behind it is out no more. */
  voided: boolean;
  /** Milliseconds, UTC. */
  now: number;
  bytes: number;
};

/** A certificate that ends so soon is told of, in milliseconds. */
const SOON_MS = 30 * 86_400_000;
/** Pictures without which a phone opens no pass. */
const NEEDED = ['pass.json', 'icon.png', 'icon@2x.png'];

type Field = { label?: string; value?: unknown };

function textOf(pass: Record<string, unknown>): string {
  const { generic = {} } = pass as { generic?: Record<string, Field[]> };
  const fields = Object.values(generic).flat();
  return squeeze(fields.flatMap(({ label, value }) => [label ?? '', String(value ?? '')]).join('\n'));
}

/**
 * The proof of a pass from its bytes: every file is the one that was signed, by a certificate that holds today and is for this kind of pass; its code
 * holds the living link; it says every ticked line and no other.
 */
export function provePass(read: ReadPass, held: Held): Proof {
  const { signature, pass, names, wrong } = read;
  const said = textOf(pass);
  const until = Date.parse(signature.until);
  const holds = Date.parse(signature.from) <= held.now && held.now < until;
  const known = signature.passType === pass.passTypeIdentifier && signature.team === pass.teamIdentifier;
  const codes = (pass.barcodes ?? []) as { message?: unknown }[];
  const right = held.voided ? codes.length === 0 : codes.length === 1 && codes[0]!.message === held.link;
  const missing = NEEDED.filter((name) => !names.includes(name));
  return proofOf([
    {
      name: 'files',
      passed: wrong.length === 0 && missing.length === 0,
      finding: { code: 'PASS_FILES', files: names.length, wrong: [...wrong, ...missing] },
    },
    {
      name: 'signature',
      passed: signature.fits && signature.chained && known && holds,
      finding: {
        code: 'PASS_SIGNED',
        ...{ fits: signature.fits && signature.chained, known, holds, until: signature.until.slice(0, 10) },
      },
      ...(holds && until - held.now < SOON_MS ? { note: true as const } : {}),
    },
    { name: 'code', passed: right, finding: { code: 'PASS_CODE', right, voided: held.voided } },
    found('ON_PAPER', linesWanted(held.composition, 'pass'), said),
    untickedIn(said, held.withheld),
    { name: 'size', passed: true, finding: { code: 'SIZE', bytes: held.bytes, photo: 0 } },
  ]);
}
