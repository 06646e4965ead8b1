export { proveContactFile } from './contact-file';
export { ONE_ROUND_TRIP, provePage } from './page';
export type { Check, Proof, Warning } from './proof';
