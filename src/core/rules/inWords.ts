import { sayList } from '../words';
import type { When } from './when';

/** What sentences about where a rule holds need to call things by name. */
export interface PlaceNames {
  role: (id: string) => string;
  page: (id: string) => string;
  layout: (id: string) => string;
  field: (id: string) => string;
  /** "drafts" for `draft`: what things are. */
  state: (id: string) => string;
}

/** Where a rule holds, beginning a sentence: "On “News” and all below it, in “Text”". */
export function whereInWords(when: When, names: PlaceNames): string {
  const parts = [
    when.branch !== undefined && `on “${names.page(when.branch)}” and all below it`,
    when.layouts && `on layout ${when.layouts.map((id) => `“${names.layout(id)}”`).join(' or ')}`,
    when.fields && `in ${when.fields.map((id) => `“${names.field(id)}”`).join(' or ')}`,
    when.states && `in what is ${when.states.map(names.state).join(' or ')}`,
  ].filter((part) => typeof part === 'string');
  const words = parts.length === 0 ? 'everywhere' : parts.join(', ');
  return `${words[0]?.toUpperCase() ?? ''}${words.slice(1)}`;
}

/** Whom a rule is for: "“Harbour desk”"; whoever builds on it is meant, too. */
export const whoInWords = (when: When, names: Pick<PlaceNames, 'role'>): string =>
  when.roles ? sayList(when.roles.map((id) => `“${names.role(id)}”`)) : 'everybody';
