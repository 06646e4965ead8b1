export { err, ok, orRefuse, isTransient, Refusal, type Problem, type ProblemCode, type Result } from './problems';
export { type PasswordWeakness } from './weakness';
export { statusOf, wordingOf } from './wording';
