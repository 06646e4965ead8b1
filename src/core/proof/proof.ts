/** One measured check of what was really produced. `finding` is the sentence a person reads; figures behind it. */
export type Check = { name: string; passed: boolean; finding: string };

/** The measured checks of one output, the worst first. */
export type Proof = { passed: boolean; checks: Check[] };

export const proofOf = (checks: Check[]): Proof => ({
  passed: checks.every((check) => check.passed),
  checks: [...checks].sort((a, b) => Number(a.passed) - Number(b.passed)),
});
