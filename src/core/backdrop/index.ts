export { layBackdrop, type BackdropOrder } from './lay';
export * from './spec';
