/** A field of a thing as rules see it: where it is, and what is known of it. */
export interface Spot {
  /** Ids from the root of the tree down to the page itself. */
  path: readonly string[];
  layout: string;
  state: string;
  field: string;
  /** Of the week on the site's clock, by its number of ISO 8601: Monday is 1, Sunday 7. */
  day: number;
}
