import { useMemo } from 'react';
import { explainInWords, wayInWords, type Names } from '@/core/access';
import type { PermissionId } from '@/core/inventory';
import { isOfOnePage, stepInWords, type Plan } from '@/core/plan';
import { remediesForDeed } from '@/core/room';
import { Icon } from '../kit/Icon';
import type { Prepared, WorkshopFacts } from './model';
import type { Change } from './usePlan';
import { useInventory } from '../kit/inventory';

/**
 * Why the role may or may not do something: every rule that counts with the way it came, and on a no the least change
 * that would turn it.
 */
export function Why({
  facts,
  plan,
  prepared,
  permission,
  names,
  change,
  readOnly,
}: {
  facts: WorkshopFacts;
  plan: Plan;
  prepared: Prepared;
  permission: PermissionId;
  names: Names;
  change: Change;
  readOnly: boolean;
}) {
  const inventory = useInventory();
  const decision = prepared.best(permission);
  const { role, person } = prepared;
  const remedy = useMemo(() => {
    if (decision.allowed) return undefined;
    // Asked where the role works: on the branch its rules name, else where it is held, else on the whole website.
    const home =
      role.grants.find((g) => g.scope.branch !== undefined)?.scope.branch ??
      person.assignments.find((a) => a.role === role.id)?.branch;
    const page = facts.pages.find((p) => p.id === home) ?? facts.pages[0];
    const isPlaced = inventory.permissions.get(permission)?.placed ?? false;
    const people = [...facts.people.filter((p) => p.id !== person.id), person];
    const question = {
      person: person.id,
      permission,
      ...(isPlaced && page && { place: page.place }),
      atMs: facts.nowMs,
    };
    return remediesForDeed(inventory, plan, people, question).find((one) => !isOfOnePage(one));
  }, [inventory, decision, facts, permission, person, plan, role]);
  return (
    <section aria-label="Why?" className="card p-3">
      <h3 className="mb-1">
        {decision.allowed ? `Why may they ${names.doing(permission)}?` : `Why may they not ${names.doing(permission)}?`}
      </h3>
      <p className="clip text-ink-2">{explainInWords(decision, permission, names)}</p>
      {decision.because.length > 1 && (
        <ul className="mt-1.5 grid gap-1 text-sm" aria-label="Every rule that counts">
          {decision.because.map((way, i) => (
            <li key={i} className="flex gap-1.5">
              <Icon name={way.grant.effect === 'allow' ? 'check' : 'lock'} size={14} className="mt-0.5" />
              <span className="clip">
                {wayInWords(way, permission, names)}
                {way === decision.decidedBy && <strong> · decides</strong>}
              </span>
            </li>
          ))}
        </ul>
      )}
      <p className="mt-1.5 text-sm">
        <a
          className="link"
          href={`/workshop/access/why?who=${person.id === '0' ? encodeURIComponent(`role ${role.id}`) : person.id}&may=${permission}&plan=prepared`}
        >
          Ask about one page
        </a>
      </p>
      {remedy && (
        <div className="mt-2 border-t border-line pt-2 text-sm">
          <p className="font-semibold">The least change that would allow it</p>
          {remedy.kind === 'plan' && (
            <>
              <ul className="clip">
                {remedy.operations.map((op, i) => (
                  <li key={i}>{stepInWords(inventory, plan, op, names)}</li>
                ))}
              </ul>
              {remedy.alsoFor.length > 0 && (
                <p className="text-ink-2">
                  It would count for{' '}
                  {remedy.alsoFor.length > 3 ? `${remedy.alsoFor.length} others` : remedy.alsoFor.join(', ')} too.
                </p>
              )}
              {!readOnly && (
                <button type="button" className="btn btn-small mt-1.5" onClick={() => change(...remedy.operations)}>
                  Make this change
                </button>
              )}
            </>
          )}
          {remedy.kind === 'assignment' && (
            <p>{person.name} holds the role at the wrong time or place. Change it under People.</p>
          )}
          {remedy.kind === 'resume' && <p>{person.name} is paused. Let them work again under People.</p>}
          {remedy.kind === 'nobody' && <p>None: somebody else has to do it.</p>}
        </div>
      )}
    </section>
  );
}
