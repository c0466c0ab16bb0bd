import type { Inventory } from '../inventory';
import { sayWhole } from '../words';
import { operationInWords, roleNames, type Operation, type Plan } from '../plan';
import { differences } from './differences';

/** A change of the plan as the activity tells it: what it was, and from what to what, with the places. */
export function changeInWords(
  inventory: Inventory,
  before: Plan,
  after: Plan,
  operation: Operation,
  pageName: (id: string) => string,
): string {
  const told = differences(inventory, before, after, pageName);
  // What concerns several roles says of which each is.
  const name = roleNames(after);
  const lines =
    operation.do === 'replace-plan'
      ? told.flatMap(({ role, lines }) => lines.map((line) => (role === null ? line : `${name(role)}: ${line}`)))
      : told.flatMap(({ lines }) => lines);
  return [operationInWords(inventory, operation, name), ...lines].map(sayWhole).join(' ').slice(0, 500);
}
