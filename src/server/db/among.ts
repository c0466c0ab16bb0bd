import { sql, type AnyColumn, type SQL } from 'drizzle-orm';

/**
 * Whether a column holds one of some values. They go to the database as one list: of thousands, as a long text or a
 * change of many pages has them, a placeholder for each takes far longer to be written than to be looked for.
 */
export const among = <C extends AnyColumn>(column: C, values: Iterable<C['_']['data']>): SQL =>
  sql`${column} = any(${sql.param([...values])}::${sql.raw(column.getSQLType())}[])`;
