import type { z } from 'zod';
import type { Spot } from './spot';

/** What sentences about where a rule holds need to call things by name. */
export interface PlaceNames {
  role: (id: string) => string;
  page: (id: string) => string;
  layout: (id: string) => string;
  field: (id: string) => string;
  /** "drafts" for `draft`: what things are. */
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

/** Something that can be said of where a rule holds. `Said` is what a rule says of it, where it says anything. */
export interface Condition<Said> {
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
  /** Further values of its part of a spot that rules which say these tell apart; none where places alone decide. */
  others?: (all: readonly Said[], known: { states: readonly string[] }) => readonly Partial<Spot>[];
}
