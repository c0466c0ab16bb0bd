import type { Kind } from './kinds';
import { type RefusalCode, REFUSALS, type Sentence } from './refusals';

type Holes<S extends string> = S extends `${string}{${infer Name}}${infer Rest}` ? Name | Holes<Rest> : never;
type Written<C extends RefusalCode> = (typeof REFUSALS)[C] extends readonly [
  string,
  infer A extends string,
  infer B extends string,
]
  ? `${A} ${B}`
  : (typeof REFUSALS)[C] extends readonly [string, infer A extends string]
    ? A
    : never;
/** What the sentence of a refusal needs to be given. */
export type GivenInWords<C extends RefusalCode> = Record<Holes<Written<C>>, string | number>;

export const kindOf = (code: RefusalCode): Kind => REFUSALS[code][0];
/** The sentence of a refusal, its remedy with it. */
export function refusalInWords<C extends RefusalCode>(code: C, given: GivenInWords<C>): string {
  const [, ...parts] = REFUSALS[code] as Sentence;
  return parts
    .join(' ')
    .replaceAll(/\{(\w+)\}/g, (_, name: string) => String((given as Record<string, unknown>)[name]));
}
