import type { Project } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
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

async function type(page: Page, label: string, value: string): Promise<void> {
  const field = page.getByLabel(label, { exact: true });
  await field.fill(value);
  await field.press('Enter');
}

/** The place of a mass in the tree of everything. */
const inTree = (page: Page, name: string) => page.getByRole('button', { name, exact: true }).last();

test('the stepped option is built from nothing: drawn with the mouse, stacked, windows by rule and one by hand', async ({
  page,
  stack,
}) => {
  const id = await begin(page, 'Steps');
  await toStage(page, 'Form');
  const place = await fromAbove(page);
  const steps: { corners: [[number, number], [number, number]]; heights: number[]; level: number | null }[] =
    [
      {
        corners: [
          [-17, -11],
          [17, 11],
        ],
        heights: [3.8],
        level: null,
      },
      {
        corners: [
          [-13, -11],
          [17, 5],
        ],
        heights: [3.1, 3.1],
        level: 3.8,
      },
      {
        corners: [
          [-5, -11],
          [17, -1],
        ],
        heights: [3.1, 3.1],
        level: 10,
      },
    ];
  for (const { corners, heights, level } of steps) {
    await page.getByRole('button', { name: 'Rectangle' }).click();
    await clickGround(page, place, corners);
    await expect(page.getByLabel('Storeys', { exact: true })).toBeVisible();
    await type(page, 'Storeys', String(heights.length));
    for (const [i, height] of heights.entries()) await type(page, `Storey ${i + 1} height`, String(height));
    if (level !== null) {
      await page.getByLabel('Stands on').selectOption('level');
      await type(page, 'Level', String(level));
    }
  }
  // 34 × 22 + 2 × 30 × 16 + 2 × 22 × 10 m² of floors.
  await expect(page.locator('.facts').last()).toContainText('2148 m²');
  await saved(page);
  const drawn = (await stored(stack, id)).options[1]!.masses;
  const sample = kelpLane().options[3]!.masses;
  const size = (ring: [number, number][]) =>
    [0, 1].map((k) => Math.max(...ring.map((p) => p[k]!)) - Math.min(...ring.map((p) => p[k]!)));
  drawn.forEach((mass, i) => {
    size(mass.footprint.outer).forEach((v, k) =>
      expect(v).toBeCloseTo(size(sample[i]!.footprint.outer)[k]!, 6),
    );
    expect(mass.storeys).toEqual(sample[i]!.storeys);
  });

  await toStage(page, 'Openings');
  await page.getByRole('button', { name: 'Add a rule', exact: true }).first().click();
  await expect(page.locator('.rule')).toContainText(/Makes\s*[1-9]\d* openings/);
  await type(page, 'Ratio', '95');
  await expect(page.getByRole('list', { name: 'What gave way' })).toContainText('the ratio gives way');
  await type(page, 'Ratio', '30');
  await type(page, 'Storeys', '2');

  await page.getByRole('button', { name: 'From drawing south (S)' }).click();
  const board = (await page.locator('.board canvas').boundingBox())!;
  await page.mouse.click(board.x + board.width / 2, board.y + board.height * 0.64);
  const elevation = page.getByRole('region', { name: 'Elevation' });
  await expect(elevation).toContainText('storey 1');
  const wall = (await elevation.locator('path.wall').boundingBox())!;
  const before = await elevation.locator('path.opening').count();
  const drag = async (x0: number, y0: number, x1: number, y1: number) => {
    await elevation.getByRole('button', { name: 'Window', exact: true }).click();
    await page.mouse.move(wall.x + wall.width * x0, wall.y + wall.height * y0);
    await page.mouse.down();
    await page.mouse.move(wall.x + wall.width * x1, wall.y + wall.height * y1, { steps: 5 });
    await page.mouse.up();
  };
  await drag(0.3, 0.3, 0.36, 0.7);
  await expect(elevation.locator('path.opening')).toHaveCount(before + 1);
  await drag(0.95, 0.3, 1.02, 0.7);
  await expect(elevation.getByRole('alert')).toContainText(
    'leaves its wall or comes nearer than 0.05 m to its edge',
  );
  await expect(elevation.locator('path.opening:not(.offered)')).toHaveCount(before + 1);
  await elevation.getByRole('button', { name: 'Put it at the nearest place' }).click();
  await expect(elevation.getByRole('alert')).toHaveCount(0);
  await expect(elevation.locator('path.opening')).toHaveCount(before + 2);
  await saved(page);
  const project = await stored(stack, id);
  const openings = project.options[1]!.masses.flatMap((mass) => mass.openings);
  expect(openings).toHaveLength(2);
  const last = openings[1]!.outline as { u: number; widthM: number };
  expect([34, 30, 22].some((l) => Math.abs(last.u + last.widthM - (l - 0.05)) < 1e-6)).toBe(true);
});

test('walls are pushed, corners dragged, lengths typed, masses split, copied and turned, each a named step', async ({
  page,
  stack,
}) => {
  const id = await begin(page, 'Reshape');
  await toStage(page, 'Form');
  const place = await fromAbove(page);
  await page.getByRole('button', { name: 'Polygon', exact: true }).click();
  await clickGround(page, place, [[-10, -6]]);
  const beyond = place(4, -6);
  await page.mouse.move(beyond.x, beyond.y);
  await page.keyboard.type('20');
  await page.keyboard.press('Enter');
  const up = place(10, 0);
  await page.mouse.move(up.x, up.y);
  await page.keyboard.type('12');
  await page.keyboard.press('Enter');
  await clickGround(page, place, [[-10, 6]]);
  await page.keyboard.press('Enter');
  await expect(page.locator('.facts').first()).toContainText('240.0 m²');

  await page.getByRole('button', { name: 'Corners' }).click();
  const [from, to] = [place(10, 6), place(14, 9)];
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2);
  await page.mouse.move(to.x, to.y, { steps: 6 });
  await page.mouse.up();
  await expect(page.getByRole('button', { name: 'Undo: drag a corner' })).toBeVisible();
  await page.getByRole('button', { name: 'Undo: drag a corner' }).click();
  await expect(page.locator('.facts').first()).toContainText('240.0 m²');

  await page.getByRole('button', { name: 'Push', exact: true }).click();
  const roof = place(0, 0);
  await page.mouse.click(roof.x, roof.y);
  await type(page, 'Push top by', '1.5');
  await expect(page.getByLabel('Storey 2 height')).toHaveValue('4.5');
  await page.keyboard.press('Escape');
  await page.getByText('Setbacks of upper storeys').click();
  const setback = page.getByLabel('Setback of wall 3 in storey 2');
  await setback.fill('2');
  await setback.press('Enter');
  await expect(page.locator('.facts').first()).toContainText('440.0 m²');
  await setback.fill('40');
  await setback.press('Enter');
  await expect(
    page
      .getByRole('status')
      .or(page.getByRole('alert'))
      .filter({ hasText: 'The setbacks of storey 2' })
      .first(),
  ).toBeVisible();

  await page.getByRole('button', { name: 'Split off top' }).click();
  await expect(inTree(page, 'Mass 1 top')).toBeVisible();
  await type(page, 'Turn by', '90');
  await page.getByRole('button', { name: 'Turn', exact: true }).click();
  await page.getByRole('button', { name: 'Copy', exact: true }).click();
  await expect(inTree(page, 'Mass 1 copy')).toBeVisible();
  await page.getByRole('button', { name: 'Hide Mass 1 copy' }).click();
  await expect(page.locator('.sheet')).toContainText('What is hidden still casts its shade.');
  await page.getByRole('button', { name: 'Show everything' }).click();
  await page.getByLabel('Search in the model').fill('top');
  await expect(page.getByRole('button', { name: 'Mass 1 copy', exact: true })).toHaveCount(0);
  await saved(page);
  const { masses } = (await stored(stack, id)).options[1]!;
  expect(masses.map((m) => m.name)).toEqual(['Mass 1', 'Mass 1 copy', 'Mass 1 top']);
});

test('roofs of every kind, refused where the footprint cannot carry them; rooms and furniture', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/form?option=b`);
  await inTree(page, 'Court ring').click();
  await page.getByLabel('Roof', { exact: true }).selectOption('hip');
  await page.getByRole('button', { name: 'Undo', exact: true }).waitFor();
  await expect(page.getByLabel('Roof', { exact: true })).toHaveValue('flat');
  await open(page, `/p/${id}/form?option=a`);
  await inTree(page, 'Bar').click();
  for (const [kind, volume] of [
    // 34 × 12 × 16.2 m³ below the eaves, and above them in closed form.
    ['hip', 34 * 12 * 16.2 + Math.tan(Math.PI / 6) * 6 * ((22 * 12) / 2 + (12 * 12) / 3)],
    ['mono', 34 * 12 * (16.2 + 0.75)],
    ['sawtooth', 34 * 12 * (16.2 + 1.25)],
    ['pyramid', 34 * 12 * (16.2 + 2.5 / 3)],
  ] as const) {
    await page.getByLabel('Roof', { exact: true }).selectOption(kind);
    await expect(page.locator('.facts').first()).toContainText(
      `${Math.round(volume).toLocaleString('en')} m³`,
    );
  }
  await page.getByRole('button', { name: 'Kinds' }).click();
  await expect(page.getByRole('list', { name: 'Kinds of face' })).toContainText('Party wall');
  await page.getByLabel('Room, 144.0 m²').first().fill('Archive');
  await page.getByLabel('Room, 144.0 m²').first().press('Enter');
  await page.getByLabel('Archive is open to the storey above').check();
  // Five plates of 408 m² less what would lie over the waiting room, 120 m², and over this one.
  await expect(page.locator('.facts').first()).toContainText('1776 m²');
  await saved(page);
});

test('a height in feet is asked about and mended with one click; overlaps are told and flown to', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack, (project) => {
    project.options[1]!.masses[0]!.storeys = [{ heightM: 60 }];
    project.options[1]!.rules = [];
    project.options[1]!.masses.push({
      ...project.options[1]!.masses[0]!,
      id: 'twin',
      name: 'Twin',
      storeys: [{ heightM: 4 }],
    });
  });
  await open(page, `/p/${id}/form?option=a`);
  const problems = page.locator('.problems');
  await expect(problems).toContainText(
    '“Bar” is 61 m high, with a storey of 60 m; were feet or millimetres meant?',
  );
  await expect(problems).toContainText('“Bar” and “Twin” overlap by 1632.0 m³. That is allowed');
  await problems.getByRole('button', { name: /overlap by/ }).click();
  await expect(page.locator('.read-out')).toContainText('Bar');
  await problems.getByRole('button', { name: 'Feet were meant' }).click();
  await expect(page.getByLabel('Storey 1 height')).toHaveValue('18.288');
  await expect(problems).not.toContainText('were feet');
});
