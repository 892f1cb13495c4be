import type { Page } from '@playwright/test';
import { gzipSync } from 'node:zlib';
import { coarser, expect, open, sampleCopy, test, toStage } from '../stack';

const heightOf = async (page: Page) => (await page.locator('.almanac').boundingBox())!.height;
const widthOf = async (page: Page) => (await page.locator('.sheet').boundingBox())!.width;

async function dragBy(page: Page, name: string, dx: number, dy: number): Promise<void> {
  const box = (await page.getByRole('separator', { name }).boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + dx, y + dy, { steps: 4 });
  await page.mouse.up();
}

test('the almanac folds to a strip with the clock and the day, its height and the sheet’s width drag, sections fold; all is remembered', async ({
  page,
}) => {
  await open(page, '/p/kelp-lane/sun?option=a&at=2026-03-21T12:00');
  expect(await heightOf(page)).toBe(196);
  await dragBy(page, 'Height of the almanac', 0, -60);
  expect(await heightOf(page)).toBe(256);
  await page.keyboard.press('t');
  await expect.poll(() => heightOf(page)).toBe(40);
  const strip = (await page.getByTestId('day-strip').boundingBox())!;
  await page.mouse.click(strip.x + strip.width * 0.75, strip.y + strip.height / 2);
  await expect(page.getByLabel('Clock time')).toHaveValue('18:00');
  await expect(page.locator('.pane-title')).toContainText('18:00');

  await toStage(page, 'Form');
  await expect(page.getByRole('heading', { name: 'Form', exact: true })).toBeVisible();
  await expect.poll(() => heightOf(page)).toBe(40);
  await page.getByRole('button', { name: 'Open the almanac' }).click();
  await expect.poll(() => heightOf(page)).toBe(256);

  const before = await widthOf(page);
  await dragBy(page, 'Width of the sheet', 80, 0);
  expect(await widthOf(page)).toBe(before + 80);
  await dragBy(page, 'Width of the sheet', 400, 0);
  expect(await widthOf(page)).toBe(460);
  await page.getByRole('separator', { name: 'Width of the sheet' }).focus();
  await page.keyboard.press('ArrowLeft');
  expect(await widthOf(page)).toBe(448);

  await expect(page.getByLabel('Intent')).toBeVisible();
  await page.locator('.sheet h2', { hasText: 'Options' }).getByRole('button', { name: 'Fold' }).click();
  await expect(page.getByLabel('Intent')).toHaveCount(0);
  await page.reload();
  await expect(page.locator('.scene-label.north')).toBeVisible();
  expect(await widthOf(page)).toBe(448);
  expect(await heightOf(page)).toBe(256);
  await expect(page.getByLabel('Intent')).toHaveCount(0);
  await toStage(page, 'Sun');
  await expect.poll(() => heightOf(page)).toBe(40);
});

test('the first action of every stage is in sight without scrolling', async ({ page, stack }) => {
  const id = await sampleCopy(stack, (project) => {
    project.site.place.confirmed = false;
  });
  const actions: [string, RegExp][] = [
    ['Site', /^Confirm place/],
    ['Form', /Rectangle/],
    ['Openings', /^Add a rule/],
    ['Sun', /Sunrise/],
    ['Studies', /^Run/],
  ];
  await open(page, `/p/${id}/climate?option=a&at=2026-03-21T12:00`);
  for (const [stage, name] of actions) {
    // However far down the sheet before was.
    await page.locator('.sheet').evaluate((sheet) => sheet.scrollTo(0, sheet.scrollHeight));
    await toStage(page, stage);
    const sheet = (await page.locator('.sheet').boundingBox())!;
    const action = (await page.locator('.sheet').getByRole('button', { name }).first().boundingBox())!;
    const isSeen = action.y >= sheet.y && action.y + action.height <= sheet.y + sheet.height;
    expect({ stage, isSeen }).toEqual({ stage, isSeen: true });
  }
});

test('the list of projects is fetched without the board', async ({ page }) => {
  const scripts: string[] = [];
  page.on('request', (request) => {
    if (request.resourceType() === 'script') scripts.push(new URL(request.url()).pathname);
  });
  await page.goto('/projects');
  await expect(page.getByRole('button', { name: 'Begin' })).toBeVisible();
  expect(scripts.some((path) => path.includes('/three'))).toBe(false);
  await page.goto('/p/kelp-lane/sun');
  await expect(page.locator('.scene-label.north')).toBeVisible();
  expect(scripts.some((path) => path.includes('/three'))).toBe(true);
  expect(scripts.some((path) => path.includes('site-sheet'))).toBe(false);
});

test('the first view needs less than 300 kB of script, packed, beside three', async ({ page, stack }) => {
  await page.goto('about:blank');
  await page.goto('/p/kelp-lane/sun');
  await expect(page.locator('.board[aria-busy=false]')).toBeVisible();
  const asked = await page.evaluate(() => {
    const drawn = performance.getEntriesByName('first drawn')[0]!.startTime;
    const all = performance.getEntriesByType('resource').filter(({ name }) => name.endsWith('.js'));
    return all.map(({ name, startTime }) => ({ path: new URL(name).pathname, isFirst: startTime < drawn }));
  });
  const first = asked.filter(({ path, isFirst }) => isFirst && !/\/three-|-worker-/.test(path));
  const sizes = first.map(async ({ path }) => {
    const script = await (await fetch(stack.url + path)).arrayBuffer();
    return gzipSync(new Uint8Array(script)).length;
  });
  const bytes = (await Promise.all(sizes)).reduce((sum, size) => sum + size, 0);
  expect(bytes).toBeGreaterThan(150_000);
  expect(bytes).toBeLessThan(300_000);
  // What comes once it stands is there before anything of it is asked for.
  const isThere = (name: string) => asked.some(({ path, isFirst }) => !isFirst && path.includes(`/${name}-`));
  for (const part of ['document-checks', 'other-tools', 'envelope-overlay', 'pictures-dialog'])
    expect({ part, isThere: isThere(part) }).toEqual({ part, isThere: true });
});

test('a stage that cannot be fetched leaves the project open, and comes when the server answers', async ({
  page,
}) => {
  await page.goto('about:blank');
  await page.route('**/climate-sheet-*.js', (route) => route.abort());
  await open(page, '/p/kelp-lane/sun');
  await page.route('**/api/health', (route) => route.abort());
  await page.getByRole('link', { name: 'Climate' }).click();
  await expect(page.locator('.notice')).toContainText(
    'the server is away. It comes when the server answers.',
  );
  await expect(page.locator('.pane-title')).toContainText('Bar');
  await page.getByRole('link', { name: 'Sun' }).click();
  await expect(page.getByRole('heading', { name: 'Sun', exact: true })).toBeVisible();
  await page.getByRole('link', { name: 'Climate' }).click();
  await page.unroute('**/climate-sheet-*.js');
  await expect(page.getByRole('heading', { name: 'Climate', exact: true })).toBeVisible();

  await page.route('**/projects-page-*.js', (route) => route.abort());
  await page.getByRole('link', { name: 'Dial Shade' }).click();
  await expect(page.getByText('the server is away. Try it again when it answers.')).toBeVisible();
  await page.unroute('**/api/health');
  await page.getByRole('button', { name: 'Try again' }).click();
  // The server answers, but not with this: a newer program bears other names.
  await expect(page.getByText('Dial Shade may have been renewed. Reload the page')).toBeVisible();
  await page.unroute('**/projects-page-*.js');
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByLabel('Name of the new project')).toBeVisible();
});

test('a small study is there at once and, live, follows a building that is dragged; a hidden result is looked at', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/studies?option=a&at=2026-03-21T12:00`);
  await page.getByRole('button', { name: /^Run/ }).click();
  const answer = page.getByTestId('answer');
  await expect(answer).toContainText('“Terrace courtyards”');
  const before = await answer.textContent();

  await page.getByRole('button', { name: 'Live' }).click();
  await page.keyboard.press('m');
  // The Bar stands in the middle of the view that shows everything.
  const at = { x: 770, y: 250 };
  await page.mouse.move(at.x, at.y);
  await page.mouse.down();
  await page.mouse.move(at.x, at.y + 40, { steps: 4 });
  await page.mouse.move(at.x, at.y + 120, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: /^Undo: move/ })).toBeVisible();
  await expect(answer).not.toHaveText(before!);
  await expect(page.getByTestId('stale')).toHaveCount(0);
  await page.getByRole('button', { name: 'Live' }).click();
  await expect
    .poll(async () => {
      const runs = (await (await fetch(`${stack.url}/api/projects/${id}/runs`)).json()) as {
        status: string;
      }[];
      return runs.filter(({ status }) => status === 'done').length;
    })
    .toBe(2);

  await page.keyboard.press('Escape');
  await page.keyboard.press('s');
  const eye = () => page.locator('.scene-label.north').getAttribute('style');
  const south = await eye();
  await page.getByRole('button', { name: 'Look at it' }).click();
  await expect.poll(eye).not.toBe(south);
});

test('insolation of a year, live, is weighed again while a period is dragged on the almanac', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/studies?option=a&study=walls-year&at=2026-06-21T12:00`);
  await page.getByRole('button', { name: 'Live' }).click();
  const legend = page.getByTestId('legend');
  await expect(legend).toContainText('Insolation');
  const year = (await legend.textContent())!;
  await page.getByRole('button', { name: 'Window', exact: true }).click();
  const chart = (await page.getByTestId('almanac-chart').boundingBox())!;
  const x = (day: number) => chart.x + 42 + ((chart.width - 88) * day) / 365;
  const y = (hour: number) => chart.y + 17 + ((chart.height - 34) * hour) / 24;
  await page.mouse.move(x(120), y(9));
  await page.mouse.down();
  await page.mouse.move(x(150), y(13), { steps: 4 });
  // The pointer is still down: the coarse picture of what has been brushed so far.
  await expect(legend).toContainText('of what is measured');
  const month = (await legend.textContent())!;
  expect(month).not.toBe(year);
  await page.mouse.move(x(240), y(17), { steps: 6 });
  await expect(legend).not.toHaveText(month);
  await page.mouse.up();
  await expect(legend).not.toContainText('of what is measured');
  // Nothing was asked of the server.
  expect(await (await fetch(`${stack.url}/api/projects/${id}/runs`)).json()).toEqual([]);

  // Left while it is at work: in the next project nothing of it is seen, and what is live there does not wait for it.
  await page.keyboard.press('Control+z');
  const next = await sampleCopy(stack, coarser);
  await open(page, `/p/${next}/studies?option=a&study=walls-year&at=2026-06-21T12:00`);
  await expect(legend).toHaveCount(0);
  await page.getByRole('button', { name: 'Live' }).click();
  await expect(legend).toContainText('Insolation');
});

test('a press counts for the button it began on, though the page moves it; one that is dragged off does not', async ({
  page,
}) => {
  await open(page, '/p/kelp-lane/studies?option=b');
  const polygon = page.getByRole('button', { name: 'Polygon' });
  const press = async () => {
    const { x, y, width, height } = (await polygon.boundingBox())!;
    await page.mouse.move(x + width / 2, y + height / 2);
    await page.mouse.down();
    return { x: x + width / 2, y: y + height / 2 };
  };
  await page.getByRole('button', { name: 'Fold', exact: true }).first().click();
  const { x, y } = await press();
  await page.mouse.move(x + 200, y);
  await page.mouse.up();
  await expect(polygon).toHaveAttribute('aria-pressed', 'false');

  const before = await press();
  await page.getByRole('button', { name: 'Unfold', exact: true }).first().press('Enter');
  await expect(async () => {
    const now = (await polygon.boundingBox())!;
    expect(now.y).toBeGreaterThan(before.y + now.height);
  }).toPass();
  await page.mouse.up();
  await expect(polygon).toHaveAttribute('aria-pressed', 'true');
});
