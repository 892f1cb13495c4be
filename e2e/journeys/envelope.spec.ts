import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { begin, clickGround, expect, fromAbove, open, sampleCopy, saved, test, toStage } from '../stack';

const figures = (page: Page) => page.getByTestId('envelope-figures');

/** The floor area that the sheet says, once the surface is the whole one. */
async function floorArea(page: Page): Promise<number> {
  await expect(figures(page)).not.toHaveClass(/refining/);
  return Number((await figures(page).locator('dd').first().innerText()).replace(/[^\d.]/g, ''));
}

test('an envelope from nothing: drawn, set back by the mouse, a garden kept, its hours brushed', async ({
  page,
}) => {
  await begin(page, 'Envelope of nothing');
  await toStage(page, 'Envelope');
  await expect(page.getByText('How tall may it be?')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Keep clear round about' })).toBeDisabled();
  await page.getByRole('button', { name: 'New envelope' }).click();
  await expect(page.getByRole('alert')).toContainText('nothing to build on');
  const place = await fromAbove(page);
  await page.getByRole('button', { name: 'Rectangle', exact: true }).click();
  await clickGround(page, place, [
    [-10, -10],
    [10, 10],
  ]);
  await expect(figures(page)).toContainText('Without limit400.0 m²');
  await expect(page.getByText('Nothing limits it')).toBeVisible();

  // The southern edge is dragged inwards, a strip is drawn, and a limit typed.
  const [edge, inwards] = [place(2, -10), place(2, -6)];
  await page.mouse.move(edge.x, edge.y);
  await expect(page.locator('.pane-tip')).toContainText('Set back 0.00 m');
  await page.mouse.down();
  await page.mouse.move(inwards.x, inwards.y, { steps: 6 });
  await expect(page.locator('.pane-tip')).toContainText('Set back 4');
  await page.mouse.up();
  await expect(figures(page)).toContainText('To build on320.0 m²');
  await expect(page.getByLabel('Each edge has its own setback')).toBeChecked();
  await page.getByRole('button', { name: 'No-build strip' }).click();
  await clickGround(page, place, [
    [-10, 8],
    [10, 8],
    [10, 10],
    [-10, 10],
  ]);
  await page.keyboard.press('Enter');
  await expect(figures(page)).toContainText('To build on280.0 m²');
  await page.getByLabel('Height limit').selectOption('ground');
  await page.getByLabel('At most').fill('12');
  await page.getByLabel('At most').press('Enter');
  await expect(figures(page)).toContainText('Highest12.00 m');
  await expect(page.getByTestId('reasons')).toContainText('height limit');

  // A garden to the north is drawn on Site and kept.
  await toStage(page, 'Site');
  await page.getByRole('button', { name: /^Draw an area/ }).click();
  await clickGround(page, place, [
    [-10, 15],
    [10, 15],
    [10, 25],
    [-10, 25],
  ]);
  await page.keyboard.press('Enter');
  await toStage(page, 'Envelope');
  const free = await floorArea(page);
  await page.getByLabel('Keep it on').selectOption({ label: 'Area 1' });
  await expect(page.getByTestId('reasons')).toContainText('Area 1');
  const kept = await floorArea(page);
  expect(kept).toBeLessThan(free);

  // Longer hours, brushed on the almanac, leave less.
  await page.getByRole('button', { name: 'Window', exact: true }).click();
  const chart = (await page.getByTestId('almanac-chart').boundingBox())!;
  const y = (hour: number) => chart.y + 17 + ((chart.height - 34) * hour) / 24;
  const x = (day: number) => chart.x + 42 + ((chart.width - 88) * day) / 365;
  await page.mouse.move(x(60), y(8));
  await page.mouse.down();
  await page.mouse.move(x(110), y(17), { steps: 6 });
  await page.mouse.up();
  await expect(page.getByTestId('window-box')).toContainText('08:00–17:00');
  await expect(async () => expect(await floorArea(page)).toBeLessThan(kept)).toPass();

  // A corner of the garden is dragged away from it; an undo brings it back.
  const near = await floorArea(page);
  for (const x of [-10, 10]) {
    const [a, b] = [place(x, 15), place(x, 22)];
    await page.mouse.move(a.x, a.y);
    await expect(page.locator('.pane-tip')).toContainText('Corner of Area 1');
    await page.mouse.down();
    await page.mouse.move(b.x, b.y, { steps: 5 });
    await page.mouse.up();
  }
  await expect(async () => expect(await floorArea(page)).toBeGreaterThan(near)).toPass();
  await page.getByRole('button', { name: /^Undo: move a corner of Area 1/ }).click();
  await page.getByRole('button', { name: /^Undo: move a corner of Area 1/ }).click();
  await expect(async () => expect(await floorArea(page)).toBe(near)).toPass();
  await saved(page);
});

test('the sample: an option that sticks out, whose sun it takes, cut to fit, filled, proven and sent out', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/envelope?option=b`);
  const out = page.getByTestId('breaches');
  await expect(out).toContainText(/[\d,]+ m³ of [\d,]+ m³ stick out/);
  await page.getByRole('button', { name: /^Terrace courtyards up to/ }).click();
  await expect(page).toHaveURL(/at=2026-03-21T1\d/);
  await page.getByLabel('Draw it').selectOption('reasons');
  await page.getByLabel('Contours').selectOption('datum');
  await expect(page.getByTestId('reasons')).toContainText('Allotment garden');

  await page.getByRole('button', { name: 'Cut to fit' }).click();
  await expect(page.locator('.notice').last()).toContainText('Floor area:');
  await expect(out).toContainText('All of it stays under the envelope');
  await page.getByRole('button', { name: /^Undo: cut Court to fit/ }).click();
  await expect(out).toContainText('stick out');
  // Lowering alone leaves nothing of it, which is said and not done.
  await page.getByLabel('Cut by').selectOption('lower');
  await page.getByRole('button', { name: 'Cut to fit' }).click();
  await expect(page.locator('.notice').last()).toContainText('Nothing of “Court” fits');

  await page.getByRole('button', { name: 'Prove it by tracing' }).click();
  await expect(page.getByTestId('proof')).toContainText(/none of [\d,]+ rays to kept sun is taken/);
  await page.getByRole('button', { name: 'Fill it with storeys' }).click();
  await expect(page.getByRole('button', { name: /^Fill of Sun on gardens/, pressed: true })).toBeVisible();
  await expect(out).toContainText('All of it stays under the envelope');

  // Up to its surface, as one body with a sloping top.
  await page.getByLabel('Top', { exact: true }).selectOption('sloped');
  await page.getByRole('button', { name: 'Fill it to the surface' }).click();
  await expect(page.locator('.notice').last()).toContainText('under a sloping top');
  await expect(out).toContainText('All of it stays under the envelope');

  await page.getByRole('button', { name: 'Floor area against hours kept' }).click();
  const said = page.getByTestId('hours-said');
  await expect(said).toContainText(/An hour more .* costs [\d.]+ m² of floor/);
  const before = await floorArea(page);
  await page.getByTestId('hours-chart').getByRole('button').first().press('Enter');
  await expect(page.getByLabel('First hour')).toHaveValue('12:00');
  await expect(async () => expect(await floorArea(page)).toBeGreaterThan(before)).toPass();
  // What was proven is not proven of this.
  await expect(page.getByTestId('proof')).toHaveCount(0);

  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'CSV', exact: true }).click(),
  ]);
  expect(readFileSync(await file.path(), 'utf8')).toMatch(/^\uFEFFx,y,height_m,decided_by,at\r?\n/);
  const [dxf] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'DXF', exact: true }).click(),
  ]);
  expect(dxf.suggestedFilename()).toBe('Sun-on-gardens-and-courtyards.dxf');

  // Round about, what neighbours might build is looked at in the same way.
  await page.getByRole('button', { name: 'Keep clear round about' }).click();
  await expect(page.getByRole('button', { name: 'Keep clear 2', exact: true })).toBeVisible();
  await page.getByLabel('Keep it on').selectOption({ label: 'Terrace courtyards' });
  await expect(page.getByTestId('reasons')).toContainText('Terrace courtyards');
  await page.getByRole('button', { name: 'Remove Keep clear 2' }).click();
  await expect(page.getByRole('button', { name: 'Keep clear 2', exact: true })).toHaveCount(0);
});
