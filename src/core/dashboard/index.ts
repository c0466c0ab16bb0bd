export * from './board';
export * from './join';
export * from './own';
