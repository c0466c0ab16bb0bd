import { z } from 'zod';
import type { RuleCondition } from '../condition';

/** The thing lies on a page or below it; a page deeper in the tree makes a rule stronger. */
export const onBranch: RuleCondition<string> = {
  part: 'path',
  schema: z.string().min(1),
  holds: (page, { path }) => path.includes(page),
  rank: (page, { path }) => path.indexOf(page) + 1,
  strength: (page) => page,
  canonical: (page) => page,
  words: (page, names) => `on “${names.page(page)}” and all below it`,
  names: (page) => [{ kind: 'page', id: page, at: [] }],
  keyOf: (all) => {
    const named = new Set(all);
    return ({ path }) => path.filter((page) => named.has(page)).join('/');
  },
  asks: { label: 'On which part of the website', any: 'The whole website', among: 'page' },
  samples: ['1', '2'],
};
