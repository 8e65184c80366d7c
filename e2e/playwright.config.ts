import { defineConfig } from '@playwright/test';
import { chromiumArguments } from '../scripts/chromium.mjs';

/** The journeys, in Debian's headless Chromium: two files at a time, each with a server and a copy of the demo of its own. What fails is not tried again. */
export default defineConfig({
  testDir: '.',
  workers: 2,
  retries: 0,
  // As patient as a busy machine needs.
  timeout: 600_000,
  expect: { timeout: 90_000 },
  reporter: 'line',
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: { executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium', args: chromiumArguments },
    // Nothing is looked at while it is still on its way.
    contextOptions: { reducedMotion: 'reduce' },
    trace: 'off',
    actionTimeout: 90_000,
    // Pages come from the server; the journey without a connection says otherwise.
    serviceWorkers: 'block',
  },
});
