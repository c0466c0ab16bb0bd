export * from './inWords';
export * from './kept';
export * from './rules';
export * from './when';
