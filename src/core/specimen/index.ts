// Proving brings readers of its own along: `prove.ts` is imported by the web worker alone.
export { specimenCode, specimenPage, specimenTag, type Hold, type SpecimenOf } from './specimen';
