import { defineConfig } from '@playwright/test';
import { browser } from './browser.js';

export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.js',
  workers: 1,
  timeout: 60_000,
  retries: 1, // what needs its second try is listed as flaky, to be looked into
  reporter: [['list']],
  use: { viewport: { width: 1280, height: 800 }, ...browser },
});
