import type { Page } from '@playwright/test';
import { extentOf, optionParts, OUT_FORMATS, writeOption } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { readFile } from 'node:fs/promises';
import { SMALL_IFC } from '../../core/testing/small-ifc';
import { begin, expect, open, sampleCopy, saved, test, toStage } from '../stack';

const DXF =
  '0 SECTION 2 HEADER 9 $INSUNITS 70 4 0 ENDSEC 0 SECTION 2 ENTITIES 0 LWPOLYLINE 8 Plot 90 4 70 1 10 0 20 0 10 9000 20 0 10 9000 20 6000 10 0 20 6000 0 ENDSEC 0 EOF'
    .split(' ')
    .join('\n');

/** Gives the import dialog a file. */
const chooser = (page: Page) => async (name: string, text: string) => {
  await page.getByRole('button', { name: 'Bring in', exact: true }).click();
  await page
    .getByLabel('Model file')
    .setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
};

test('an option goes out in every format and comes in again with the same size', async ({ page, stack }) => {
  const id = await sampleCopy(stack);
  const levels = optionParts(kelpLane(), 'b', new Map()).map(({ mesh }) => extentOf(mesh.positions));
  const tall = Math.max(...levels.map((e) => e.max[2])) - Math.min(...levels.map((e) => e.min[2]));
  await open(page, `/p/${id}/form?option=b`);
  for (const format of OUT_FORMATS) {
    const size = format === 'geojson' ? 'outlines between' : `${tall.toFixed(1)} m tall`;
    await toStage(page, 'Form');
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
  const choose = chooser(page);
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

test('files of a survey stand in relation: a drawing in plan with an outline left out, GeoJSON by its map system', async ({
  page,
}) => {
  await begin(page, 'Survey');
  await toStage(page, 'Site');
  const dialog = page.getByRole('dialog');
  const choose = chooser(page);
  const box = (layer: string, x: number, y: number) =>
    [
      `0 LWPOLYLINE 8 ${layer} 70 1`,
      ...[
        [0, 0],
        [20_000, 0],
        [20_000, 12_000],
        [0, 12_000],
      ].map(([dx, dy]) => `10 ${x + dx!} 20 ${y + dy!}`),
    ].join(' ');
  const drawing = [
    '0 SECTION 2 TABLES 0 LAYER 2 OLD 70 1 62 7 0 ENDSEC 0 SECTION 2 ENTITIES',
    ...[0, 1, 2].map((i) => box('HOUSES', 691_234_000 + i * 30_000, 5_334_567_000)),
    box('OLD', 691_234_000, 5_334_600_000),
    '0 TEXT 8 HOUSES 1 a 0 ENDSEC 0 EOF',
  ];
  await choose('plan.dxf', drawing.join(' ').split(' ').join('\n'));
  await expect(page.getByTestId('model-size')).toContainText('80.0 m wide');
  for (const said of [
    'in the coordinates of a survey',
    'taken as millimetres',
    'frozen or off',
    'Not read: 1 TEXT',
  ])
    await expect(dialog).toContainText(said);
  await expect(dialog.getByLabel('OLD (frozen) becomes')).toHaveValue('leave');
  const plan = dialog.getByRole('group', { name: 'Outlines in plan' });
  await plan.getByRole('button', { name: 'HOUSES 2' }).click();
  await expect(plan.getByRole('button', { name: 'HOUSES 2, left out' })).toHaveAttribute(
    'aria-pressed',
    'false',
  );
  // By keys: on to the next outline, and in or out with it.
  await plan.focus();
  await page.keyboard.press('ArrowRight');
  const first = await plan.getAttribute('aria-activedescendant');
  const one = plan.locator(`#${first}`);
  await page.keyboard.press('Space');
  const name = (await one.locator('title').textContent())!;
  const isOut = name === 'HOUSES 2' ? 'true' : 'false';
  await expect(one).toHaveAttribute('aria-pressed', isOut);
  await page.keyboard.press('Space');
  await expect(one).not.toHaveAttribute('aria-pressed', isOut);
  await dialog.getByLabel('Placed by').selectOption('origin');
  await expect(dialog).toContainText('of the file is the project origin now');
  await dialog.getByLabel('Placed by').selectOption('itself');
  await dialog.getByRole('button', { name: 'Bring in', exact: true }).click();
  await expect(page.getByText('Neighbours (2)')).toBeVisible();
  await expect(page.getByTestId('survey')).toContainText('Survey origin (691,274, 5,334,590, 0)');

  const feature = (properties: object, x: number) => ({
    ...{ type: 'Feature', properties },
    geometry: {
      type: 'Polygon',
      coordinates: [
        [
          [x, 5_334_567],
          [x + 20, 5_334_567],
          [x + 20, 5_334_579],
          [x, 5_334_567],
        ],
      ],
    },
  });
  await choose(
    'houses.geojson',
    JSON.stringify({
      type: 'FeatureCollection',
      features: [feature({ height: '35 ft' }, 691_334), feature({ 'building:levels': 4 }, 691_364)],
    }),
  );
  await expect(dialog).toContainText('Heights from “height”: 10.67 m, of 1 of 2 outlines.');
  await expect(dialog).toContainText('It stands where the survey origin');
  // Another property says the heights, and how: what is taken is told before anything is brought in.
  await dialog.getByLabel('Heights from').selectOption('building:levels');
  await dialog.getByLabel('It is').selectOption('storeys');
  await expect(dialog).toContainText('Storeys from “building:levels”: 4 of 3 m each, of 1 of 2 outlines.');
  await expect(dialog).toContainText('No height is known of 1 of 2 outlines: taken as 6 m');
  await dialog.getByLabel('It is').selectOption('levels');
  await expect(dialog.getByLabel('Ground level in')).toBeVisible();
  await dialog.getByLabel('Heights from').selectOption('');
  await expect(dialog).toContainText('Heights from “height”');
  await dialog.getByLabel('A storey is').fill('2.5');
  await dialog.getByLabel('A storey is').press('Enter');
  await dialog.getByRole('button', { name: 'Bring in', exact: true }).click();
  await expect(page.getByText('Neighbours (4)')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Outline 2', exact: true })).toBeVisible();
  await expect(page.locator('.sheet')).toContainText('10.0 m high');
  await saved(page);
});

test('a line round houses is a plot or a building with courts, and swapped degrees are asked about', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/site?option=a`);
  const dialog = page.getByRole('dialog');
  const choose = chooser(page);
  const ring = (x: number, y: number, w: number, h: number) =>
    `0 LWPOLYLINE 8 PLAN 70 1 10 ${x} 20 ${y} 10 ${x + w} 20 ${y} 10 ${x + w} 20 ${y + h} 10 ${x} 20 ${y + h}`;
  const drawing = [
    '0 SECTION 2 HEADER 9 $INSUNITS 70 6 0 ENDSEC 0 SECTION 2 ENTITIES',
    ...[ring(400, 400, 60, 40), ring(410, 410, 12, 10), ring(435, 415, 12, 10)],
    '0 ENDSEC 0 EOF',
  ];
  await choose('plan.dxf', drawing.join(' ').split(' ').join('\n'));
  await expect(dialog.getByLabel('PLAN, round others becomes')).toHaveValue('boundary');
  await dialog.getByLabel('Lines round others').selectOption('courts');
  await expect(dialog).toContainText('2 rings within others of their layer are taken as courts.');
  await expect(dialog.getByLabel('PLAN, round others becomes')).toHaveCount(0);
  await dialog.getByLabel('Lines round others').selectOption('plots');
  await dialog.getByLabel('PLAN, round others becomes').selectOption('leave');
  await dialog.getByRole('button', { name: 'Bring in', exact: true }).click();
  await expect(page.getByRole('button', { name: 'PLAN 3', exact: true })).toBeVisible();

  const stored = (await (await page.request.get(`/api/projects/${id}`)).json()) as {
    project: { site: { place: { latitudeDeg: number; longitudeDeg: number } } };
  };
  const { latitudeDeg, longitudeDeg } = stored.project.site.place;
  const corner = (dx: number, dy: number) => [latitudeDeg + dy, longitudeDeg + dx];
  const swapped = {
    type: 'Polygon',
    coordinates: [[corner(0, 0), corner(0.0003, 0), corner(0.0003, 0.0002), corner(0, 0)]],
  };
  await choose('swapped.geojson', JSON.stringify(swapped));
  await expect(dialog).toContainText(
    'Latitude seems to stand before longitude: so the file lies 0 km from the project',
  );
  await expect(dialog.getByLabel('First stands')).toHaveValue('latitude');
  await dialog.getByLabel('First stands').selectOption('longitude');
  await expect(dialog).not.toContainText('Latitude seems to stand');
  await expect(dialog.getByLabel('First stands')).toHaveValue('longitude');
  await page.keyboard.press('Escape');
  await saved(page);
});

test('a terrain comes from heights, buildings sit on it, and coordinates can be pasted', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/site?option=a`);
  const heights = page.getByLabel('Terrain from a file');
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

test('a file read again shows what changes, keeps what was done, and doubles nothing', async ({ page }) => {
  await begin(page, 'Again');
  await toStage(page, 'Site');
  const dialog = page.getByRole('dialog');
  const choose = chooser(page);
  const town = (houses: [id: string, x: number, height: number][]) =>
    JSON.stringify({
      type: 'FeatureCollection',
      crs: { type: 'name', properties: { name: 'a plan of its own' } },
      features: houses.map(([id, x, height]) => ({
        type: 'Feature',
        properties: { id, name: `House ${id}`, height },
        geometry: {
          type: 'Polygon',
          coordinates: [[[x, 0], [x + 10, 0], [x + 10, 8], [x, 8], [x, 0]]], // prettier-ignore
        },
      })),
    });
  const houses: [string, number, number][] = [
    ['p', 0, 6],
    ['q', 30, 6],
    ['r', 60, 6],
  ];
  await choose('town.geojson', town(houses));
  await dialog.getByRole('button', { name: 'Bring in', exact: true }).click();
  const row = (name: string) => page.getByRole('button', { name, exact: true });
  await expect(row('House p')).toBeVisible();
  await row('House p').click();
  await page.getByLabel('Name', { exact: true }).last().fill('Corner house');
  await page.keyboard.press('Enter');
  await expect(row('Corner house')).toBeVisible();

  await choose('town.geojson', town(houses));
  const changes = dialog.getByRole('status', { name: 'What changes' });
  await expect(changes).toContainText('Nothing has changed in it: 3 parts are as they were.');
  await dialog.getByRole('button', { name: 'Leave it' }).click();

  await choose('town.geojson', town([['p', 0, 9], ['r', 60, 6], ['s', 90, 6]])); // prettier-ignore
  await expect(changes).toContainText('1 part has changed: “Corner house” (height).');
  await expect(changes).toContainText('no longer in the file and taken out: “House q”');
  await dialog.getByLabel('Keep what the file no longer holds').check();
  await expect(changes).toContainText('no longer in the file and kept: “House q”');
  await dialog.getByLabel('Keep what the file no longer holds').uncheck();
  await expect(changes).toContainText('taken out');
  await dialog.getByLabel('It comes in').selectOption('beside');
  await expect(dialog.getByRole('button', { name: 'Bring in', exact: true })).toBeVisible();
  await dialog.getByLabel('It comes in').selectOption('again');
  await expect(changes).toContainText('1 part is new: “House s”.');
  await dialog.getByRole('button', { name: 'Read again', exact: true }).click();
  await expect(row('House s')).toBeVisible();
  await expect(row('House q')).toHaveCount(0);
  await row('Corner house').click();
  await saved(page);
  // The list of files chooses what came from one, and forgets it.
  const files = page.getByRole('list', { name: 'Files brought in' });
  await expect(files).toContainText('3 here');
  await files.getByRole('button', { name: 'town.geojson', exact: true }).click();
  await expect(files.getByRole('button', { name: 'town.geojson', exact: true })).toHaveAttribute(
    'aria-current',
    'true',
  );
  await files.getByRole('button', { name: /^Forget where/ }).click();
  await expect(files).toHaveCount(0);
  await expect(row('House s')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(files).toContainText('3 here');
  // One step back is all of it.
  await page.keyboard.press('Control+z');
  await expect(row('House q')).toBeVisible();
  await expect(row('House s')).toHaveCount(0);
});
