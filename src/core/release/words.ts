import type { Inventory } from '../inventory';
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
  const lines = differences(inventory, before, after, pageName).flatMap((difference) => difference.lines);
  return [operationInWords(inventory, operation, roleNames(after)), ...lines]
    .join('. ')
    .replaceAll('..', '.')
    .slice(0, 500);
}
