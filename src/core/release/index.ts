export * from './differences';
export * from './words';
export * from './impact';
export * from './usage';
