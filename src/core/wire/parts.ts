import { z } from 'zod';

/** Number of a row, as bodies name one. */
export const idSchema = z.int().min(1).max(2_147_483_647);
/** Number of a page, as forms send it. */
export const pageIdSchema = z.string().regex(/^\d{1,9}$/);
/** A version that guards against overwriting; 0 where nothing was written yet. */
export const versionSchema = z.int().min(0).max(2_147_483_647);

/** What one request asks and what it is answered; no answer: only that it was done. */
export interface Contract {
  /** Whether its body may be as long as texts are. */
  large?: true;
  body?: z.ZodType;
  answer?: z.ZodType;
}
