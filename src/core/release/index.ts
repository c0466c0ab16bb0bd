export * from './differences';
