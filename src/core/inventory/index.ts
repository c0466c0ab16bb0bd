export * from './types';
export * from './inventory';
