export * from './review';
export * from './verdict';
