export { proveContactFile } from './contact-file';
export { proveFrozenContact } from './frozen-contact';
export { leakedIn } from './leaked';
export { firstFailing, type FailedCheck, type Outputs } from './outputs';
export { CONTRAST, ONE_ROUND_TRIP } from './page';
export { provePage } from './prove-page';
export type { Check, Proof } from './proof';
