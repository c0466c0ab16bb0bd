import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { KINDS, refusalInWords, REFUSALS } from '@/core/wire';

const source = readdirSync('src', { recursive: true, encoding: 'utf8' })
  .filter((file) => /\.(tsx?|astro)$/.test(file) && !file.endsWith('refusals.ts'))
  .map((file) => readFileSync(join('src', file), 'utf8'))
  .join('\n');

describe('refusals', () => {
  it('are whole sentences, and each is used somewhere', () => {
    for (const [code, [kind, ...parts]] of Object.entries(REFUSALS)) {
      expect(Object.keys(KINDS), code).toContain(kind);
      for (const part of parts) expect(part, code).toMatch(/^(\{\w+\}|([A-Z“]|\{\w+\}).*([.”]|\{\w+\}))$/);
      expect(source.includes(`'${code}'`), `“${code}” is refused nowhere`).toBe(true);
    }
  });

  // RFC 9110, section 15: 4xx is for what the client has to do otherwise, 5xx for what the server could not do.
  it('have a status that says whose turn it is', () => {
    for (const [kind, [status]] of Object.entries(KINDS))
      expect(status >= 500, kind).toBe(['broken', 'busy', 'database-away'].includes(kind));
  });

  it('say what they are given, and take nothing of it for a place to fill', () => {
    expect(refusalInWords('role-not-held', { person: '{role}', role: 'Press $& {person}' })).toBe(
      '{role} does not hold the role “Press $& {person}”.',
    );
  });
});
