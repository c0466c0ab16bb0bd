import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const alias = { '@': fileURLToPath(new URL('./src', import.meta.url)) };

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
          // Many times what they take: on a busy machine they share two cores with everything else.
          testTimeout: 300_000,
          include: ['tests/core/**/*.test.ts', 'tests/islands/**/*.test.ts', 'tests/oracles/**/*.test.ts'],
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'server',
          include: ['tests/server/**/*.test.ts'],
          pool: 'forks',
          testTimeout: 300_000,
          hookTimeout: 300_000,
          globalSetup: ['tests/server/global.ts'],
          setupFiles: ['tests/server/setup.ts'],
        },
      },
      // By itself, with a cluster of its own: it stops and crashes PostgreSQL all the time.
      {
        resolve: { alias },
        test: { name: 'kills', include: ['tests/kills/**/*.test.ts'], testTimeout: 300_000, hookTimeout: 300_000 },
      },
    ],
  },
});
