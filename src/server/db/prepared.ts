import { sql } from 'drizzle-orm';
import type { Tx } from './client';

/** A value that is given each time the question is asked: `given('site')`. */
export const given = (name: string) => sql.placeholder(name);

interface Built<R> {
  prepare: (name: string) => { execute: (values: Record<string, unknown>) => Promise<R> };
}

/**
 * A question every screen asks: made into SQL once, and planned once by each connection, which takes longer than
 * answering it. `name` is the one of the statement in PostgreSQL, for this question alone; all that changes from one
 * time to another is `given`. In a transaction it is made anew.
 */
export function prepared<R>(name: string, build: (tx: Tx) => Built<R>) {
  const kept = new WeakMap<Tx, ReturnType<Built<R>['prepare']>>();
  return (tx: Tx, values: Record<string, string | number | Date>): Promise<R> => {
    const before = kept.get(tx);
    const question = before ?? build(tx).prepare(name);
    if (!before) kept.set(tx, question);
    return question.execute(values);
  };
}
