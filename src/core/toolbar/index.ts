export * from './constructs';
export * from './resolve';
export * from './bundle';
