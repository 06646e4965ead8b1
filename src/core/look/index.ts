export * from './contrast';
export * from './families';
export * from './judged';
export * from './layouts';
export * from './look';
export * from './maps';
export * from './palette';
