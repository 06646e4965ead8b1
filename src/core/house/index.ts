export * from './dress';
export * from './locks';
export * from './owners';
export * from './style';
export { HouseStyleSchema } from './schema';
