import { sql, type AnyColumn, type SQL } from 'drizzle-orm';

/**
 * Names in the order people look for them, whatever their language: "anna" before "Zoe", "Åse" among the a's (the root
 * order of the Unicode Collation Algorithm, UTS #10). The database by itself goes by code points.
 */
export const inNameOrder = (column: AnyColumn): SQL => sql`${column} collate "und-x-icu"`;
