export { proveCode } from './code';
export { proveContactFile } from './contact-file';
export { firstFailing, outputProofs, type FailedCheck, type Outputs } from './outputs';
export { CONTRAST, ONE_ROUND_TRIP } from './page';
export { provePage } from './prove-page';
export type { Check, Proof, Warning } from './proof';
export { proveTag } from './tag';
