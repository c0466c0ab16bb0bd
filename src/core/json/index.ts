export * from './canonical';
export * from './faults';
