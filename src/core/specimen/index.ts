// What carries a contact brings its writer along (`carried.ts`), proving its readers (`prove.ts`): each is imported where it is needed.
export { languageOf, specimenPage, type Hold, type SpecimenOf } from './page';
