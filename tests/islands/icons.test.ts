import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { drawIcons } from '../../scripts/icons';

it('every icon is in the one drawing, as the set it is taken from has it', () => {
  expect(readFileSync(join(import.meta.dirname, '../../src/islands/kit/icons.svg'), 'utf8')).toBe(drawIcons());
});
