export * from './review';
