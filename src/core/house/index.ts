export * from './dress';
export * from './locks';
export * from './style';
