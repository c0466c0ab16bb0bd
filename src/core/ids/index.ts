import { z } from 'zod';

/** What entries of a plan are called among themselves. */
export const idSchema = z
  .string()
  .min(1)
  .max(80)
  .regex(/^[a-z0-9][a-zA-Z0-9._-]*$/, 'letters, digits, dots and dashes only');

/** An id that none has, as near to a wish as can be. */
export const freeId = (taken: readonly { id: string }[], wish: string): string => {
  let id = wish.slice(0, 70);
  for (let n = 2; taken.some((one) => one.id === id); n++) id = `${wish.slice(0, 70)}-${n}`;
  return id;
};
