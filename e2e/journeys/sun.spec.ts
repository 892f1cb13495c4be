import { readFile } from 'node:fs/promises';
import { kelpLane } from '@dial-shade/samples';
import { sunPosition, instantOf } from '@dial-shade/core';
import { expect, open, sampleCopy, saved, test } from '../stack';

const picture = (page: import('@playwright/test').Page) => page.locator('.board canvas').screenshot();

/** What the read-out says of the sun. */
async function sunOf(page: import('@playwright/test').Page) {
  const text = await page.getByTestId('read-out').innerText();
  const [altitude, azimuth] = [...text.matchAll(/(−?[\d.]+)°/g)].map((match) =>
    Number(match[1]!.replace('−', '-')),
  );
  return { altitude: altitude!, azimuth: azimuth! };
}

test('the first start opens the sample on the Sun stage with the sun moving a shadow', async ({ page }) => {
  await page.emulateMedia({ reducedMotion: 'no-preference' });
  await page.goto('/');
  await expect(page).toHaveURL(/\/p\/kelp-lane\/sun/);
  await expect(page.getByRole('button', { name: 'Day', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  const before = await sunOf(page);
  await expect(async () => expect((await sunOf(page)).azimuth).not.toBe(before.azimuth)).toPass();
  await page.getByRole('button', { name: 'Day', exact: true }).click();
});

test('the sun of a moment in the address stands where the computation says, and the picture follows', async ({
  page,
}) => {
  await open(page, '/p/kelp-lane/sun?option=a&at=2026-05-04T16:30');
  const { place } = kelpLane().site;
  const sun = sunPosition(instantOf('2026-05-04', 16 * 60 + 30, place.zone), place);
  await expect
    .poll(() => sunOf(page))
    .toEqual({
      altitude: Number(sun.altitudeDeg.toFixed(1)),
      azimuth: Number(sun.azimuthDeg.toFixed(1)),
    });
  await expect(page.locator('.clock')).toContainText('UTC+1, summer time');
  await expect(page.locator('.clock')).toContainText('Solar time 15:1');
  const afternoon = await picture(page);
  await page.getByLabel('Clock time').fill('09:00');
  await page.getByLabel('Clock time').press('Enter');
  await expect(page).toHaveURL(/at=2026-05-04T09%3A00|at=2026-05-04T09:00/);
  expect((await picture(page)).equals(afternoon)).toBe(false);
});

test('the crosshair is dragged along a day and across the year; arrow keys step it', async ({ page }) => {
  await open(page, '/p/kelp-lane/sun?option=a&at=2026-03-21T12:00');
  const chart = page.getByTestId('almanac-chart');
  const box = (await chart.boundingBox())!;
  const cross = page.getByTestId('crosshair').locator('circle');
  const at = async () => (await cross.boundingBox())!;
  const start = await at();
  await page.mouse.move(start.x + 6, start.y + 6);
  await page.mouse.down();
  await page.mouse.move(start.x + 6, start.y + 40, { steps: 4 });
  await page.mouse.up();
  expect((await at()).y).toBeGreaterThan(start.y + 20);
  await expect(page.getByLabel('Date', { exact: true })).toHaveValue('2026-03-21');
  const late = await sunOf(page);
  await page.mouse.move(start.x + 6, start.y + 40);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.5, start.y + 40, { steps: 6 });
  await page.mouse.up();
  await expect(page.getByLabel('Date', { exact: true })).toHaveValue(/2026-0[67]-/);
  expect((await sunOf(page)).altitude).toBeGreaterThan(late.altitude + 10);
  const date = await page.getByLabel('Date', { exact: true }).inputValue();
  await chart.focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByLabel('Date', { exact: true })).not.toHaveValue(date);
});

test('a day and a season can be played', async ({ page }) => {
  await open(page, '/p/kelp-lane/sun?option=b&at=2026-03-21T12:00');
  const time = page.getByLabel('Clock time');
  await page.getByRole('button', { name: 'Day', exact: true }).click();
  await expect(time).not.toHaveValue('12:00');
  await page.getByRole('button', { name: 'Season', exact: true }).click();
  await expect(page.getByLabel('Date', { exact: true })).not.toHaveValue('2026-03-21');
  await page.getByRole('button', { name: 'Season', exact: true }).click();
  const stopped = await page.getByLabel('Date', { exact: true }).inputValue();
  await page.keyboard.press('Shift+Space');
  await expect(page.getByLabel('Date', { exact: true })).not.toHaveValue(stopped);
  await page.keyboard.press('Escape');
});

test('solstices, equinoxes and clock changes of the year are marked', async ({ page }) => {
  await open(page, '/p/kelp-lane/sun?at=2026-03-21T12:00');
  // Published instants for 2026: 20 March 14:46 UTC, 21 June 08:25 UTC, 23 September 00:06 UTC, 21 December 20:50 UTC.
  const marks = page.locator('.sheet .objects').first();
  for (const text of ['20 Mar, 14:46', '21 Jun, 09:2', '23 Sep, 01:0', '21 Dec, 20:5', '29 Mar', '25 Oct'])
    await expect(marks).toContainText(text);
  await page.getByRole('button', { name: 'December solstice' }).click();
  await expect(page.getByLabel('Date', { exact: true })).toHaveValue('2026-12-21');
  await expect(page.getByTestId('almanac-chart')).toContainText('clocks +1 h');
});

test('options are switched by click and by number keys, each with its own scene', async ({ page }) => {
  await open(page, '/p/kelp-lane/sun?option=a&at=2026-03-21T12:00');
  const pictures: Buffer[] = [];
  for (const [key, name] of [
    ['1', 'Bar'],
    ['2', 'Court'],
    ['3', 'Stepped'],
    ['0', 'Today'],
  ] as const) {
    await page.keyboard.press(key);
    await expect(page.locator('.pane-title')).toContainText(name);
    await page.mouse.move(700, 730);
    pictures.push(await picture(page));
  }
  for (let i = 1; i < pictures.length; i++) expect(pictures[i]!.equals(pictures[i - 1]!)).toBe(false);
  await page.getByRole('button', { name: 'Court' }).click();
  await expect(page).toHaveURL(/option=b/);
});

test('a wall is picked and its shadow angles are said', async ({ page }) => {
  await open(page, '/p/kelp-lane/sun?option=a&at=2026-03-21T12:00');
  await page.getByRole('button', { name: 'From drawing south (S)' }).click();
  const canvas = (await page.locator('.board canvas').boundingBox())!;
  const readOut = page.getByTestId('read-out');
  await expect(async () => {
    for (const dy of [0, -20, -40, -60]) {
      await page.mouse.click(canvas.x + canvas.width * 0.51, canvas.y + canvas.height / 2 + dy);
      if (/HSA/.test(await readOut.innerText())) break;
    }
    expect(await readOut.innerText()).toContain('HSA');
  }).toPass();
  const text = await readOut.innerText();
  const number = (label: string) =>
    Number(new RegExp(`${label}\\s+(−?[\\d.]+)°`).exec(text)![1]!.replace('−', '-'));
  // The south walls of the drawing face 180° − 14° of true north.
  expect(number('Facade azimuth')).toBeCloseTo(166, 1);
  const hsa = number('HSA');
  expect(hsa).toBeCloseTo(number('Sun azimuth') - 166, 0);
  const rad = Math.PI / 180;
  expect(Math.tan(number('VSA') * rad)).toBeCloseTo(
    Math.tan(number('Sun altitude') * rad) / Math.cos(hsa * rad),
    1,
  );
});

test('the view turns, fits, looks from the four sides and from above', async ({ page }) => {
  await open(page, '/p/kelp-lane/sun?option=c&at=2026-06-21T10:00');
  const seen = new Set<string>();
  for (const key of ['f', 'a', 'n', 'e', 's', 'w']) {
    await page.keyboard.press(key);
    await page.mouse.move(700, 730);
    await expect(async () => {
      const now = (await picture(page)).toString('base64');
      expect(seen.has(now)).toBe(false);
      seen.add(now);
    }).toPass();
  }
  await page.keyboard.press('f');
  const before = await picture(page);
  await page.mouse.move(1150, 500);
  await page.mouse.down();
  await page.mouse.move(1000, 480, { steps: 4 });
  await page.mouse.up();
  expect((await picture(page)).equals(before)).toBe(false);
});

test('a viewpoint is kept, renamed and looked from again; the eye is where it was after a reload', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/sun?option=b&at=2026-06-21T10:00`);
  const place = async () => {
    let style: string | null = null;
    await expect(async () => {
      style = await page.locator('.scene-label.north').getAttribute('style');
      expect(style).toContain('translate');
    }).toPass();
    return style;
  };
  for (const key of [']', '+']) {
    const before = await place();
    await page.keyboard.press(key);
    await expect(async () => expect(await place()).not.toBe(before)).toPass();
  }
  await page.getByRole('button', { name: 'Keep this view' }).click();
  await page.getByLabel('Name').fill('From the quay');
  await page.getByLabel('Name').press('Enter');
  const kept = await place();
  await page.getByRole('button', { name: 'From above (A)' }).click();
  await expect(async () => expect(await place()).not.toBe(kept)).toPass();
  await page.getByRole('button', { name: 'From the quay', exact: true }).click();
  await expect(async () => expect(await place()).toBe(kept)).toPass();
  await saved(page);
  await page.reload();
  await expect(page.getByRole('button', { name: 'From the quay', exact: true })).toBeVisible();
  await expect(async () => expect(await place()).toBe(kept)).toPass();
});

test('commands are searched and keys are listed', async ({ page }) => {
  await open(page, '/p/kelp-lane/sun?option=a&at=2026-03-21T12:00');
  await page.keyboard.press('Control+k');
  await page.getByLabel('Command', { exact: true }).fill('court');
  await page.keyboard.press('Enter');
  await expect(page.locator('.pane-title')).toContainText('Court');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toContainText('From above');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Night theme' }).click();
  await expect(page.locator('html')).toHaveAttribute('data-bs-theme', 'dark');
});

test('the sun-path chart is drawn in each projection, dragged along the day, and taken out', async ({
  page,
}) => {
  await open(page, '/p/kelp-lane/sun?option=a&at=2026-03-21T12:00');
  const chart = page.getByRole('img', { name: /^Sun-path chart/ });
  await chart.scrollIntoViewIfNeeded();
  const box = (await chart.boundingBox())!;
  // West of the middle lies the afternoon.
  await page.mouse.move(box.x + box.width / 2, box.y + box.height * 0.62);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.12, box.y + box.height * 0.55, { steps: 4 });
  await page.mouse.up();
  await expect(page).toHaveURL(/at=2026-03-21T1[678]%3A/);
  for (const projection of ['Equidistant', 'Orthographic', 'Altitude over azimuth']) {
    const before = await chart.innerHTML();
    await page.getByLabel('Projection').selectOption(projection);
    await expect(async () => expect(await chart.innerHTML()).not.toBe(before)).toPass();
  }
  const svg = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Chart as SVG' }).click();
  const text = await readFile(await (await svg).path(), 'utf8');
  expect(text).toContain('<svg');
  expect(text).not.toContain('var(--');
  const png = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Chart as PNG' }).click();
  const bytes = await readFile(await (await png).path());
  expect([...bytes.subarray(1, 4)].map((c) => String.fromCharCode(c)).join('')).toBe('PNG');
  // Width in the header of the file.
  expect(bytes.readUInt32BE(16)).toBe(1600);
});
