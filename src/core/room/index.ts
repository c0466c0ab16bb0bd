export * from './asker';
export * from './room';
export * from './screens';
export * from './writing';
export * from './figures';
export * from './deed';
