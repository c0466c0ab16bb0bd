import { endpoint } from '@/server/gate/endpoint';
import { makeVacancy } from '@/server/vacancies/vacancies';

/** Begins a vacancy on a page. */
export const POST = endpoint('POST /api/vacancies', {
  needs: 'vacancy.create',
  on: 'placeForNew',
  run: ({ tx, access, body }) => makeVacancy(tx, access, Number(body.page), body.title),
});
