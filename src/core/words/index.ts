export * from './dates';
export * from './fold';
export * from './list';
