import { wordingOf, type Problem } from '@/core/errors';

/** An error beside its cause. `id` lets a field name it as its description. */
export function ProblemNote({ problem, id }: { problem: Problem | null; id?: string }) {
  if (!problem) return null;
  return (
    <p className="problem" role="alert" id={id}>
      {wordingOf(problem)}
    </p>
  );
}
