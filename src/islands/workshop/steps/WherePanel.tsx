import { useState } from 'react';
import { isReading, objectOf, type PermissionId, type Inventory } from '@/core/inventory';
import { reachOf, type Operation, type Plan, type PlanRole, type BranchSpot } from '@/core/plan';
import { Icon } from '../../kit/Icon';
import { PagesPicker } from '../../kit/PagesPicker';
import type { WorkshopPage } from '../model';
import type { Change } from '../usePlan';
import { useInventory } from '../../kit/inventory';

const isPlaced = (inventory: Inventory, permission: string) =>
  permission === '*'
    ? true
    : permission.endsWith('.*')
      ? [...inventory.permissions.values()].some((p) => p.placed && objectOf(p.id) === objectOf(permission))
      : (inventory.permissions.get(permission as PermissionId)?.placed ?? false);

/** A rule for each of some pages, or one for the whole website. */
export const allowOn = (
  inventory: Inventory,
  role: string,
  permission: string,
  spots: readonly BranchSpot[],
): Operation[] =>
  (isPlaced(inventory, permission) && spots.length > 0 ? spots : [{}]).map((spot) => ({
    do: 'add-grant',
    role,
    grant: { id: `${permission.replace('*', 'all')}-${whereId(spot)}`, effect: 'allow', permission, scope: spot },
  }));

/** Part of a rule's id: where it holds. */
export const whereId = ({ branch, only }: Partial<BranchSpot>) =>
  branch === undefined ? 'everywhere' : `${only ? 'on' : 'under'}-${branch}`;

/** Opens what some permissions need of the menu: for reading it is enough to look. */
export function doorsFor(inventory: Inventory, role: PlanRole, permissions: readonly PermissionId[]): Operation[] {
  const wanted = new Map<string, 'look' | 'open'>();
  for (const permission of permissions) {
    const section = inventory.sectionOfObject.get(objectOf(permission));
    if (section && inventory.doors.some((door) => door.id === section))
      wanted.set(section, wanted.get(section) === 'open' || !isReading(permission) ? 'open' : 'look');
  }
  return [...wanted].flatMap(([section, state]): Operation[] => {
    const now = role.doors.find((door) => door.section === section)?.state ?? 'closed';
    return now === 'closed' || (now === 'look' && state === 'open')
      ? [{ do: 'set-door', role: role.id, section, state }]
      : [];
  });
}

/** Where a role works: one choice of pages for all its own rules about them, and for what its tasks still need. */
export function WherePanel({
  plan,
  role,
  pages,
  lacking,
  change,
  readOnly,
}: {
  plan: Plan;
  role: PlanRole;
  pages: readonly WorkshopPage[];
  lacking: readonly PermissionId[];
  change: Change;
  readOnly: boolean;
}) {
  const inventory = useInventory();
  // The role as it stands by itself: what it builds on may reach further, and is not this role's to limit.
  const reach = reachOf(inventory, { ...plan, roles: [{ ...role, extends: [] }] }, { role: role.id });
  const [chosen, setChosen] = useState<BranchSpot[] | null>(null);
  const now = reach === 'whole' ? [] : reach;
  const value = chosen ?? now;
  const nameOf = ({ branch, only }: BranchSpot) =>
    `${pages.find((page) => page.id === branch)?.title ?? 'a page that is gone'}${only ? ' alone' : ''}`;
  const own = role.grants.filter((grant) => grant.effect === 'allow' && isPlaced(inventory, grant.permission));
  const doors = doorsFor(inventory, role, lacking);
  const addsThere = !lacking.some((one) => isPlaced(inventory, one))
    ? ''
    : value.length === 0
      ? ', everywhere'
      : ', there';
  // Each rule once, on the pages chosen: what else it says (layouts, states, own work) stays with it.
  const moved = (spots: readonly BranchSpot[]): Operation[] => {
    const said = new Map(
      own.map((grant) => {
        const { branch: _, only: __, ...rest } = grant.scope;
        return [JSON.stringify([grant.permission, rest]), { permission: grant.permission, rest }];
      }),
    );
    const kept = new Set<string>();
    const add = [...said.values()]
      .flatMap(({ permission, rest }) =>
        (spots.length === 0 ? [{}] : spots).map((spot): Operation | null => {
          const scope = { ...rest, ...spot };
          const same = own.find(
            (grant) =>
              grant.permission === permission &&
              JSON.stringify(Object.entries(grant.scope).sort()) === JSON.stringify(Object.entries(scope).sort()),
          );
          if (same) kept.add(same.id);
          return same
            ? null
            : {
                do: 'add-grant',
                role: role.id,
                grant: {
                  id: `${permission.replace('*', 'all')}-${whereId(spot)}${Object.keys(rest).length ? `-${Object.keys(rest).join('-')}` : ''}`,
                  effect: 'allow',
                  permission,
                  scope,
                },
              };
        }),
      )
      .filter((op) => op !== null);
    return [
      ...own
        .filter((grant) => !kept.has(grant.id))
        .map((grant): Operation => ({ do: 'remove-grant', role: role.id, grant: grant.id })),
      ...add,
    ];
  };
  const run = () => {
    const operations = [
      ...(chosen === null ? [] : moved(chosen)),
      ...lacking.flatMap((permission) => allowOn(inventory, role.id, permission, value)),
      ...doors,
    ];
    if (operations.length > 0) change(...operations);
    setChosen(null);
  };
  const isNew =
    chosen !== null && JSON.stringify(chosen.map(whereId).sort()) !== JSON.stringify(now.map(whereId).sort());
  return (
    <section
      className={`card grid gap-3 px-4 py-3 ${lacking.length > 0 ? 'bg-sun-soft' : ''}`}
      aria-label="Where it works"
    >
      {lacking.length > 0 && (
        <p>
          <strong>The ticked tasks need {lacking.length === 1 ? 'one thing' : `${lacking.length} things`} more:</strong>{' '}
          {lacking.map((p) => inventory.permissions.get(p)?.name).join('; ')}.
          {doors.length > 0 && (
            <span className="text-ink-2">
              {' '}
              {doors.length === 1 ? 'The door' : 'The doors'}{' '}
              {doors
                .map(
                  (op) =>
                    `“${'section' in op ? (inventory.sections.find((s) => s.id === op.section)?.name ?? '') : ''}”`,
                )
                .join(', ')}{' '}
              {doors.length === 1 ? 'is' : 'are'} opened with it.
            </span>
          )}
        </p>
      )}
      {readOnly ? (
        <p>
          <strong>Works on:</strong>{' '}
          {reach === 'whole' ? 'the whole website' : reach.length === 0 ? 'no pages' : reach.map(nameOf).join(', ')}
        </p>
      ) : (
        <div className="grid items-end gap-3 md:grid-cols-[minmax(0,1fr)_auto]">
          <PagesPicker label="Where this role works" pages={pages} value={value} onChange={setChosen} />
          <div className="flex flex-wrap gap-2">
            {isNew && (
              <button type="button" className="btn" onClick={() => setChosen(null)}>
                Cancel
              </button>
            )}
            {(isNew || lacking.length > 0) && (
              <button type="button" className="btn btn-main" onClick={run}>
                <Icon name="check" size={16} />{' '}
                {lacking.length === 0
                  ? 'Limit its rules to this'
                  : `Add just ${lacking.length === 1 ? 'this' : 'these'}${addsThere}`}
              </button>
            )}
          </div>
        </div>
      )}
    </section>
  );
}
