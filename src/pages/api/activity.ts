import { listActivity } from '@/server/activity/activity';
import { readActivityFilter } from '@/server/activity/filter';
import { writeCsv } from '@/server/csv';
import { endpoint } from '@/server/gate/endpoint';

const MOST = 100_000;

/** The activity as CSV, cut down as the screen is: `?q=&who=&what=&from=&until=`. */
export const GET = endpoint('GET /api/activity', {
  needs: 'activity.view',
  run: async ({ tx, access, query }) => {
    const lines = await listActivity(tx, access.site.id, MOST, readActivityFilter(query, access.site.timeZone));
    const text = writeCsv([
      ['at', 'who', 'did', 'what', 'details'],
      ...lines.map((line) => [line.at.toISOString(), line.who, line.action, line.subject, line.detail]),
    ]);
    return new Response(text, {
      headers: {
        'content-type': 'text/csv; charset=utf-8',
        'content-disposition': 'attachment; filename="activity.csv"',
        'cache-control': 'no-store',
      },
    });
  },
});
