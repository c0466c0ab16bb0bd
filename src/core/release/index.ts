export * from './differences';
export * from './words';
export * from './impact';
