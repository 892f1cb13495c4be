import { defineConfig } from '@playwright/test';
import { availableParallelism } from 'node:os';

/**
 * Journeys in Debian's Chromium, drawn in software, each worker with a database and a server of its own. Drawing takes a
 * core and more for a page, so there is a worker for every two cores, and for two cores two: one waits while one draws.
 */
export default defineConfig({
  testDir: './journeys',
  outputDir: '../test-results',
  // A journey begins wherever a worker is free.
  fullyParallel: true,
  workers: Math.max(2, Math.floor(availableParallelism() / 2)),
  // Journeys wait on what is seen, never on the clock; these only end what hangs for good.
  timeout: 900_000,
  expect: { timeout: 120_000, toPass: { timeout: 120_000 } },
  retries: 0,
  reporter: [['list'], ['json']],
  use: {
    viewport: { width: 1280, height: 800 },
    // An eighth of the pixels each way: drawing in software is most of what a journey costs, and nothing here depends on them.
    deviceScaleFactor: 0.125,
    locale: 'en-GB',
    timezoneId: 'Asia/Tokyo',
    actionTimeout: 120_000,
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        // Most code lives for seconds here: its last degree of compilation costs more than it brings.
        '--js-flags=--no-turbofan',
        '--process-per-site',
        '--use-angle=swiftshader',
        '--enable-unsafe-swiftshader',
        // In software four samples a pixel are dear, and so is putting the page together by way of WebGL's renderer.
        '--webgl-antialiasing-mode=none',
        '--webgl-msaa-sample-count=0',
        '--disable-gpu-compositing',
        '--disable-gpu-rasterization',
        '--ignore-gpu-blocklist',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
        '--disable-quic',
      ],
    },
  },
});
