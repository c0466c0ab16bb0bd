import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const alias = { '@': fileURLToPath(new URL('./src', import.meta.url)) };
/** In ms; many times what they take: on a busy machine they share two cores with everything else. */
const LIMIT = 900_000;

export default defineConfig({
  resolve: { alias },
  test: {
    projects: [
      {
        resolve: { alias },
        test: {
          name: 'core',
          // They compute and keep nothing: what one file has read is there for the next.
          pool: 'threads',
          isolate: false,
          testTimeout: LIMIT,
          include: ['tests/core/**/*.test.ts', 'tests/islands/**/*.test.ts', 'tests/oracles/**/*.test.ts'],
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'server',
          include: ['tests/server/**/*.test.ts'],
          pool: 'forks',
          testTimeout: LIMIT,
          hookTimeout: LIMIT,
          globalSetup: ['tests/server/global.ts'],
          setupFiles: ['tests/server/setup.ts'],
        },
      },
      // By itself, with a cluster of its own: it stops and crashes PostgreSQL all the time.
      {
        resolve: { alias },
        test: { name: 'kills', include: ['tests/kills/**/*.test.ts'], testTimeout: LIMIT, hookTimeout: LIMIT },
      },
    ],
  },
});
