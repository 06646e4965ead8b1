import { wordingOf, type Problem } from '@/core/errors';

/** What a field wears while something is wrong with it, tied to the note that says what (WCAG 2.2, 3.3.1): the note's id is `id`. */
export const invalid = (id: string, wrong: boolean) => ({
  isInvalid: wrong,
  'aria-invalid': wrong,
  'aria-describedby': wrong ? id : undefined,
});

/** An error beside its cause. `id` lets a field name it as its description. */
export function ProblemNote({ problem, id }: { problem: Problem | null; id?: string }) {
  if (!problem) return null;
  return (
    <p className="problem" role="alert" id={id}>
      {wordingOf(problem)}
    </p>
  );
}
