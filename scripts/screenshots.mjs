import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT, say } from './console.mjs';
import { inBrowser } from './in-browser.mjs';

/** Takes one picture of every main view, from the sample data, for docs/screenshots. */
const folder = join(ROOT, 'docs/screenshots');
mkdirSync(folder, { recursive: true });
/** The page that is looked at, and the address of its server. */
let page;
let url;
const settle = async () => {
  await page.waitForTimeout(1500);
};
const take = async (name) => {
  await settle();
  await page.screenshot({ path: join(folder, `${name}.png`) });
  say(`docs/screenshots/${name}.png`);
};
const open = async (path) => {
  await page.goto(url + path);
  await page.locator('.scene-label.north').waitFor();
  await settle();
};

/** The climate sheet: carpet, months; and the sky vault. */
async function takeClimate() {
  await open('/p/kelp-lane/climate?option=a&at=2026-06-21T12:00');
  await page.getByLabel('Almanac shows').selectOption('dryBulb');
  await page.getByRole('button', { name: 'Show Too warm on the almanac' }).click();
  await page.getByTestId('hour-set-outline').waitFor({ state: 'attached' });
  await page.getByRole('heading', { name: 'Climate' }).scrollIntoViewIfNeeded();
  await take('climate');
  await page.getByLabel('Almanac shows').selectOption('sun');
}

/** Insolation on walls, windows before and after, and who takes their sky. */
async function takeStudies() {
  const study = async (name) => {
    await page.locator('.objects').getByRole('button', { name, exact: true }).click();
    await page.getByTestId('estimate').filter({ hasText: 'points' }).waitFor();
  };
  await open('/p/kelp-lane/studies?option=a&at=2026-06-21T12:00');
  await study('Insolation of the walls');
  await page.getByRole('button', { name: 'Run insolation' }).click();
  await page.getByTestId('legend').filter({ hasNotText: 'of what is measured' }).waitFor();
  await page.getByRole('button', { name: 'Look at it' }).click();
  await take('insolation');
  await study('Sky light at the neighbours’ windows');
  await page.getByRole('button', { name: 'Work out both' }).click();
  await page.getByTestId('compared').waitFor();
  await page.getByRole('button', { name: 'Places', exact: true }).click();
  await page.getByTestId('places').locator('.place-row:not(.head)').first().click();
  await page.getByTestId('compared').scrollIntoViewIfNeeded();
  await take('before-after');
  await page.getByRole('button', { name: 'Close the places' }).click();
  await page.getByRole('button', { name: 'Find who takes it' }).click();
  await page.getByTestId('takers').waitFor();
  await page.getByRole('button', { name: 'On the massing' }).click();
  await page.getByRole('button', { name: 'A storey less' }).click();
  await page.getByRole('button', { name: 'A storey less' }).click();
  await page.getByTestId('takers').evaluate((list) => list.scrollIntoView({ block: 'start' }));
  await page.getByRole('button', { name: 'Fit everything (F)' }).click();
  const pane = await page.locator('.pane-scene').first().boundingBox();
  await page.mouse.move(pane.x + 560, pane.y + 260);
  await page.mouse.down();
  await page.mouse.move(pane.x + 60, pane.y + 240, { steps: 8 });
  await page.mouse.up();
  await take('who-takes-it');
  await page.getByRole('button', { name: 'On the massing' }).click();
}

async function takeAll() {
  await open('/p/kelp-lane/sun?option=a&at=2026-03-21T15:20');
  await page.mouse.click(770, 250);
  await take('sun');

  await page.getByRole('button', { name: 'Four panes' }).click();
  for (const [i, kind] of ['eye', 'level', 'upright', 'sun'].entries())
    await page.getByLabel('Kind of view').nth(i).selectOption(kind);
  await take('panes');
  await page.getByRole('button', { name: 'One pane' }).click();
  await open('/p/kelp-lane/sun?option=a&at=2026-03-21T13:30');
  await page.getByRole('button', { name: 'Waiting room', exact: true }).click();
  await page.getByLabel('Rooms of').selectOption('Bar, storey 1');
  const rooms = page.getByTestId('room-table');
  await rooms.getByRole('button', { name: 'Waiting room' }).click();
  await page.getByTestId('room-details').scrollIntoViewIfNeeded();
  await page.mouse.move(640, 780);
  await take('room');
  await rooms.getByRole('button', { name: 'Treatment room 2' }).click();
  await page.getByRole('button', { name: '21 March, hour by hour', exact: true }).click();
  await page.getByRole('button', { name: 'Section', exact: true }).click();
  await page.getByTestId('room-details').scrollIntoViewIfNeeded();
  await take('section');
  await page.getByLabel('Rooms of').selectOption('none');
  await page.getByLabel('Kind of view').selectOption('orbit');

  await page.getByRole('button', { name: 'Pictures and films', exact: true }).click();
  await page.getByLabel('Size, pixels').selectOption('A size of its own');
  for (const [label, px] of [
    ['Width', '320'],
    ['Height', '200'],
  ]) {
    await page.getByLabel(label, { exact: true }).fill(px);
    await page.getByLabel(label, { exact: true }).press('Enter');
  }
  await page.getByLabel(/^Strip with/).uncheck();
  await page.getByRole('button', { name: 'Set', exact: true }).click();
  for (const option of ['B Court', 'C Stepped']) await page.getByLabel(option, { exact: true }).check();
  await page.getByRole('button', { name: 'Make the set' }).click();
  await page.getByText('36 pictures are made.').waitFor({ timeout: 120_000 });
  await take('pictures');
  await page.getByRole('button', { name: 'Close' }).click();

  await open('/p/kelp-lane/site?option=a&at=2026-03-21T12:00');
  await take('site');
  await open('/p/kelp-lane/form?option=c&at=2026-06-21T09:00');
  await page.mouse.click(820, 300);
  await take('form');

  await open('/p/kelp-lane/openings?option=a&at=2026-03-21T14:00');
  await page.keyboard.press('f');
  await settle();
  await page.mouse.click(780, 330);
  await page.getByRole('region', { name: 'Elevation' }).locator('path.wall').waitFor();
  await take('openings');
  await page.keyboard.press('Escape');

  await open('/p/kelp-lane/studies?option=c&at=2026-03-21T12:00');
  await page.keyboard.press('a');
  await page.getByRole('button', { name: /^Run/ }).click();
  await page.getByTestId('legend').filter({ hasNotText: 'of what is measured' }).waitFor();
  await take('studies');
  const target = await page.locator('.board canvas').boundingBox();
  await page.mouse.click(target.x + target.width * 0.43, target.y + target.height * 0.14);
  await page.getByTestId('probe-light').waitFor();
  await page.getByTestId('probe-light').scrollIntoViewIfNeeded();
  await page.mouse.move(700, 740);
  await take('probe');

  await takeClimate();
  await takeStudies();

  await takeEnvelope();
  await takeCompare();
  await takeShading();
}

/** Whose sun decides how tall it may be, and an option that sticks out. */
async function takeEnvelope() {
  await open('/p/kelp-lane/envelope?option=b&at=2026-03-21T10:00');
  await page.getByTestId('breaches').filter({ hasText: 'stick out' }).waitFor();
  await page.getByLabel('Draw it').selectOption('reasons');
  await page.getByRole('button', { name: 'Prove it by tracing' }).click();
  await page.getByTestId('proof').waitFor();
  await page.getByTestId('breaches').scrollIntoViewIfNeeded();
  await take('envelope');
}

/** Every option by what matters, two of the measures against one another, and a wall of pictures. */
async function takeCompare() {
  await open('/p/kelp-lane/compare?option=c');
  await page.getByRole('button', { name: 'Bring up to date' }).click();
  await page.getByText('results match the model').waitFor();
  await take('compare');
  await page.getByRole('button', { name: 'Wall', exact: true }).click();
  const wall = page.getByTestId('wall');
  await wall.getByLabel('Across').selectOption('studies');
  await wall.locator('img').nth(11).waitFor();
  await take('wall');
  await page.getByRole('button', { name: 'Table', exact: true }).click();
}

/** A scheme that stands, a window's year on the almanac, and a size found; last, as it changes the sample. */
async function takeShading() {
  await open('/p/kelp-lane/shading?option=a&at=2026-06-21T15:00');
  await page.getByRole('button', { name: 'Overhangs', exact: true }).click();
  await page.getByTestId('devices-year').waitFor();
  await page.getByTestId('room-light').waitFor();
  await page.getByLabel('On the almanac').selectOption('shade');
  await page.getByTestId('tone-legend').waitFor();
  await page.getByRole('button', { name: 'Look at it' }).click();
  await page.getByLabel('On the almanac').scrollIntoViewIfNeeded();
  await take('shading');
  await page.getByRole('button', { name: 'Louvres', exact: true }).click();
  await page.getByText('Other kinds beside it').click();
  for (const kind of ['Overhang', 'Fins', 'Screen'])
    await page.getByRole('checkbox', { name: kind, exact: true }).check();
  await page.getByRole('button', { name: 'Try them' }).click();
  await page.getByTestId('sweep-said').waitFor();
  await page.getByRole('button', { name: 'Try them' }).waitFor();
  await page.getByTestId('sweep-chart').focus();
  for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowRight');
  await page.getByTestId('sweep-chart').evaluate((chart) => chart.scrollIntoView({ block: 'center' }));
  await take('sweep');
}

await inBrowser('screenshots-database', async (opened) => {
  page = opened.page;
  url = opened.url;
  await takeAll();
});
