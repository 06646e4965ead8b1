export {
  carriedInCode,
  carriedOn,
  publishedBy,
  publishedByHouse,
  SOURCES,
  type Carried,
  type Published,
  type Source,
} from './carried';
export { normalised, sought, valueShown, type Value, type ValueKind } from './value';
