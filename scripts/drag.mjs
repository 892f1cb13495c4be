/* The functions given to the page run in a browser. */
/* global window, requestAnimationFrame, PerformanceObserver, WebGL2RenderingContext */
import { register } from 'tsx/esm/api';
import { say } from './console.mjs';
import { inBrowser } from './in-browser.mjs';

/**
 * Measures how long the page's main thread is held while the almanac, the sun and a slice are dragged, on the sample and
 * on a made-up town of 64 thousand triangles: the longest tasks, and what of them is not spent in calls that draw.
 */
register();
const { town } = await import('../bench/src/model-bench.ts');

/** Notes long tasks and the time spent in drawing calls; runs in the page before anything else. */
function watch() {
  const calls = [];
  const { prototype } = WebGL2RenderingContext;
  for (const name of [
    'drawArrays',
    'drawElements',
    'drawArraysInstanced',
    'drawElementsInstanced',
    'clear',
    'bufferData',
    'texImage2D',
    'getError',
    'getParameter',
    'linkProgram',
    'getProgramParameter',
    'useProgram',
    'readPixels',
    'flush',
    'finish',
  ]) {
    const plain = prototype[name];
    prototype[name] = function (...args) {
      const from = performance.now();
      try {
        return plain.apply(this, args);
      } finally {
        calls.push([from, performance.now()]);
      }
    };
  }
  // What of a frame is script, by the browser's own account: the rest is its layout and, here in software, its painting.
  const scripts = [];
  new PerformanceObserver((list) => {
    for (const frame of list.getEntries())
      for (const { startTime, duration } of frame.scripts) scripts.push([startTime, startTime + duration]);
  }).observe({ type: 'long-animation-frame', buffered: true });
  const tasks = [];
  new PerformanceObserver((list) => {
    for (const { startTime, duration } of list.getEntries()) tasks.push([startTime, startTime + duration]);
  }).observe({ type: 'longtask', buffered: true });
  window.__held = {
    begin() {
      tasks.length = calls.length = scripts.length = 0;
    },
    end() {
      const within = (parts, from, to) =>
        parts.reduce((sum, [a, b]) => sum + Math.max(0, Math.min(b, to) - Math.max(a, from)), 0);
      const drawing = (from, to) => within(calls, from, to);
      return {
        tasks: tasks.map(([from, to]) => ({ whole: to - from, rest: to - from - drawing(from, to) })),
        scripts: scripts.map(([from, to]) => to - from - drawing(from, to)),
      };
    },
  };
}

const nextFrames = (page) =>
  page.evaluate(
    () =>
      new Promise((resolve) =>
        requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(resolve, 0))),
      ),
  );

async function drag(page, from, to, steps) {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  for (let i = 1; i <= steps; i++) {
    await page.mouse.move(from.x + ((to.x - from.x) * i) / steps, from.y + ((to.y - from.y) * i) / steps);
    await nextFrames(page);
  }
  await page.mouse.up();
}

async function measure(page, what, work) {
  await nextFrames(page);
  await page.evaluate(() => window.__held.begin());
  await work();
  await nextFrames(page);
  const { tasks, scripts } = await page.evaluate(() => window.__held.end());
  const most = (key) => Math.max(0, ...tasks.map((task) => task[key]));
  say(
    `${what}: ${tasks.length} tasks over 50 ms, the longest ${most('whole').toFixed(0)} ms, outside of drawing calls ${most('rest').toFixed(0)} ms, of script alone ${Math.max(0, ...scripts).toFixed(0)} ms`,
  );
}

await inBrowser('drag-database', async ({ page, url }) => {
  await page.addInitScript(watch);
  const made = await fetch(`${url}/api/projects`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ project: town() }),
  });
  const { id } = await made.json();
  for (const [name, path] of [
    ['Kelp Lane', '/p/kelp-lane/sun?option=a&at=2026-03-21T12:00'],
    ['a town of 64 thousand triangles', `/p/${id}/sun?option=a&at=2026-03-21T12:00`],
  ]) {
    await page.goto(url + path);
    await page.locator('.scene-label.north').waitFor();
    await page.waitForTimeout(4000);
    const chart = await page.getByTestId('almanac-chart').boundingBox();
    const at = (x, y) => ({ x: chart.x + chart.width * x, y: chart.y + chart.height * y });
    await measure(page, `${name}, the almanac`, () => drag(page, at(0.3, 0.5), at(0.6, 0.62), 40));
    await page.getByLabel('Kind of view').selectOption('upright');
    await page.waitForTimeout(1500);
    const farther = page.getByRole('button', { name: '1 m farther' });
    await measure(page, `${name}, a section moved 20 times`, async () => {
      for (let i = 0; i < 20; i++) {
        await farther.click();
        await nextFrames(page);
      }
    });
    await page.getByLabel('Kind of view').selectOption('orbit');
  }
});
