export * from './tour';
