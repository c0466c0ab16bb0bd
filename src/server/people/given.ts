import { z } from 'zod';

const day = z
  .string()
  .regex(/^\d{4}-\d\d-\d\d$/, 'Write the day like 2026-11-25.')
  .optional();

export const assignmentSchema = z.strictObject({
  role: z.string().min(1, 'Choose a role.').max(80),
  branch: z
    .string()
    .regex(/^\d{1,9}$/)
    .optional(),
  from: day,
  until: day,
});
/** Assignments as forms send them. */
export const assignmentsSchema = z.array(assignmentSchema).max(30, 'Nobody needs more than 30 roles.');

export const nameSchema = z.string().trim().min(1, 'Say who it is.').max(300);
export const emailSchema = z.email('Write a mail address, like ines@example.org.').max(300);
