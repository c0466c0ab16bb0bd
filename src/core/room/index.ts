export * from './room';
export * from './writing';
export * from './figures';
