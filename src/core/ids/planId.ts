import { z } from 'zod';

/** What entries of a plan are called among themselves. */
export const planIdSchema = z
  .string()
  .min(1)
  .max(80)
  .regex(/^[a-z0-9][a-zA-Z0-9._-]*$/, 'letters, digits, dots and dashes only');
