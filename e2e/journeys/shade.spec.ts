import { instantOf, shadowStudy } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { readFile } from 'node:fs/promises';
import { expect, open, sampleCopy, test } from '../stack';

test('shade is measured exactly, follows the moment, and goes out as drawings', async ({ page, stack }) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/sun?option=c&at=2026-03-21T15:20`);
  await page.getByLabel('Shade on').selectOption('Areas that matter');
  const rows = page.getByTestId('shade-table').locator('tbody tr');
  await expect(rows).toHaveCount(3);
  const project = kelpLane();
  const asComputed = (minutes: number) => {
    const at = instantOf('2026-03-21', minutes, project.site.place.zone);
    const study = shadowStudy(project, 'c', new Map(), [at], 'areas');
    return study.rows.map(({ receiver, shadedM2 }) => `${receiver.name}${shadedM2!.toFixed(1)} m²`);
  };
  for (const [i, text] of asComputed(920).entries()) await expect(rows.nth(i)).toContainText(text);
  await page.locator('.pane-scene').focus();
  await page.keyboard.press('Shift+ArrowUp');
  for (const [i, text] of asComputed(860).entries()) await expect(rows.nth(i)).toContainText(text);

  await page.getByRole('button', { name: 'Solstices and equinoxes', exact: true }).click();
  await page.getByLabel(/All 12 moments/).check();
  await expect(rows).toHaveCount(36);
  const files = { CSV: 'areas.csv', SVG: 'shadows.svg', DXF: 'shadows.dxf', GeoJSON: 'shadows.geojson' };
  const wanted = { CSV: 'moment,target,owner', SVG: '<svg', DXF: 'SECTION', GeoJSON: 'FeatureCollection' };
  for (const kind of Object.keys(files) as (keyof typeof files)[]) {
    const saving = page.waitForEvent('download');
    await page.getByRole('button', { name: kind, exact: true }).click();
    const download = await saving;
    expect(download.suggestedFilename()).toBe(files[kind]);
    expect(await readFile(await download.path(), 'utf8')).toContain(wanted[kind]);
  }

  // At night nothing is measured, and it is said.
  await page.getByLabel(/All 12 moments/).uncheck();
  for (let i = 0; i < 8; i++) await page.keyboard.press('Shift+ArrowDown');
  await page.locator('.pane-scene').focus();
  for (let i = 0; i < 8; i++) await page.keyboard.press('Shift+ArrowDown');
  await expect(page.getByText('The sun is below the horizon.').first()).toBeVisible();
});
