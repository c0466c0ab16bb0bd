import { customType, foreignKey, integer, jsonb, timestamp, type AnyPgColumn } from 'drizzle-orm/pg-core';

export const ltree = customType<{ data: string }>({ dataType: () => 'ltree' });
export const citext = customType<{ data: string }>({ dataType: () => 'citext' });
export const tsvector = customType<{ data: string }>({ dataType: () => 'tsvector' });
export const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' });
export const xid8 = customType<{ data: string }>({ dataType: () => 'xid8' });
export const id = () => integer().primaryKey().generatedAlwaysAsIdentity();
export const at = () => timestamp({ withTimezone: true });
export const setAtOnce = () => at().notNull().defaultNow();
export const writers = () => jsonb().$type<number[]>().notNull().default([]);

export interface Owned {
  siteId: AnyPgColumn;
  id: AnyPgColumn;
}
/** A column that names a row of the same site: never one of another. */
export const within = (own: Pick<Owned, 'siteId'>, column: AnyPgColumn, of: () => Owned) =>
  foreignKey({ columns: [own.siteId, column], foreignColumns: [of().siteId, of().id] });
