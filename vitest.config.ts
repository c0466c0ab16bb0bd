import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vitest/config';

const alias = { '@': fileURLToPath(new URL('./src', import.meta.url)) };

// Only what hangs is ended: how fast something is, the bench measures.
const limits = { testTimeout: 300_000, hookTimeout: 300_000 };

export default defineConfig({
  resolve: { alias },
  test: {
    projects: [
      { resolve: { alias }, test: { name: 'core', include: ['tests/core/**/*.test.ts', 'tests/islands/**/*.test.ts', 'tests/oracles/**/*.test.ts'], ...limits } },
      { resolve: { alias }, test: { name: 'server', include: ['tests/server/**/*.test.ts'], pool: 'forks', ...limits, globalSetup: ['tests/server/global.ts'], setupFiles: ['tests/server/setup.ts'] } },
      // By itself, with a cluster of its own: it stops and crashes PostgreSQL all the time.
      { resolve: { alias }, test: { name: 'kills', include: ['tests/kills/**/*.test.ts'], ...limits } },
    ],
  },
});
