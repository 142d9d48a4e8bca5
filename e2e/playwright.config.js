import { defineConfig } from '@playwright/test';
import { browser } from './browser.js';

export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.js',
  workers: 3, // on two cores: a journey types as fast as hands do and waits for late answers,
  // so that cores were idle a fifth of the time with two
  fullyParallel: true, // each test has a program of its own
  // Generous, for machines that stand still now and then; nothing here asserts a
  // time. Nothing is tried twice: what fails once has a fault. TRACE=1 says which (a sixth slower).
  timeout: 120_000,
  expect: { timeout: 15_000 },
  retries: 0,
  reporter: [['list']],
  use: { serviceWorkers: 'block', screenshot: 'only-on-failure', trace: process.env.TRACE ? { mode: 'retain-on-failure', snapshots: false, screenshots: false, sources: false } : 'off', viewport: { width: 1280, height: 800 }, ...browser },
});
