export * from './dates';
export * from './fold';
