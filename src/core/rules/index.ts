export * from './inWords';
export * from './rules';
