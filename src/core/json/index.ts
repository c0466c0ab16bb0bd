export * from './canonical';
export * from './faults';
export * from './same';
export * from './strict';
