export { changesSince, type Change } from './changes';
export { compareCompositions, type ComparedRow } from './comparison';
export { restoredDraft } from './restore';
