import { existsSync } from 'node:fs';
import { defineConfig } from '@playwright/test';

/** The browser without its window where it is there, else the whole one. */
const [shell, whole] = ['/usr/bin/chromium-headless-shell', '/usr/bin/chromium'];

export default defineConfig({
  testDir: 'e2e',
  testMatch: '*.spec.ts',
  outputDir: '.data/test-results',
  // A busy machine may take five times as long; a journey that hangs still ends.
  timeout: 300_000,
  expect: { timeout: 45_000 },
  workers: 2,
  fullyParallel: true,
  retries: 0,
  forbidOnly: true,
  use: {
    viewport: { width: 1280, height: 800 },
    serviceWorkers: 'block',
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: existsSync(shell) ? shell : whole,
      args: [
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
});
