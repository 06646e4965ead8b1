/**
 * One measured check of what was really produced. `finding` is the sentence a person reads; figures behind it. A note
 * tells of something that the version or the reader cannot do, and fails nothing.
 */
export type Check = { name: string; passed: boolean; finding: string; note?: true };

/** A family of address books that treats something in the file in its own way, and where that is known from. */
export type Warning = { family: string; finding: string; source: string };

/** The measured checks of one output, the worst first. */
export type Proof = { passed: boolean; checks: Check[]; warnings: Warning[] };

export const proofOf = (checks: Check[], warnings: Warning[] = []): Proof => ({
  passed: checks.every((check) => check.passed),
  checks: [...checks].sort((a, b) => rank(a) - rank(b)),
  warnings,
});

const rank = (check: Check): number => (check.passed ? (check.note ? 2 : 1) : 0);
