import { anyOf } from './list';

/** The thing has one of these layouts. */
export const layouts = anyOf('layout', (names) => `on layout ${names.map((name) => `“${name}”`).join(' or ')}`);
