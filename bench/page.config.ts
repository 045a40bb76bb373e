import { defineConfig } from '@playwright/test';
import checks from '../playwright.config';

/** The page under load, in the browser of the checks. */
export default defineConfig({
  ...checks,
  testDir: '.',
  testMatch: '*.page.ts',
  timeout: 300_000,
  webServer: { ...(checks.webServer as { command: string; url: string }), cwd: '..' },
});
