import { sayList } from '../words';
import type { PlaceNames } from './condition';
import type { When } from './when';

/** Whom a rule is for: "“Harbour desk”"; whoever builds on it is meant, too. */
export const whoInWords = (when: When, names: Pick<PlaceNames, 'role'>): string =>
  when.roles ? sayList(when.roles.map((id) => `“${names.role(id)}”`)) : 'everybody';
