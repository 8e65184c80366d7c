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

/** The journeys, in Debian's headless Chromium: two files at a time, each with a server and a copy of the demo of its own. What fails is not tried again. */
export default defineConfig({
  testDir: '.',
  workers: 2,
  retries: 0,
  // As patient as a busy machine needs.
  timeout: 600_000,
  expect: { timeout: 40_000 },
  reporter: 'line',
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args: chromium },
    // Nothing is looked at while it is still on its way.
    contextOptions: { reducedMotion: 'reduce' },
    trace: 'off',
    actionTimeout: 40_000,
  },
});
