export * from './media';
export * from './items';
export * from './desk';
export * from './account';
export * from './plan';
export * from './log';
export { accounts, people, releases, sites } from './site';
