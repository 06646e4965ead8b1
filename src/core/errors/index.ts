export { bad, good, orRefuse, isPassing, Refusal, type Problem, type ProblemCode, type Result } from './problems';
export { statusOf, wordingOf } from './wording';
