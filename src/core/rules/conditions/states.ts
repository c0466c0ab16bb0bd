import type { RuleCondition } from '../condition';
import { anyOf } from './list';

/** The thing is in one of these states. */
export const inStates: RuleCondition<string[]> = {
  ...anyOf(
    'state',
    (names) => `in what is ${names.join(' or ')}`,
    { label: 'In what is', any: 'in any state', rare: true },
    [['draft'], ['published', 'down']],
  ),
  // Every one of them: whether somebody writes in a state is not for rules to say.
  others: ({ states }) => states.map((state) => ({ state })),
};
