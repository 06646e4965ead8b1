export * from './dress';
export * from './locks';
export * from './owned-kinds';
export * from './owners';
export * from './style';
export { HouseStyleSchema } from './schema';
