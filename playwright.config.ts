import { defineConfig } from '@playwright/test';

/** A port that nobody else has: found by whoever starts the tests, or by default one that is seldom taken. */
const port = Number(process.env['E2E_PORT'] ?? 4319);

/** Files whose tests measure how long something takes. */
const TIMED = ['**/many.spec.ts', '**/artwork-files.spec.ts'];

export default defineConfig({
  testDir: 'e2e',
  testMatch: '**/*.spec.ts',
  outputDir: 'test-results',
  // Nothing is measured by these: a busy machine takes its time, and what does not come at all fails late enough.
  timeout: 600_000,
  expect: { timeout: 120_000, toPass: { timeout: 120_000 } },
  workers: 2,
  // What measures time has the machine to itself, after everything else.
  projects: [
    { name: 'drawing', testIgnore: TIMED },
    { name: 'timed', testMatch: TIMED, dependencies: ['drawing'], workers: 1 },
  ],
  forbidOnly: true,
  // Nothing is tried twice: a test that passes only at times fails.
  retries: 0,
  use: {
    baseURL: `http://localhost:${port}`,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    // Fetching everything ahead is a matter of the tests that cut the network, which allow it.
    serviceWorkers: 'block',
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--headless',
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
  webServer: {
    command: 'node dist/server/main.mjs dist/app',
    env: { PORT: String(port) },
    url: `http://localhost:${port}`,
    reuseExistingServer: false,
  },
});
