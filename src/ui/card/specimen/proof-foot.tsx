import { sayCaution, sayFinding } from '@/core/findings';
import { CARD } from '@/core/words';
import type { Proof } from '@/core/proof';

/** The proof at the specimen's foot: the finding first, the worst check before the others. */
export function ProofFoot({ proof }: { proof: Proof | null }) {
  return (
    <div className="proof">
      {proof ? (
        <p>
          {/* The verdict is announced; its details are read on request. */}
          <strong role="status" className={proof.passed ? 'passed' : 'failed'}>
            <span aria-hidden="true">{proof.passed ? '✓' : '✕'}</span> {proof.passed ? CARD.proven : CARD.proofFails}
          </strong>{' '}
          {proof.checks.map((check) => sayFinding(check.finding)).join(' ')}
        </p>
      ) : (
        <p>{CARD.readingBack}</p>
      )}
      {proof && proof.cautions.length > 0 && (
        <details>
          <summary>{CARD.cautions(proof.cautions.length)}</summary>
          <ul>
            {proof.cautions.map((caution) => (
              <li key={caution.code}>{sayCaution(caution).sentence}</li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}
