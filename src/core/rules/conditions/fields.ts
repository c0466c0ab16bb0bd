import { anyOf } from './list';

/** The text or element is one of these. */
export const inFields = anyOf(
  'field',
  (names) => `in ${names.map((name) => `“${name}”`).join(' or ')}`,
  { label: 'In which texts', any: 'any' },
  [['body'], ['summary', 'title']],
);
