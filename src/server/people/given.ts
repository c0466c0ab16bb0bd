import { z } from 'zod';

const day = z.string().regex(/^\d{4}-\d\d-\d\d$/, 'Write the day like 2026-11-25.').optional();

/** Assignments as forms send them. */
export const assignmentsSchema = z.array(z.strictObject({ role: z.string().min(1, 'Choose a role.').max(80), branch: z.string().regex(/^\d{1,9}$/).optional(), from: day, until: day })).max(30, 'Nobody needs more than 30 roles.');
