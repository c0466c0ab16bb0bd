import { z } from 'zod';

const id = z.string().min(1);

/** Where a rule holds: everything that is named must hold together, what is left out holds always. */
export const whenSchema = z.strictObject({
  /** Any of these roles, or one that extends one of them. */
  roles: z.array(id).optional(),
  /** A page and all below it. */
  branch: id.optional(),
  layouts: z.array(id).optional(),
  fields: z.array(id).optional(),
  states: z.array(id).optional(),
});
export type When = z.infer<typeof whenSchema>;
