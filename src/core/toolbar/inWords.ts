import { sayList } from '../words';
import { whereInWords, whoInWords, type PlaceNames } from '../rules';
import type { ConstructPolicy } from './policy';
import type { ToolEffect, ToolRule } from './schema';

/** What the sentences need to call things by name. */
export interface RuleNames extends PlaceNames {
  tool: (id: string) => string;
  set: (id: string) => string;
}

const quoted = (ids: readonly string[], name: (id: string) => string) => sayList(ids.map((id) => `“${name(id)}”`));

/** What a rule does: "writes with “Short news”". */
export function effectInWords({ use, add, take, cap }: ToolEffect, names: RuleNames, many: boolean): string {
  const verb = (one: string, several: string) => (many ? several : one);
  const tools = (ids: readonly string[]) => (ids.length === 0 ? 'no tool' : quoted(ids, names.tool));
  if (use !== undefined) return `${verb('writes', 'write')} with “${names.set(use)}”`;
  if (add) return `${verb('has', 'have')} ${tools(add)} besides`;
  if (take) return `${verb('goes', 'go')} without ${take.length === 0 ? 'nothing' : quoted(take, names.tool)}`;
  return `${verb('has', 'have')} never more than ${tools(cap ?? [])}`;
}

const KEEP: Record<ConstructPolicy, string> = {
  whole: 'stays whole',
  words: 'keeps its form while words change',
  free: 'may be changed and taken away',
};

/** What constructs are called in sentences, by the names of nodes and marks; those that are made by a tool. */
export const CONSTRUCT_NAMES: Readonly<Record<string, string>> = {
  table: 'a table',
  picture: 'a picture',
  heading: 'a heading',
  bulletList: 'a list',
  orderedList: 'a numbered list',
  blockquote: 'a quote',
  highlight: 'a highlight',
  alert: 'an alert',
  link: 'a link',
  bold: 'bold',
  italic: 'italic',
};

/** What becomes of constructs: "a table stays whole and a heading keeps its form while words change". */
export const keptInWords = (keep: Readonly<Record<string, ConstructPolicy>>): string =>
  sayList(
    Object.entries(keep).map(([construct, policy]) => `${CONSTRUCT_NAMES[construct] ?? construct} ${KEEP[policy]}`),
  );

/** A whole rule: "On “News” and all below it, in “Text”, “Harbour desk” writes with “Short news”." */
export function toolRuleInWords({ when, then, keep }: ToolRule, names: RuleNames): string {
  const kept = keptInWords(keep ?? {});
  const isNothing = kept !== '' && [then.add, then.take].some((tools) => tools?.length === 0);
  const told = isNothing ? '' : ` ${effectInWords(then, names, (when.roles?.length ?? 1) > 1)}`;
  const who = whoInWords(when, names);
  return `${whereInWords(when, names)}, ${isNothing ? `for ${who}` : who}${told}${kept === '' ? '' : `${isNothing ? ':' : ';'} ${kept}`}.`;
}
