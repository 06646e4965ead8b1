export type { Caution, Finding } from './finding';
export { sayCaution, sayFinding } from './wording';
