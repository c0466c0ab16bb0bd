export * from './differences';
export * from './words';
export type { Effect } from './effects';
export * from './impact';
export * from './usage';
