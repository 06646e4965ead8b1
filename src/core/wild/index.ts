export {
  carriedInCode,
  carriedOn,
  publishedBy,
  publishedByHouse,
  type Carried,
  type Published,
  type Source,
} from './carried';
export { exposureOf, noLongerSaid, type GivenOut, type PassedOn } from './exposed';
export { sought, valueShown, type Value, type ValueKind } from './value';
