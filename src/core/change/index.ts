export * from './change';
export { ChangeManySchema, ChangeSchema } from './schema';
