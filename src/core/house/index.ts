export * from './dress';
export * from './locks';
export * from './office';
export * from './owned-kinds';
export * from './owners';
export * from './style';
export { HouseStyleSchema, OfficeLinesSchema, OfficeSchema } from './schema';
