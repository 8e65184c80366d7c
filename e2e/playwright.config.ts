import { defineConfig } from '@playwright/test';

const chromium = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

/** The journeys, in Debian's headless Chromium, against a server with the demo that npm test starts. */
export default defineConfig({
  testDir: '.',
  workers: 1,
  retries: 1,
  timeout: 240_000,
  expect: { timeout: 20_000 },
  reporter: 'line',
  use: {
    baseURL: process.env.BASE_URL ?? 'http://127.0.0.1:4310',
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args: chromium },
    trace: 'off',
    actionTimeout: 20_000,
  },
});
