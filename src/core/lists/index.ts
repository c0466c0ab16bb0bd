export * from './filter';
export * from './pageList';
