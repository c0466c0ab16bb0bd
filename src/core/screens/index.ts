export * from './schema';
export * from './resolve';
export * from './elements';
