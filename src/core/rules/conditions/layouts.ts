import { anyOf } from './list';

/** The thing has one of these layouts. */
export const onLayouts = anyOf(
  'layout',
  (names) => `on layout ${names.map((name) => `“${name}”`).join(' or ')}`,
  { label: 'On which layouts', any: 'any' },
  [['plain'], ['news', 'event']],
);
