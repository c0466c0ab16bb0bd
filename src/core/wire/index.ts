export * from './refusals';
