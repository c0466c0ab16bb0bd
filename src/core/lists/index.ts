export * from './pageList';
