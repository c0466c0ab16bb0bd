// A name means one thing: what two modules give out under one name is taken for one thing by whoever reads.
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';
import { expect, test } from 'vitest';

const files = readdirSync('src', { recursive: true, encoding: 'utf8' }).filter((name) => /\.tsx?$/.test(name));
/** What a module gives out of its own; endpoints are called after what is asked of them, by Astro’s wish. */
const givenBy = (text: string): string[] =>
  ts.createSourceFile('one.tsx', text, ts.ScriptTarget.Latest).statements.flatMap((statement) => {
    const isGiven =
      ts.canHaveModifiers(statement) &&
      ts.getModifiers(statement)?.some(({ kind }) => kind === ts.SyntaxKind.ExportKeyword);
    if (!isGiven) return [];
    if (ts.isVariableStatement(statement))
      return statement.declarationList.declarations.flatMap(({ name }) => (ts.isIdentifier(name) ? [name.text] : []));
    return 'name' in statement && statement.name ? [(statement.name as ts.Identifier).text] : [];
  });

test('what modules give out has a name of its own', () => {
  const by = new Map<string, string[]>();
  for (const file of files)
    for (const name of new Set(givenBy(readFileSync(join('src', file), 'utf8'))))
      if (!/^(GET|POST|PUT|DELETE)$/.test(name)) by.set(name, [...(by.get(name) ?? []), file]);
  expect(by.size).toBeGreaterThan(1000);
  expect([...by].filter(([, where]) => where.length > 1)).toEqual([]);
});
