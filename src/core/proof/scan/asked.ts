import type { CodeStyle, Level } from '@/core/qr';
import type { ScanProof } from './shape';
import type { CodeReport, Tested } from './report';

/** A code to be proven; with `fixed` it is redrawn as it was. `part` of `parts` of the full proof; without them the quick one, and with `remedy` what helps. */
export type CodeAsked = {
  at: number;
  text: string;
  style: CodeStyle;
  fixed?: { version: number; level: Level; mask: number };
} & ({ parts: number; part: number } | { parts?: undefined; remedy: boolean });

export type CodeTold =
  | { at: number; report: CodeReport }
  | { at: number; remedy: Tested | null }
  | { at: number; done: number; of: number }
  | { at: number; full: ScanProof }
  | { at: number; tooLong: true };
