import { type Project, defaultMass } from '@dial-shade/core';
import type { Page } from '@playwright/test';
import {
  begin,
  clickGround,
  expect,
  fromAbove,
  open,
  sampleCopy,
  saved,
  type Stack,
  test,
  toStage,
} from '../stack';

async function stored(stack: Stack, id: string): Promise<Project> {
  const answer = await fetch(`${stack.url}/api/projects/${id}`);
  return ((await answer.json()) as { project: Project }).project;
}

const inTree = (page: Page, name: string) => page.getByRole('button', { name, exact: true }).last();

type Place = (x: number, y: number) => { x: number; y: number };

async function drawBox(page: Page, place: Place, from: [number, number], to: [number, number]) {
  await page.getByRole('button', { name: 'Rectangle', exact: true }).click();
  await clickGround(page, place, [from, to]);
}

/** Least and largest x and y of the footprint of each mass. */
const boxes = ({ options }: Project) =>
  options[1]!.masses.map(({ name, footprint: { outer } }) => {
    const [xs, ys] = [outer.map((p) => p[0]), outer.map((p) => p[1])];
    return [name, Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)].map((v) =>
      typeof v === 'number' ? Math.round(v * 100) / 100 + 0 : v,
    );
  });

test('an edge is dragged, two masses are united, mirrored, set in a row, shown alone and locked', async ({
  page,
  stack,
}) => {
  const id = await begin(page, 'Arrange');
  await toStage(page, 'Form');
  const place = await fromAbove(page);
  await drawBox(page, place, [-24, -10], [-8, -2]);
  await expect(page.locator('.facts').first()).toContainText('128.0 m²');

  await page.getByRole('button', { name: 'Corners' }).click();
  // A quarter of the way along the south wall, where no corner and no middle is near.
  const [from, to] = [place(-20, -10), place(-20, -13)];
  await page.mouse.move(from.x, from.y);
  await expect(page.locator('.pane-tip')).toHaveText('Drag this edge');
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 4 });
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Undo: drag an edge' })).toBeVisible();
  await saved(page);
  expect(boxes(await stored(stack, id))).toEqual([['Mass 1', -24, -13, -8, -2]]);
  await page.keyboard.press('Escape');

  await drawBox(page, place, [-8, -13], [2, -6]);
  await inTree(page, 'Mass 1').click();
  await inTree(page, 'Mass 2').click({ modifiers: ['Shift'] });
  await page.getByRole('button', { name: 'Unite' }).click();
  await expect(page.getByRole('button', { name: 'Undo: unite Mass 1 and Mass 2' })).toBeVisible();
  await expect(inTree(page, 'Mass 2')).toHaveCount(0);
  await saved(page);
  expect(boxes(await stored(stack, id))).toEqual([['Mass 1', -24, -13, 2, -2]]);

  await page.getByRole('button', { name: 'Mirror' }).click();
  await clickGround(page, place, [
    [6, -15],
    [6, 10],
  ]);
  await expect(page.getByRole('button', { name: 'Undo: mirror' })).toBeVisible();
  await saved(page);
  expect(boxes(await stored(stack, id))).toEqual([['Mass 1', 10, -13, 36, -2]]);

  await page.getByLabel('Copies in a row').fill('2');
  await page.getByLabel('Copies in a row').press('Enter');
  await page.getByRole('button', { name: 'Array' }).click();
  await clickGround(page, place, [
    [-10, 0],
    [-10, 14],
  ]);
  await expect(inTree(page, 'Mass 1 3')).toBeVisible();
  await saved(page);
  expect(boxes(await stored(stack, id))).toEqual([
    ['Mass 1', 10, -13, 36, -2],
    ['Mass 1 2', 10, 1, 36, 12],
    ['Mass 1 3', 10, 15, 36, 26],
  ]);

  await inTree(page, 'Mass 1 2').click();
  await page.getByRole('button', { name: 'Show only what is chosen' }).click();
  await expect(page.getByRole('button', { name: 'Show Mass 1 3' })).toBeVisible();
  await page.getByRole('button', { name: 'Show everything' }).click();
  await page.getByRole('button', { name: 'Lock Mass 1 3' }).click();
  await expect(page.getByRole('button', { name: 'Remove Mass 1 3' })).toBeDisabled();
  const locked = place(20, 20);
  await page.mouse.click(locked.x, locked.y);
  await expect(page.getByRole('heading', { name: 'Change it' })).toHaveCount(0);
  const free = place(20, 6);
  await page.mouse.click(free.x, free.y);
  await expect(page.getByLabel('Name', { exact: true }).last()).toHaveValue('Mass 1 2');
});

test('a rooflight is drawn in a flat roof, a window set over the one below, a neighbour given one by hand', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack, (project) => {
    project.neighbourRules = [];
    project.options[1]!.rules = [];
    project.options[1]!.masses = [
      {
        ...defaultMass(
          'm',
          'Block',
          [
            [4, 4],
            [28, 4],
            [28, 16],
            [4, 16],
          ],
          2,
          3.2,
        ),
        openings: [
          {
            id: 'low',
            name: 'Low window',
            host: { on: 'wall', ring: 0, edge: 0, storey: 0 },
            outline: { kind: 'rectangle', u: 11, v: 0.9, widthM: 2, heightM: 1.4 },
            kind: 'window',
            glazing: 'double',
            revealM: 0.1,
            openable: true,
            grid: null,
          },
        ],
      },
    ];
    project.neighbours = project.neighbours.filter(({ id: n }) => n.startsWith('terrace'));
  });
  await open(page, `/p/${id}/openings?option=a`);
  const elevation = page.getByRole('region', { name: 'Elevation' });
  const board = (await page.locator('.board canvas').boundingBox())!;
  /** Clicks down a line of the board until the elevation shows what is wanted. */
  const pick = async (wanted: RegExp, x: number, parts: number[]) => {
    await expect(async () => {
      for (const part of parts) {
        await page.mouse.click(board.x + board.width * x, board.y + board.height * part);
        if (wanted.test(await elevation.innerText())) return;
        await page.keyboard.press('Escape');
      }
      throw new Error(`not found: ${await elevation.innerText()}`);
    }).toPass();
    return (await elevation.locator('path.wall').boundingBox())!;
  };
  const drag = async (wall: { x: number; y: number; width: number; height: number }, box: number[]) => {
    const [u0, v0, u1, v1] = box as [number, number, number, number];
    await page.mouse.move(wall.x + wall.width * u0, wall.y + wall.height * (1 - v0));
    await page.mouse.down();
    await page.mouse.move(wall.x + wall.width * u1, wall.y + wall.height * (1 - v1), { steps: 4 });
    await page.mouse.up();
  };
  const line = Array.from({ length: 36 }, (_, i) => 0.12 + i * 0.02);
  await page.getByRole('button', { name: 'From above (A)' }).click();
  const roof = await pick(/Block, roof face 1/, 0.5, line);
  await elevation.getByRole('button', { name: 'Rooflight' }).click();
  await drag(roof, [0.3, 0.3, 0.5, 0.6]);
  await expect(page.getByLabel('Name', { exact: true }).first()).toHaveValue('Rooflight 2');

  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'From drawing south (S)' }).click();
  const upper = await pick(/Block, wall 1, storey 2/, 0.5, line);
  await elevation.getByRole('button', { name: 'Window', exact: true }).click();
  await drag(upper, [0.1, 0.3, 0.2, 0.7]);
  await expect(elevation.locator('path.opening')).toHaveCount(1);
  await elevation.getByRole('button', { name: /^Align .* with the one below/ }).click();
  await expect(page.getByRole('button', { name: /^Undo: align/ })).toBeVisible();

  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'From drawing north (N)' }).click();
  const terrace = await pick(/Terrace house \d, wall 3, storey/, 0.5, line);
  await elevation.getByRole('button', { name: 'Arch' }).click();
  await drag(terrace, [0.3, 0.25, 0.5, 0.8]);
  await expect(elevation.locator('path.opening')).toHaveCount(1);
  await saved(page);

  const project = await stored(stack, id);
  const [, light, high] = project.options[1]!.masses[0]!.openings;
  expect(light).toMatchObject({ host: { on: 'roof', face: 0 }, kind: 'window', revealM: 0 });
  const outline = high!.outline as { u: number; widthM: number };
  // The window below runs from 11 to 13 m: the middles are one above the other.
  expect(outline.u + outline.widthM / 2).toBeCloseTo(12, 6);
  const arches = project.neighbours.flatMap((n) => (n.kind === 'building' ? n.openings : []));
  expect(arches.map((o) => o.outline.kind)).toEqual(['arch']);
});

test('the place comes out of the first line of a weather file; a file without one says so', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/site?option=a`);
  const choose = (text: string) =>
    page
      .getByLabel('From a weather file')
      .setInputFiles({ name: 'year.txt', mimeType: 'text/plain', buffer: Buffer.from(text) });
  await choose('nothing of the kind');
  await expect(page.getByRole('alert')).toContainText('no line that begins with LOCATION');
  await choose('LOCATION,Mesa Baja,-,Made up,-,0,95.5,-70.9,-4,480\n');
  await expect(page.getByRole('alert')).toContainText('gives no sound latitude (“95.5”)');
  await expect(page.getByLabel('Latitude', { exact: true })).toHaveValue('55.87');
  await choose('LOCATION,Mesa Baja,-,Made up,-,0,-33.1,-70.9,-4,480\n');
  await expect(page.getByLabel('Latitude', { exact: true })).toHaveValue('-33.1');
  await expect(page.getByLabel('Elevation', { exact: true })).toHaveValue('480');
  await expect(page.getByLabel('Time zone')).toHaveValue('America/Santiago');
  await expect(page.locator('.pane-warning')).toContainText('Place not confirmed');
});

test('true north is turned by the N of the ring; the drawing stays as drawn', async ({ page, stack }) => {
  const id = await begin(page, 'North');
  const place = await fromAbove(page);
  // The N stands at 1.14 times the ring of 40 m; a quarter turn takes it to the east of the drawing.
  const [from, to] = [place(0, 45.6), place(40, 0)];
  await page.mouse.move(from.x, from.y);
  await expect(page.locator('.pane-tip')).toHaveText('Drag to turn true north');
  await page.mouse.down();
  await page.mouse.move(place(30, 30).x, place(30, 30).y, { steps: 5 });
  await page.mouse.move(to.x, to.y, { steps: 5 });
  await expect(page.locator('.pane-tip')).toContainText('True north 90');
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Undo: turn true north' })).toBeVisible();
  await saved(page);
  const { north } = (await stored(stack, id)).site;
  expect(Math.abs(north.trueNorthDeg - 90)).toBeLessThanOrEqual(1);
  await page.getByRole('button', { name: 'Undo: turn true north' }).click();
  await expect(page.getByLabel('True north', { exact: true })).toHaveValue('0');
});
