import fc from 'fast-check';
import { expect, it } from 'vitest';
import { foldedPattern } from '@/islands/editor/folded';

const finds = (typed: string, text: string) => new RegExp(foldedPattern(typed), 'iu').exec(text)?.[0] ?? null;

it('a plain letter finds it with accents, written as one or as two characters; an accent that is typed has to be there', () => {
  expect(finds('cafe', 'The Café on the quay')).toBe('Café');
  expect(finds('cafe', 'The Cafe\u0301 on the quay')).toBe('Cafe\u0301');
  expect(finds('café', 'The cafe')).toBeNull();
  expect(finds('café', 'The Cafe\u0301')).toBe('Cafe\u0301');
  expect(finds('Angstrom', 'Ångström')).toBe('Ångström');
  expect(finds('(7:40) a+b', 'At (7:40) a+b [x]')).toBe('(7:40) a+b');
});

it('finds whatever a plain search finds, and what the collation of primary strength takes for the same (Intl, ICU)', () => {
  const same = new Intl.Collator('en', { sensitivity: 'base' });
  const letters = fc.string({ unit: fc.constantFrom(...'aeuncozAEU éüñÅØçž.*[(-$\\'), minLength: 1, maxLength: 8 });
  fc.assert(
    fc.property(letters, letters, letters, (before, typed, after) => {
      expect(finds(typed, before + typed + after)).not.toBeNull();
      const plain = typed.normalize('NFD').replace(/\p{M}/gu, '');
      const found = finds(plain, typed);
      expect(found === null ? null : same.compare(found, plain)).toBe(0);
    }),
  );
});
