import { defineConfig } from '@playwright/test';
import { browser } from './browser.js';

export default defineConfig({
  testDir: '.', testMatch: 'screenshots.js', workers: 1, timeout: 120_000, reporter: [['list']],
  use: { viewport: { width: 1280, height: 800 }, ...browser },
});
