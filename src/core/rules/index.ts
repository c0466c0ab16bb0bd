export type { Name, Named, PlaceNames } from './condition';
export * from './inWords';
export * from './kept';
export * from './rules';
export type { Spot } from './spot';
export * from './when';
