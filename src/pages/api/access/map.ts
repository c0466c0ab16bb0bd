import { loadSurvey, mapRows, permissionIdsOf, readAsked } from '@/server/access/survey';
import { writeCsv } from '@/server/csv';
import { endpoint } from '@/server/gate/endpoint';

/** The access map as CSV: `?branch=&rows=&plan=`. */
export const GET = endpoint('GET /api/access/map', {
  needs: 'plan.view',
  run: async ({ tx, access, query }) => {
    const asked = readAsked(query);
    const rows = mapRows(await loadSurvey(tx, access, asked), asked.branch);
    const text = writeCsv([
      [asked.rows === 'people' ? 'person' : 'role', 'id', ...permissionIdsOf(access.inventory)],
      ...rows.map((row) => [row.name, row.id, ...row.cells]),
    ]);
    return new Response(text, {
      headers: {
        'content-type': 'text/csv; charset=utf-8',
        'content-disposition': 'attachment; filename="access-map.csv"',
        'cache-control': 'no-store',
      },
    });
  },
});
