export * from './dress';
export * from './locks';
export * from './style';
export { HouseStyleSchema } from './schema';
