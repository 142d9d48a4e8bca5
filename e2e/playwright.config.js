import { defineConfig } from '@playwright/test';
import { browser } from './browser.js';

export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.js',
  workers: 1,
  // Generous, for machines that stand still now and then; nothing here asserts a
  // time. What needs another try is listed as flaky, to be looked into.
  timeout: 120_000,
  expect: { timeout: 15_000 },
  retries: 2,
  reporter: [['list']],
  use: { viewport: { width: 1280, height: 800 }, ...browser },
});
