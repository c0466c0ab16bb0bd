import type { RuleCondition } from '../condition';
import { onBranch } from './branch';
import { onDays } from './days';
import { inFields } from './fields';
import { onLayouts } from './layouts';
import { inStates } from './states';

/**
 * All that can be said of where and when a rule holds, by the name it has in a rule, the strongest first: of two rules
 * the one stronger by an earlier condition is stronger. A further one is a file here and a line.
 */
export const CONDITIONS = {
  fields: inFields,
  branch: onBranch,
  layouts: onLayouts,
  states: inStates,
  days: onDays,
} satisfies Record<string, RuleCondition<string> | RuleCondition<string[]> | RuleCondition<number[]>>;
