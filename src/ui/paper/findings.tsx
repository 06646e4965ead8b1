import type { Leaving } from '@/core/card';
import { sayFinding } from '@/core/findings';
import type { Proof } from '@/core/proof';
import { PAPER } from '@/core/words';

const tone = (passed: boolean): string => (passed ? 'passed' : 'failed');
const MARK = { passed: '✓', failed: '✕' } as const;
const mark = (passed: boolean) => (passed ? MARK.passed : MARK.failed);

type Props = { proof: Proof; passed: string; leaving: Leaving[]; leavingWord: string };

/** What a proof says first: that all is well, or the first of what is not; below it what is private and leaves. */
export function FirstFinding({ proof, passed, leaving, leavingWord }: Props) {
  const failed = proof.checks.find((check) => !check.passed);
  const small = proof.checks.find(({ note }) => note);
  return (
    <>
      <p className={`first-finding ${tone(!failed)}`} role="status">
        <span aria-hidden="true">{mark(!failed)}</span> {failed ? sayFinding(failed.finding) : passed}
      </p>
      {!failed && small && <p className="attention">{sayFinding(small.finding)}</p>}
      {leaving.length > 0 && (
        <p className="attention">
          {leavingWord} {leaving.map(({ title, value }) => `${title} ${value}`).join(' · ')}
        </p>
      )}
    </>
  );
}

/** Everything that a proof measured. */
export function Measured({ proof }: { proof: Proof }) {
  return (
    <details>
      <summary>{PAPER.proof}</summary>
      <ul className="paper-checks">
        {proof.checks.map(({ name, passed, note, finding }, at) => (
          <li key={`${name} ${at}`} className={passed && note ? 'attention' : tone(passed)}>
            <span aria-hidden="true">{passed && note ? '!' : mark(passed)}</span> {sayFinding(finding)}
          </li>
        ))}
      </ul>
    </details>
  );
}
