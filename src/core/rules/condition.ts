import type { z } from 'zod';
import type { Spot } from './spot';

/** What sentences about where a rule holds need to call things by name. */
export interface PlaceNames {
  role: (id: string) => string;
  page: (id: string) => string;
  layout: (id: string) => string;
  field: (id: string) => string;
  /** "a draft" for `draft`: what a thing is. */
  state: (id: string) => string;
}

/** A kind of thing a condition can name. */
export type Named = 'page' | 'layout' | 'field' | 'state';

/** A name within what a condition says: of what kind, and where it stands there. */
export interface Name {
  kind: Named;
  id: string;
  at: readonly (string | number)[];
}

/** What else there is of a spot beside the places that are looked at; the first of each stands where none matters. */
export interface KnownSpots {
  states: readonly string[];
  /** Days of the week, by their numbers of ISO 8601. */
  days: readonly number[];
}

/** What somebody is asked who says where a rule holds, and among what they choose. */
interface Asked<What, Value> {
  label: string;
  /** What it is called that nothing is said of it. */
  any: string;
  /** Asked for below the others, until something is said of it. */
  rare?: true;
  among: What;
  name?: (value: Value) => string;
}
export type Asks<Said> = Said extends readonly (infer Value)[]
  ? Asked<Exclude<Named, 'page'> | readonly Value[], Value>
  : Asked<'page', Said>;

/** Something that can be said of where or when a rule holds. `Said` is what a rule says of it, where it says anything. */
export interface RuleCondition<Said> {
  /** The part of a spot that it is about. */
  part: keyof Spot;
  schema: z.ZodType<Said>;
  holds: (said: Said, spot: Spot) => boolean;
  /** How strong it makes a rule on a spot on which it holds: above 0. */
  rank: (said: Said, spot: Spot) => number;
  /** Two rules that have this alike are as strong by it wherever both hold. */
  strength: (said: Said) => unknown;
  /** What all that say the same have alike. */
  canonical: (said: Said) => Said;
  /** A part of a sentence: "on layout “News”". */
  words: (said: Said, names: PlaceNames) => string;
  names: (said: Said) => readonly Name[];
  /** By the spot, what rules that say these tell apart: of the same key all of them hold or none. */
  keyOf: (all: readonly Said[]) => (spot: Spot) => string;
  /** Values of its part of a spot, of those that are known, to be told apart where a rule says something of it. */
  others?: (known: KnownSpots) => readonly Partial<Spot>[];
  /** How somebody is asked for it. */
  asks: Asks<Said>;
  /** Some things that can be said, each another. */
  samples: readonly [Said, Said];
}
