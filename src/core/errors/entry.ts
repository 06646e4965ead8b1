import type { Problem, ProblemCode } from './problems';

/** HTTP status and wording of a problem. */
export type Entry<C extends ProblemCode> = { status: number; say: (data: Extract<Problem, { code: C }>) => string };

export const megabytes = (bytes: number) =>
  bytes < 1e6 ? `${Math.round(bytes / 1e3)} KB` : `${Math.round(bytes / 1e6)} MB`;
