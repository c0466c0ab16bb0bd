export type { KnownSpots, Named, PlaceNames } from './condition';
export { CONDITIONS } from './conditions';
export { WEEKDAYS } from './conditions/days';
export * from './inWords';
export * from './kept';
export * from './rules';
export type { Spot } from './spot';
export * from './when';
