export * from './canonical';
export * from './faults';
export * from './strict';
