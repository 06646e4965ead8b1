import type { Caution, Finding } from '@/core/findings';

/**
 * One measured check of what was really produced, and what it found. A note tells of something that the version or the reader cannot
 * do, and fails nothing.
 */
export type Check = { name: string; passed: boolean; finding: Finding; note?: true };

/** The measured checks of one output, the worst first. */
export type Proof = { passed: boolean; checks: Check[]; cautions: Caution[] };

export const proofOf = (checks: Check[], cautions: Caution[] = []): Proof => ({
  passed: checks.every((check) => check.passed),
  checks: [...checks].sort((a, b) => rank(a) - rank(b)),
  cautions,
});

const rank = (check: Check): number => (check.passed ? (check.note ? 2 : 1) : 0);
