import type { Condition } from '../condition';
import { branch } from './branch';
import { fields } from './fields';
import { layouts } from './layouts';
import { states } from './states';

/**
 * All that can be said of where a rule holds, by the name it has in a rule, the strongest first: of two rules the one
 * stronger by an earlier condition is stronger. A further one is a file here and a line.
 */
export const CONDITIONS = { fields, branch, layouts, states } satisfies Record<
  string,
  Condition<string> | Condition<string[]> | Condition<number[]>
>;
