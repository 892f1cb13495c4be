import { extentOf, optionParts, OUT_FORMATS, writeOption } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { readFile } from 'node:fs/promises';
import { SMALL_IFC } from '../../core/testing/small-ifc';
import { expect, open, sampleCopy, saved, test, toStage } from '../stack';

const DXF =
  '0 SECTION 2 HEADER 9 $INSUNITS 70 4 0 ENDSEC 0 SECTION 2 ENTITIES 0 LWPOLYLINE 8 Plot 90 4 70 1 10 0 20 0 10 9000 20 0 10 9000 20 6000 10 0 20 6000 0 ENDSEC 0 EOF'
    .split(' ')
    .join('\n');

test('an option goes out in every format and comes in again with the same size', async ({ page, stack }) => {
  const id = await sampleCopy(stack);
  const levels = optionParts(kelpLane(), 'b', new Map()).map(({ mesh }) => extentOf(mesh.positions));
  const tall = Math.max(...levels.map((e) => e.max[2])) - Math.min(...levels.map((e) => e.min[2]));
  for (const format of OUT_FORMATS) {
    const size = format === 'geojson' ? 'outlines between' : `${tall.toFixed(1)} m tall`;
    await open(page, `/p/${id}/form?option=b`);
    await page.getByLabel('Send out as').selectOption(format);
    const download = page.waitForEvent('download');
    await page.getByRole('link', { name: 'File', exact: true }).click();
    const file = await download;
    const bytes = await readFile((await file.path())!);
    const same = await writeOption(kelpLane(), 'b', new Map(), format);
    expect(Buffer.compare(bytes, Buffer.from(same))).toBe(0);
    await toStage(page, 'Site');
    await page.getByRole('button', { name: 'Bring in', exact: true }).click();
    await page
      .getByLabel('Model file')
      .setInputFiles({ name: file.suggestedFilename(), mimeType: 'application/octet-stream', buffer: bytes });
    await expect(page.getByTestId('model-size')).toContainText(size);
    await page.getByRole('button', { name: 'Leave it' }).click();
  }
});

test('IFC comes in by kinds of element, with glass, rooms, place and north; DXF as footprints of an option', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/site?option=a`);
  const dialog = page.getByRole('dialog');
  const choose = async (name: string, text: string) => {
    await page.getByRole('button', { name: 'Bring in', exact: true }).click();
    await page
      .getByLabel('Model file')
      .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
  };
  await choose('clinic.ifc', SMALL_IFC.slice(0, 900));
  await expect(dialog.getByRole('alert')).toContainText('The IFC file is not sound');
  await dialog.getByRole('button', { name: 'Close' }).click();
  await choose('clinic.ifc', SMALL_IFC);
  await expect(page.getByTestId('model-size')).toContainText('3.0 m tall');
  const rows = dialog.getByRole('table', { name: 'What each part becomes' });
  await expect(rows).toContainText('Wall');
  await expect(rows).toContainText('Glass');
  await dialog.getByLabel('Rooms becomes').selectOption('area');
  await dialog.getByLabel(/true north \(30\.0°\)/).check();
  await dialog.getByRole('button', { name: 'Bring in', exact: true }).click();
  await expect(page.getByLabel('True north', { exact: true })).toHaveValue('30');
  await expect(page.getByRole('button', { name: 'Treatment room', exact: true })).toBeVisible();
  await expect(page.locator('.pane-warning')).toContainText('Place and north not confirmed');

  await choose('plot.dxf', DXF);
  await expect(page.getByTestId('model-size')).toContainText('9.0 m wide and 6.0 m deep');
  await dialog.getByLabel('Plot becomes').selectOption('option');
  await dialog.getByRole('button', { name: 'Bring in', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Plot 1', exact: true })).toBeVisible();
  await saved(page);
});

test('a terrain comes from heights, buildings sit on it, and coordinates can be pasted', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/site?option=a`);
  const heights = page.getByLabel('Terrain from heights');
  await heights.setInputFiles({ name: 'h.txt', mimeType: 'text/plain', buffer: Buffer.from('0 0 1\n1 1') });
  await expect(page.getByRole('alert')).toContainText('Line 2: a height needs three numbers');
  const points = [-40, 0, 40, 80]
    .flatMap((x) => [-60, 0, 60].map((y) => `${x} ${y} ${20 - x / 20}`))
    .join('\n');
  await heights.setInputFiles({ name: 'h.txt', mimeType: 'text/plain', buffer: Buffer.from(points) });
  await expect(page.locator('.sheet')).toContainText('16.0 to 22.0 m');
  await page.getByLabel('Paste coordinates').fill('nowhere');
  await page.getByLabel('Paste coordinates').press('Enter');
  await expect(page.getByRole('alert')).toContainText('is no pair of coordinates');
  await page.getByLabel('Paste coordinates').fill('33°6\'0"S 70°54\'0"W');
  await page.getByLabel('Paste coordinates').press('Enter');
  await expect(page.getByLabel('Latitude', { exact: true })).toHaveValue('-33.1');
  await expect(page.getByLabel('Time zone')).toHaveValue('America/Santiago');
  await page.getByRole('button', { name: 'Tree', exact: true }).click();
  const board = (await page.locator('.board canvas').boundingBox())!;
  await page.mouse.click(board.x + board.width / 2, board.y + board.height * 0.7);
  await expect(page.getByLabel('Width of the crown')).toHaveValue('6');
  await expect(page.getByLabel('In leaf from (MM-DD)')).toHaveValue('10-20');
  await saved(page);
});
