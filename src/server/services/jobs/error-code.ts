import { Refusal } from '@/core/errors';

/** What may be told of an error: the code of a problem, the database's or the system's own code, or the error's name; never its text. */
export function codeOfError(error: unknown): string {
  if (error instanceof Refusal) return error.problem.code;
  const { code, name } = (error ?? {}) as { code?: unknown; name?: unknown };
  return String(typeof code === 'string' && code ? code : (name ?? 'unknown')).slice(0, 60);
}
