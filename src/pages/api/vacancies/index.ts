import { z } from 'zod';
import { endpoint } from '@/server/gate/endpoint';
import { makeVacancy } from '@/server/vacancies/vacancies';

/** Begins a vacancy on a page. */
export const POST = endpoint({
  needs: 'vacancy.create',
  on: 'placeForNew',
  body: z.strictObject({
    title: z.string().trim().min(1, 'Say which job it is.').max(120, 'The job can have 120 characters.'),
    page: z.string().regex(/^\d{1,9}$/, 'Choose the page it belongs to.'),
  }),
  run: ({ tx, access, body }) => makeVacancy(tx, access, Number(body.page), body.title),
});
