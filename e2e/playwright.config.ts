import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: './tests',
  // Upper bounds for a machine that is busy elsewhere; no test waits for them.
  timeout: 300_000,
  expect: { timeout: 40_000 },
  workers: 1,
  retries: 0,
  reporter: [['list'], ['json', { outputFile: process.env.PLAYWRIGHT_JSON_OUTPUT_NAME ?? 'test-results/report.json' }]],
  outputDir: '../test-results',
  use: {
    viewport: { width: 1280, height: 800 },
    // Every test has its own server; those about opening without one say so.
    serviceWorkers: 'block',
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
        '--autoplay-policy=no-user-gesture-required',
      ],
    },
  },
});
