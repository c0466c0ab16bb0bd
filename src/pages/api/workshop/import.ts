import { Problem } from '@/server/gate/problems';
import { endpoint } from '@/server/gate/endpoint';
import { previewPlan } from '@/server/plan/files';
import { changePlan } from '@/server/plan/changes';

/** Tells what a file would change in the prepared plan; changes it when confirmed for the revision that was told of. */
export const POST = endpoint('POST /api/workshop/import', {
  needs: 'plan.edit',
  run: async ({ tx, access, body }) => {
    const { plan, revision, differences } = await previewPlan(tx, access.site, body.text);
    if (body.confirm === undefined) return { revision, differences };
    if (differences.length === 0) throw new Problem('plan-file-same');
    await changePlan(tx, access, body.confirm, [{ do: 'replace-plan', plan }]);
    return { done: true as const };
  },
});
