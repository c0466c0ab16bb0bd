import { CsvError, parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';
import { problemAt } from './gate/problems';

/**
 * A table as CSV, lines ended as RFC 4180 has it. A cell that a spreadsheet would take for a formula is kept from being
 * one (OWASP, "CSV Injection").
 */
export const writeCsv = (rows: readonly (readonly string[])[]): string =>
  stringify(
    rows.map((row) => row.map((cell) => (/^[=+\-@\t\r]/.test(cell) ? `'${cell}` : cell))),
    { record_delimiter: 'windows' },
  );

/** The rows of a CSV text (RFC 4180) under a head that names its columns; a fault says where it stops being one. */
export function readCsv(
  text: string,
  head: readonly string[],
  optional: readonly string[],
): { line: number; cells: string[] }[] {
  let rows: { record: string[]; info: { lines: number } }[];
  try {
    rows = parse(text, {
      bom: true,
      info: true,
      skip_empty_lines: true,
      trim: true,
      relax_column_count: true,
    }) as never;
  } catch (error) {
    if (!(error instanceof CsvError)) throw error;
    throw problemAt('csv', 'not-csv', { fault: error.message });
  }
  const first = rows[0]?.record.map((cell) => cell.toLowerCase()) ?? [];
  const missing = head.filter((name) => !first.includes(name));
  const required = missing.filter((name) => !optional.includes(name));
  if (rows.length === 0 || required.length > 0)
    throw required.length && rows.length
      ? problemAt('csv', 'columns-missing', { columns: head.join(', '), missing: required.join(', ') })
      : problemAt('csv', 'columns-unnamed', { columns: head.join(', ') });
  const at = head.map((name) => first.indexOf(name));
  return rows
    .slice(1)
    .map(({ record: cells, info }) => ({ line: info.lines, cells: at.map((i) => (i < 0 ? '' : (cells[i] ?? ''))) }));
}
