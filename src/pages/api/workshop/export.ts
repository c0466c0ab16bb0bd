import { endpoint } from '@/server/gate/endpoint';
import { EXPORTS, exportPlan } from '@/server/plan/files';

/** The plan as a file: `?as=json|csv|bundle|schema|bundle-schema`, and `&live` for the one in force. */
export const GET = endpoint('GET /api/workshop/export', {
  needs: 'plan.view',
  run: async ({ tx, access, query }) => {
    const asked = query;
    const file = await exportPlan(
      tx,
      access.site,
      EXPORTS.find((one) => one === asked.get('as')) ?? 'json',
      asked.has('live'),
    );
    return new Response(file.text, {
      headers: {
        'content-type': `${file.type}; charset=utf-8`,
        'content-disposition': `attachment; filename="${file.name}"`,
        'cache-control': 'no-store',
      },
    });
  },
});
