export * from './room';
export * from './figures';
