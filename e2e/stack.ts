import { test as base, expect as plainExpect, type Locator, type Page } from '@playwright/test';
import type { Project } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { type ChildProcess, spawn } from 'node:child_process';
import { freePort, startDatabase } from '../scripts/database.mjs';
import { freshDatabase } from '../scripts/fresh-database.mjs';
import { ROOT } from '../scripts/console.mjs';

/** A database and a server of their own, which journeys may stop and start again. */
export interface Stack {
  url: string;
  /** Only where the journeys ask for a database server of their own (`ownPostgres`). */
  haltDatabase(): Promise<void>;
  resumeDatabase(): Promise<void>;
  killServer(): Promise<void>;
  startServer(): Promise<void>;
}

const shared = () => Promise.reject(new Error('This database server is not these journeys’ own.'));

/** A database in the server of all tests, or in one of its own. */
async function openDatabase(ownPostgres: boolean, worker: number) {
  const running = process.env.TEST_DATABASE_URL;
  if (running && !ownPostgres) {
    const url = await freshDatabase(running, `journeys_${worker}`);
    return { url, halt: shared, resume: shared, stop: async () => {} };
  }
  return startDatabase(`journeys-database-${worker}`, { fresh: true });
}

async function startStack(ownPostgres: boolean, worker: number): Promise<Stack & { end(): Promise<void> }> {
  const database = await openDatabase(ownPostgres, worker);
  const port = await freePort();
  const url = `http://127.0.0.1:${port}`;
  let server: ChildProcess;
  const startServer = async () => {
    server = spawn(process.execPath, ['dist/server/main.js'], {
      cwd: ROOT,
      stdio: ['ignore', 'ignore', 'inherit'],
      env: {
        ...process.env,
        DATABASE_URL: database.url,
        DIAL_SHADE_PORT: String(port),
        DIAL_SHADE_LOG: 'error',
        DIAL_SHADE_SAMPLE_RUNS: 'no',
      },
    });
    for (;;) {
      const answer = await fetch(`${url}/api/projects/kelp-lane`).catch(() => null);
      if (answer?.ok) return;
      if (server.exitCode !== null) throw new Error('the server ended');
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  };
  const endServer = (signal: NodeJS.Signals) =>
    new Promise<void>((resolve) => {
      if (server.exitCode !== null) resolve();
      server.once('exit', () => resolve());
      server.kill(signal);
    });
  await startServer();
  return {
    url,
    haltDatabase: database.halt,
    resumeDatabase: database.resume,
    killServer: () => endServer('SIGKILL'),
    startServer,
    async end() {
      await endServer('SIGTERM');
      await database.stop();
    },
  };
}

/** What the journeys of a worker keep: `ownPostgres` gives them a database server that they may stop. */
interface Kept {
  ownPostgres: boolean;
  stack: Stack;
  keptPage: Page;
}

/**
 * Tests with a stack and a page that their worker keeps: journeys go from project to project as somebody does who has the
 * page open all day, and each begins at the list of projects with nothing remembered. A fault in the page fails the test.
 */
export const test = base.extend<{ faults: string[] }, Kept>({
  ownPostgres: [false, { scope: 'worker', option: true }],
  stack: [
    async ({ ownPostgres }, use, { workerIndex }) => {
      const stack = await startStack(ownPostgres, workerIndex);
      await use(stack);
      await stack.end();
    },
    { scope: 'worker' },
  ],
  keptPage: [
    async ({ browser, stack }, use, { project }) => {
      const { viewport, deviceScaleFactor, locale, timezoneId, actionTimeout } = project.use;
      const screen = { reducedMotion: 'reduce' as const, viewport, deviceScaleFactor, locale, timezoneId };
      const context = await browser.newContext({ ...screen, baseURL: stack.url });
      context.setDefaultTimeout(actionTimeout!);
      await use(await context.newPage());
      await context.close();
    },
    { scope: 'worker' },
  ],
  baseURL: async ({ stack }, use) => use(stack.url),
  context: async ({ keptPage }, use) => use(keptPage.context()),
  page: async ({ keptPage }, use, info) => {
    await use(keptPage);
    // What the page said when a journey failed, before it goes on.
    if (info.errors.length > 0) console.log(await keptPage.locator('body').innerText());
    await leave(keptPage);
  },
  faults: [
    async ({ page }, use) => {
      const faults: string[] = [];
      page.on('pageerror', (error) => faults.push(error.message));
      await use(faults);
      page.removeAllListeners();
      expect(faults).toEqual([]);
    },
    { auto: true },
  ],
});

/**
 * Every time that a locator finds nothing yet, Playwright writes down the whole page for its message. So what is going to
 * be looked at is waited for first; what it then has to be is Playwright's own business.
 */
const onceThere = (matcher: 'toBeVisible' | 'toContainText' | 'toHaveText') =>
  async function (this: { isNot: boolean; timeout: number }, locator: Locator, ...wanted: unknown[]) {
    const { timeout = this.timeout } = (wanted.at(-1) ?? {}) as { timeout?: number };
    if (!this.isNot) await locator.waitFor({ state: 'attached', timeout }).catch(() => {});
    const asked = this.isNot ? plainExpect(locator).not : plainExpect(locator);
    try {
      await (asked[matcher] as (...all: unknown[]) => Promise<void>)(...wanted);
      return { pass: !this.isNot, message: () => '' };
    } catch (error) {
      return { pass: this.isNot, message: () => (error as Error).message };
    }
  };

export const expect = plainExpect.extend({
  toBeVisible: onceThere('toBeVisible'),
  toContainText: onceThere('toContainText'),
  toHaveText: onceThere('toHaveText'),
});

/** Goes to an address within the page, as its own links do. */
const goWithin = (page: Page, path: string) =>
  page.evaluate((to) => {
    history.pushState(null, '', to);
    dispatchEvent(new PopStateEvent('popstate'));
  }, path);

const isOpenAt = (page: Page, path: RegExp) =>
  page.url().startsWith('http') && path.test(new URL(page.url()).pathname);

/** Goes to an address: within the page by way of the list of projects, or afresh where there is no page yet. */
async function go(page: Page, path: string): Promise<void> {
  if (!isOpenAt(page, /^\/p(rojects$|\/)/)) {
    await page.goto(path);
    return;
  }
  if (!isOpenAt(page, /^\/projects$/)) {
    await goWithin(page, '/projects');
    await expect(page.getByLabel('Name of the new project')).toBeVisible();
  }
  if (path !== '/projects') await goWithin(page, path);
}

/** Ends a journey: at the list of projects with nothing remembered, or without a page where the frame was laid out anew. */
async function leave(page: Page): Promise<void> {
  const context = page.context();
  for (const other of context.pages()) if (other !== page) await other.close();
  await context.unrouteAll({ behavior: 'ignoreErrors' });
  await page.unrouteAll({ behavior: 'ignoreErrors' });
  await page.mouse.move(0, 0);
  if (isOpenAt(page, /^\/p\//)) await go(page, '/projects');
  const isPlain = await page.evaluate(() => {
    const plain =
      !localStorage.getItem('dial-shade:layout') && localStorage.getItem('dial-shade:theme') !== 'dark';
    localStorage.clear();
    sessionStorage.clear();
    return plain;
  });
  if (!isPlain) await page.goto('about:blank');
}

/** Opens a stage of a project and waits until the board stands, with all that works on it. */
export async function open(page: Page, path: string): Promise<void> {
  await go(page, path);
  await expect(page.getByTestId('read-out')).toBeVisible();
  await expect(page.locator('.scene-label.north')).toBeVisible();
  await expect(page.locator('.board[aria-busy=false]')).toBeVisible();
}

/** A copy of the sample, changed as wanted, that no other journey touches; gives its id. */
export async function sampleCopy(
  stack: Stack,
  change: (project: Project) => void = () => {},
): Promise<string> {
  const project = kelpLane();
  change(project);
  const answer = await fetch(`${stack.url}/api/projects`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ project }),
  });
  return ((await answer.json()) as { id: string }).id;
}

/** Targets with a quarter of the places: where a journey looks at how results are shown, and not at every figure. */
export function coarser({ targets }: Project): void {
  for (const target of targets) target.spacingM *= 2;
}

/** Half the windows, where what is looked at is the same with any number of them. */
export function sparser({ options }: Project): void {
  for (const { make } of options.flatMap(({ rules }) => rules)) if (make.by === 'size') make.spacingM *= 2;
}

/** Begins an empty project and gives its id. */
export async function begin(page: Page, name: string): Promise<string> {
  await go(page, '/projects');
  await page.getByLabel('Name of the new project').fill(name);
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByRole('heading', { name: 'Site', exact: true })).toBeVisible();
  return /\/p\/([^/]+)\//.exec(page.url())![1]!;
}

/** Looks from above at an empty project and gives where a place of its ground lies on the page. */
export async function fromAbove(page: Page): Promise<(x: number, y: number) => { x: number; y: number }> {
  await page.getByRole('button', { name: 'From above (A)' }).click();
  const centre = async (text: string) => {
    const box = (await page.locator('.scene-label', { hasText: text }).boundingBox())!;
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  };
  const apart = (a: { x: number; y: number }, b: { x: number; y: number }) =>
    Math.hypot(a.x - b.x, a.y - b.y);
  // The ring of an empty project has a radius of 40 m. Its letters stand at 1.1 times that, the N at 1.14 times, so that
  // N–S is 2.24 / 2.2 as long as W–E once the view is from above.
  let west = { x: 0, y: 0 };
  let east = west;
  await expect(async () => {
    const [north, south] = [await centre('N'), await centre('S')];
    [west, east] = [await centre('W'), await centre('E')];
    expect(Math.abs(apart(north, south) / apart(west, east) - 2.24 / 2.2)).toBeLessThan(0.01);
    // The stage may just have changed, and the pane its size with it: only what stays where it is counts.
    await page.evaluate(async () => {
      for (let frame = 0; frame < 8; frame++) await new Promise((done) => requestAnimationFrame(done));
    });
    expect(apart(west, await centre('W')) + apart(east, await centre('E'))).toBeLessThan(0.5);
  }).toPass();
  const scale = apart(west, east) / 88;
  return (x, y) => ({ x: (west.x + east.x) / 2 + x * scale, y: (west.y + east.y) / 2 - y * scale });
}

/** Clicks on places of the ground, one after another. */
export async function clickGround(
  page: Page,
  place: (x: number, y: number) => { x: number; y: number },
  points: [number, number][],
): Promise<void> {
  for (const [x, y] of points) {
    const at = place(x, y);
    await page.mouse.move(at.x, at.y);
    await page.mouse.click(at.x, at.y);
  }
}

/** Goes to a stage, and waits until its sheet has taken the place of the one before. */
export async function toStage(page: Page, name: string): Promise<void> {
  await page.getByRole('link', { name, exact: true }).click();
  await expect(page.getByRole('heading', { name, exact: true, level: 1 })).toBeVisible();
}

/** Waits until everything is on the server. */
export async function saved(page: Page): Promise<void> {
  await expect(page.getByTestId('save-status')).toHaveText('Saved');
}
