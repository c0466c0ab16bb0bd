export { linkKindOf } from './made';
export * from './accept';
export * from './hands';
export * from './paste';
export * from './question';
export * from './resolve';
export * from './bundle';
