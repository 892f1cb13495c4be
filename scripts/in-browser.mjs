import { chromium } from '@playwright/test';
import { spawn } from 'node:child_process';
import { ROOT } from './console.mjs';
import { freePort, startDatabase } from './database.mjs';
import { build, install } from './install.mjs';

/** Builds, starts a database and a server of their own, and works with a page of 1280 × 800; ends them whatever happens. */
export async function inBrowser(databaseName, work) {
  install({ browser: true });
  await build();
  const database = await startDatabase(databaseName, { fresh: true });
  const port = await freePort();
  const url = `http://127.0.0.1:${port}`;
  const server = spawn(process.execPath, ['dist/server/main.js'], {
    cwd: ROOT,
    stdio: ['ignore', 'ignore', 'inherit'],
    env: {
      ...process.env,
      DATABASE_URL: database.appUrl,
      DIAL_SHADE_PORT: String(port),
      DIAL_SHADE_LOG: 'error',
      DIAL_SHADE_SAMPLE_RUNS: 'no',
    },
  });
  while (!(await fetch(`${url}/api/projects/kelp-lane`).catch(() => null))?.ok)
    await new Promise((resolve) => setTimeout(resolve, 200));
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: '--no-sandbox --use-angle=swiftshader --enable-unsafe-swiftshader --ignore-gpu-blocklist --disable-background-networking --disable-component-update --disable-sync --no-first-run --disable-quic'.split(
      ' ',
    ),
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, locale: 'en-GB' });
    await work({ page, url });
  } finally {
    await browser.close();
    await new Promise((resolve) => {
      server.once('exit', resolve);
      server.kill('SIGTERM');
    });
    await database.stop();
  }
}
