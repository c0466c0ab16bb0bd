import { anyOf } from './list';

/** The text or element is one of these. */
export const fields = anyOf('field', (names) => `in ${names.map((name) => `“${name}”`).join(' or ')}`);
