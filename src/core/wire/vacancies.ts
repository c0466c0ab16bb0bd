import { z } from 'zod';
import type { Contract } from './parts';

export const vacancyRoutes = {
  'POST /api/vacancies': {
    body: z.strictObject({
      title: z.string().trim().min(1, 'Say which job it is.').max(120, 'The job can have 120 characters.'),
      page: z.string().regex(/^\d{1,9}$/, 'Choose the page it belongs to.'),
    }),
    answer: z.object({ id: z.string() }),
  },
} as const satisfies Record<string, Contract>;
