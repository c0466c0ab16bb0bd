import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: 'tests/browser',
  globalSetup: './tests/browser/global.ts',
  // Each with an application and a database of its own.
  workers: 2,
  retries: 0,
  timeout: 300_000 * Number(process.env['SLOW'] ?? 1),
  // Nothing waits so long unless it fails, or the machine is busy with something else.
  expect: { timeout: 60_000 },
  forbidOnly: true,
  reporter: process.env['PLAYWRIGHT_JSON_OUTPUT_NAME'] ? [['list'], ['json']] : [['list']],
  use: {
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    trace: process.env['TRACE'] ? 'retain-on-failure' : 'off',
    actionTimeout: 60_000,
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--disable-dev-shm-usage',
      ],
    },
  },
});
