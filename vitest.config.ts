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
          testTimeout: 60_000,
          include: ['tests/core/**/*.test.ts', 'tests/islands/**/*.test.ts', 'tests/oracles/**/*.test.ts'],
        },
      },
      {
        resolve: { alias },
        test: {
          name: 'server',
          include: ['tests/server/**/*.test.ts'],
          pool: 'forks',
          testTimeout: 120_000,
          hookTimeout: 120_000,
          globalSetup: ['tests/server/global.ts'],
          setupFiles: ['tests/server/setup.ts'],
        },
      },
      // By itself, with a cluster of its own: it stops and crashes PostgreSQL all the time.
      {
        resolve: { alias },
        test: { name: 'kills', include: ['tests/kills/**/*.test.ts'], testTimeout: 60_000, hookTimeout: 60_000 },
      },
    ],
  },
});
