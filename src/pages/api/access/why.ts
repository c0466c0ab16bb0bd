import { loadSurvey, readAsked } from '@/server/access/survey';
import { whyOn } from '@/server/access/why';
import { endpoint } from '@/server/gate/endpoint';

/** Why a person or a role may or may not do something on a branch: `?row=&permission=&branch=&rows=&plan=`. */
export const GET = endpoint('GET /api/access/why', {
  needs: 'plan.view',
  run: async ({ tx, access, query }) => {
    const asked = readAsked(query);
    return {
      groups: whyOn(
        await loadSurvey(tx, access, asked),
        query.get('row') ?? '',
        query.get('permission') ?? '',
        asked.branch,
      ),
    };
  },
});
