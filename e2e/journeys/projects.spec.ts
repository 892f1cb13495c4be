import { CURRENT_VERSION } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { readFileSync } from 'node:fs';
import { expect, open, sampleCopy, saved, test } from '../stack';

const file = (name: string, text: string) => ({
  name,
  mimeType: 'application/json',
  buffer: Buffer.from(text),
});

test('a project is taken out as a file, brought in again, and deleted', async ({ page, stack }) => {
  await sampleCopy(stack, (project) => (project.name = 'Harbour steps'));
  await page.goto('/projects');
  const line = page.locator('.project-lines > div', { hasText: 'Harbour steps' });
  const download = page.waitForEvent('download');
  await line.getByRole('link', { name: 'Take out' }).click();
  const taken = await download;
  expect(taken.suggestedFilename()).toBe('Harbour-steps.json');
  const text = readFileSync(await taken.path(), 'utf8');
  expect(JSON.parse(text)).toEqual({ ...kelpLane(), name: 'Harbour steps' });

  await page.getByLabel('Project file').setInputFiles(file('steps.json', text));
  await expect(page.locator('.project-name')).toHaveText('Harbour steps');
  await page.getByRole('link', { name: 'Dial Shade' }).click();
  await expect(line).toHaveCount(2);
  await line.first().getByRole('button', { name: 'Delete Harbour steps' }).click();
  await line.first().getByRole('button', { name: 'Delete for good' }).click();
  await expect(line).toHaveCount(1);
});

test('of many projects one is found by a word of its name or place, and they are put in order', async ({
  page,
  stack,
}) => {
  // Others may stand in the list.
  for (const name of [
    'aster court',
    'Birch court',
    'cedar yard',
    'Dune yard',
    'elm row',
    'Fern row',
    'gorse row',
  ])
    await fetch(`${stack.url}/api/projects`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ name: `${name}, listed` }),
    });
  await page.goto('/projects');
  const lines = page.locator('.project-lines .name');
  const find = page.getByLabel('Find a project');
  await expect(lines.first()).toHaveText('gorse row, listed');
  await find.fill('LISTED');
  await expect(lines).toHaveCount(7);
  await page.getByLabel('In the order of').selectOption('name');
  await expect(lines.first()).toHaveText('aster court, listed');
  await expect(lines.nth(1)).toHaveText('Birch court, listed');
  await find.fill('YARD listed');
  await expect(lines).toHaveText(['cedar yard, listed', 'Dune yard, listed']);
  await find.fill('nowhere at all');
  await expect(page.getByText('No project has “nowhere at all” in its name or its place.')).toBeVisible();
  await find.fill('');
  await expect(lines.nth(6)).toBeVisible();
});

test('files that are no sound project are answered in a sentence and bring nothing in', async ({ page }) => {
  await page.goto('/projects');
  await expect(page.locator('.project-lines > div').first()).toBeVisible();
  const before = await page.locator('.project-lines > div').count();
  const refused = async (name: string, text: string, sentence: string) => {
    await page.getByLabel('Project file').setInputFiles(file(name, text));
    await expect(page.locator('.notice').last()).toContainText(sentence);
  };
  await refused('broken.json', '{"format":', '“broken.json” is not a project file: it is not JSON.');
  await refused('list.json', '[1, 2]', 'This is not a Dial Shade project file');
  const crossed = kelpLane();
  crossed.options[1]!.masses[0]!.footprint.outer = [
    [0, 0],
    [9, 9],
    [9, 0],
    [0, 9],
  ];
  await refused(
    'crossed.json',
    JSON.stringify(crossed),
    'Option “Bar”, mass “Bar”: The footprint crosses itself near (4.50, 4.50)',
  );
  await refused(
    'later.json',
    JSON.stringify({ ...kelpLane(), version: CURRENT_VERSION + 1 }),
    `The project file is of version ${CURRENT_VERSION + 1}`,
  );
  expect(await page.locator('.project-lines > div').count()).toBe(before);
});

test('an address that leads nowhere says so and leads on', async ({ page }) => {
  await page.goto('/p/no-such-project/sun');
  await expect(page.getByText('This project does not exist (any more).')).toBeVisible();
  await page.goto('/nowhere/at/all');
  await page.getByRole('link', { name: 'All projects' }).click();
  await expect(page.getByLabel('Name of the new project')).toBeVisible();
});

test('options are added, duplicated, renamed and removed, and every step is undone by its name', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/form?option=c`);
  await page.getByRole('button', { name: 'Duplicate Stepped' }).click();
  await expect(page.locator('.options')).toContainText('Stepped copy');
  await page.getByRole('button', { name: 'Add an option' }).click();
  await expect(page.locator('.sheet')).toContainText('Draw in E Option E');
  await page.getByLabel('Name', { exact: true }).fill('Terraced');
  await page.getByLabel('Name', { exact: true }).press('Enter');
  await expect(page.locator('.options')).toContainText('Terraced');
  await expect(page.getByRole('button', { name: 'Undo: rename an option' })).toBeVisible();
  await page.getByRole('button', { name: 'Remove Stepped copy' }).click();
  await expect(page.locator('.options')).not.toContainText('Stepped copy');
  await page.getByRole('button', { name: 'Undo: remove Stepped copy' }).click();
  await page.getByRole('button', { name: 'Undo: rename an option' }).click();
  await page.getByRole('button', { name: 'Undo: add option E' }).click();
  await page.getByRole('button', { name: 'Undo: duplicate Stepped' }).click();
  await expect(page.locator('.options button')).toHaveCount(4);
  await page.getByRole('button', { name: 'Redo: duplicate Stepped' }).click();
  await expect(page.locator('.options')).toContainText('Stepped copy');
  await saved(page);
});

test('a mass is changed by its figures: storeys, base, roof, place, and removed by key', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/form?option=a`);
  await page.getByRole('button', { name: 'Bar', exact: true }).last().click();
  const figures = page.locator('.facts').first();
  // Plates of 408 m² less what lies over the waiting room, 120 m².
  await expect(figures).toContainText('1920 m²');
  await page.getByLabel('Storeys', { exact: true }).fill('2');
  await page.getByLabel('Storeys', { exact: true }).press('Enter');
  await expect(figures).toContainText('696.0 m²');
  await page.getByLabel('Roof', { exact: true }).selectOption('gable');
  await page.getByLabel('Rise').fill('4');
  await page.getByLabel('Rise').press('Enter');
  await expect(figures).toContainText('10.90 m');
  await page.getByLabel('Stands on').selectOption('level');
  await page.getByLabel('Level', { exact: true }).fill('20');
  await page.getByLabel('Level', { exact: true }).press('Enter');
  await expect(figures).toContainText('30.90 m');
  await page.getByLabel('First corner x').fill('5');
  await page.getByLabel('First corner x').press('Enter');
  await saved(page);
  const stored = (await (await fetch(`${stack.url}/api/projects/${id}`)).json()) as {
    project: ReturnType<typeof kelpLane>;
  };
  expect(stored.project.options[1]!.masses[0]).toMatchObject({
    base: { on: 'level', levelM: 20 },
    roof: { kind: 'gable', riseM: 4 },
    footprint: {
      outer: [
        [5, 4],
        [39, 4],
        [39, 16],
        [5, 16],
      ],
    },
  });
  await page.locator('.pane-scene').focus();
  await page.keyboard.press('Delete');
  await expect(page.locator('.sheet')).toContainText('Empty. Draw a footprint on the ground.');
});
