export * from './inWords';
export * from './kept';
export * from './rules';
