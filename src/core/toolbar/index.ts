export * from './constructs';
