import { closure, covers, type Assignment, type PageId } from '../access';
import { isReading, objectOf, type Inventory } from '../inventory';
import type { Plan } from './schema';

/** A branch of the page tree, or its first page alone. */
export interface BranchSpot {
  branch: PageId;
  only?: true | undefined;
}

/**
 * The branches (or pages alone) on which an assignment lets somebody do something with pages or what lies on them;
 * `whole` for the whole website, an empty list where it lets them do nothing of the kind. What it only lets them read
 * counts where there is nothing else. `section`: only things of one section of the back office.
 */
export function reachOf(
  inventory: Inventory,
  plan: Plan,
  assignment: Pick<Assignment, 'role' | 'branch'>,
  section?: string,
): 'whole' | BranchSpot[] {
  const roles = new Map(plan.roles.map((role) => [role.id, role]));
  const placed = [...inventory.permissions.values()].filter(
    (permission) =>
      permission.placed &&
      (section === undefined || inventory.sectionOfObject.get(objectOf(permission.id)) === section),
  );
  const grants = closure({ roles }, assignment.role)
    .flatMap(({ role }) => role.grants)
    .filter((grant) => grant.effect === 'allow');
  const working = grants.filter((grant) =>
    placed.some((permission) => !isReading(permission.id) && covers(grant.permission, permission.id)),
  );
  const counted =
    working.length > 0
      ? working
      : grants.filter((grant) => placed.some((permission) => covers(grant.permission, permission.id)));
  if (counted.length === 0) return [];
  if (counted.some((grant) => grant.scope.branch === undefined))
    return assignment.branch === undefined ? 'whole' : [{ branch: assignment.branch }];
  const spots = counted.flatMap(({ scope: { branch, only } }): BranchSpot[] =>
    branch === undefined ? [] : [{ branch, ...(only && { only }) }],
  );
  // A page alone is within its branch.
  return [
    ...new Map(
      spots
        .filter((spot) => !spot.only || !spots.some((other) => other.branch === spot.branch && !other.only))
        .map((spot) => [spot.branch, spot]),
    ).values(),
  ];
}
