import { countBits } from './bits';
import type { AccessIndex } from './compiled';
import { NOWHERE } from './tree';

/** How far a permission goes on a branch: for all that lies there, for some of it, for nothing. */
export type Extent = 'yes' | 'some' | 'no';

/** Somebody, or a role, with how far each permission goes for them, in the order of the inventory. */
export interface MapRow {
  id: string;
  name: string;
  says: string;
  cells: Extent[];
}

/** Several extents as one: yes or no only where all agree. */
export const joinExtents = (extents: readonly Extent[]): Extent =>
  extents.length > 0 && extents.every((e) => e === extents[0]) ? (extents[0] as Extent) : 'some';

/**
 * How far every permission of the index goes for one person on a branch at an instant. A permission whose things lie
 * nowhere goes as far for every branch: for all things, or for some where it is for one's own only.
 */
export function extentsOf(
  index: AccessIndex,
  person: number,
  branch: readonly [lo: number, hi: number],
  isPlaced: (permission: string) => boolean,
  atMs: number,
): Extent[] {
  const [lo, hi] = branch;
  const bits = index.whatCan(person, atMs);
  return index.permissions.map((id, permission) => {
    if (!isPlaced(id))
      return index.may(person, permission, NOWHERE, atMs, -1)
        ? 'yes'
        : index.may(person, permission, NOWHERE, atMs, person)
          ? 'some'
          : 'no';
    const count = countBits(bits[permission] ?? new Uint32Array(index.tree.words), lo, hi);
    return count === 0 ? 'no' : count === hi - lo + 1 ? 'yes' : 'some';
  });
}
