export * from './find';
export * from './entries';
export { SYNONYMS } from './synonyms';
