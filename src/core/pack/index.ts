export * from './manifest';
export * from './naming';
export { PackSchema, type PackWanted } from './schema';
