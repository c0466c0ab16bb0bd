export { planIdSchema } from './planId';
export { freeId } from './freeId';
