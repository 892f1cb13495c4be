import { readFileSync } from 'node:fs';
import type { Project, StoredProject } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import type { Page } from '@playwright/test';
import { begin, coarser, expect, open, sampleCopy, saved, sparser, test, toStage } from '../stack';

const cell = (page: Page, name: RegExp) => page.getByTestId('compare-table').getByRole('button', { name });
const number = async (page: Page, name: RegExp) =>
  Number(/: ([−\d.,]+)/.exec((await cell(page, name).getAttribute('aria-label'))!)![1]!.replace(',', ''));

test('options in a table: brought up to date, differences, the worst place flown to, saved', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack, (project) => {
    coarser(project);
    sparser(project);
  });
  await open(page, `/p/${id}/compare?option=b`);
  const table = page.getByTestId('compare-table');
  await expect(cell(page, /^Floor area, Court/)).toHaveAttribute('aria-label', 'Floor area, Court: 1,968 m²');
  await expect(page.getByTestId('bring-up')).toContainText('12 of 12 results are missing or out of date');
  await page.getByRole('button', { name: 'Bring up to date' }).click();
  await expect(page.getByTestId('bring-up')).toContainText('All 12 results match the model.');

  // What is told against Today is better or worse, and what fails is marked.
  await expect(table).toContainText(/[+−]\d+, (better|worse)/);
  await expect(table.getByLabel('fails').first()).toBeVisible();
  expect(await number(page, /^Places that lose too much, Bar/)).toBeGreaterThan(0);
  expect(await number(page, /^Sticks out of it, Court/)).toBeGreaterThan(1000);

  // An edit makes figures of that option stale; only what is missing is run.
  await toStage(page, 'Form');
  await page.getByRole('button', { name: 'Court ring', exact: true }).first().click();
  await page.getByLabel('Storeys', { exact: true }).fill('2');
  await page.getByLabel('Storeys', { exact: true }).press('Enter');
  await toStage(page, 'Compare');
  await expect(page.getByTestId('bring-up')).toContainText('3 of 12 results are missing or out of date');
  await expect(table.locator('td.stale')).toHaveCount(3);
  await page.getByRole('button', { name: 'Bring up to date' }).click();
  await expect(page.getByTestId('bring-up')).toContainText('All 12 results match the model.');
  await expect(table.locator('td.stale')).toHaveCount(0);

  // Options and measures are chosen, ordered and kept.
  await page.getByRole('checkbox', { name: 'Stepped' }).uncheck();
  await expect(table.getByRole('columnheader')).toHaveCount(4);
  await page.getByLabel('Find a measure').fill('glass to the south');
  await page.getByRole('checkbox', { name: 'Glass to the south' }).check();
  await expect(table).toContainText('Glass to the south');
  await page.getByRole('button', { name: 'Move Height up' }).click();
  await expect(table.getByRole('rowheader').first()).toContainText('Height');
  await saved(page);
  await page.reload();
  await expect(table.getByRole('rowheader').first()).toContainText('Height');
  await expect(table.getByRole('columnheader')).toHaveCount(4);
  const [file] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as CSV' }).click(),
  ]);
  const lines = readFileSync(await file.path(), 'utf8')
    .trim()
    .split(/\r?\n/);
  expect(lines[0]).toMatch(/^option,name,Height \(m\),Floor area \(m²\)/);
  expect(lines).toHaveLength(4);

  // A scheme stands beside its option, with a year of its rooms.
  await page.getByRole('checkbox', { name: 'Bar, Overhangs' }).click();
  await page.getByLabel('Find a measure').fill('through the windows');
  await page.getByRole('checkbox', { name: 'Sun through the windows' }).click();
  await expect(page.getByTestId('bring-up')).toContainText('3 of 12 results are missing or out of date');
  await page.getByRole('button', { name: 'Bring up to date' }).click();
  await expect(page.getByTestId('bring-up')).toContainText('All 12 results match the model.');
  await expect(cell(page, /^Area with at least 2 h, Bar, Overhangs/)).toBeVisible();
  await expect(cell(page, /^Sun through the windows, Bar, Overhangs/)).toBeVisible();
  expect(await number(page, /^Sun through the windows, Bar, Overhangs/)).toBeLessThan(
    await number(page, /^Sun through the windows, Bar:/),
  );
  await page.getByLabel('Rooms are').selectOption('old');
  await expect(cell(page, /^Sun through the windows, Bar:/)).toBeVisible();
  await cell(page, /^Sun through the windows, Bar, Overhangs/).click();
  await expect(page).toHaveURL(/shading\?.*option=a/);
  await page.goBack();

  // A wall of what the studies found, saved as an SVG.
  await page.getByRole('button', { name: 'Wall', exact: true }).click();
  const wall = page.getByTestId('wall');
  await wall.getByLabel('Across').selectOption({ label: 'what the studies compared found' });
  await expect(wall.locator('img')).toHaveCount(9);
  await expect(wall).toContainText(/Area with at least 2 h: \d+ %, (passes|fails)/);
  const [drawn] = await Promise.all([
    page.waitForEvent('download'),
    wall.getByRole('button', { name: 'SVG', exact: true }).click(),
  ]);
  const svg = readFileSync(await drawn.path(), 'utf8');
  expect(svg.match(/<image /g)).toHaveLength(9);
  expect(svg).toMatch(/^<svg [^>]*width="[\d.]+mm"/);

  // Side by side on the board from one place, with the change against Today on them.
  await page.getByRole('button', { name: 'Board', exact: true }).click();
  await page.getByRole('button', { name: '3 options' }).click();
  await expect(page.locator('.pane')).toHaveCount(4);
  await expect(page.getByRole('button', { name: 'Tie the cameras' })).toHaveAttribute('aria-pressed', 'true');
  await page.getByLabel('On it').selectOption({ label: 'Courtyards on 21 March' });
  await expect(page.getByTestId('legend')).toContainText('has at least 2 h');
  await page.getByLabel('As the change from').selectOption({ label: 'T Today' });
  await expect(page.getByTestId('legend')).toContainText('Change of sun against Today');
  await page.getByLabel('Seen from the same place').uncheck();
  await expect(page.getByRole('button', { name: 'Tie the cameras' })).toHaveAttribute(
    'aria-pressed',
    'false',
  );
  await page.getByRole('button', { name: 'One', exact: true }).click();
  await expect(page.locator('.pane')).toHaveCount(1);
  await page.getByLabel('As the change from').selectOption({ label: 'no other: as it is' });
  await page.getByRole('button', { name: 'Table', exact: true }).click();

  // A figure leads to where it comes from.
  await cell(page, /^Area with at least 2 h, Bar:/).click();
  await expect(page).toHaveURL(/studies\?.*option=a/);
  await expect(page.getByLabel('Measures')).toHaveValue('sun-hours');
  await expect(page.getByTestId('legend')).toBeVisible();
  await page.goBack();
  await cell(page, /^Sticks out of it, Bar:/).click();
  await expect(page).toHaveURL(/envelope\?.*option=a/);
});

test('a trade-off, a wall of pictures and a split of two options; an empty project has nothing to compare', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack, (project) => {
    project.comparison = {
      measures: ['floor', 'height', 'envelope/gardens/over'],
      rooms: 'new',
      options: null,
      against: null,
    };
  });
  await open(page, `/p/${id}/compare?option=b`);
  await expect(page.getByText('No study is compared')).toBeVisible();
  await expect(cell(page, /^Sticks out of it, Stepped/)).toBeVisible();
  await page.getByRole('button', { name: 'Trade-off' }).click();
  const chart = page.getByTestId('trade-off');
  await expect(
    chart.getByRole('button', { name: /^Court: 1,968 m², [\d,]+ m³, fails a criterion/ }),
  ).toBeVisible();
  await chart.getByLabel('Up').selectOption('height');
  await chart.getByRole('button', { name: /^Stepped: 2,148 m²/ }).press('Enter');
  await expect(page).toHaveURL(/option=c/);
  await chart.getByLabel('All criteria must pass').check();

  await page.getByRole('button', { name: 'Wall', exact: true }).click();
  const wall = page.getByTestId('wall');
  await expect(wall.getByRole('button', { name: /show it on the board/ })).toHaveCount(12);
  await expect(wall.locator('img')).toHaveCount(12);
  await wall.getByRole('button', { name: /^Court, 21 Jun 12:00/ }).click();
  await expect(page).toHaveURL(/option=b&at=2026-06-21T12%3A00/);
  await expect(wall).toHaveCount(0);

  await page.getByRole('button', { name: 'Split', exact: true }).click();
  const split = page.getByTestId('split');
  await expect(split.locator('img')).toHaveCount(2);
  await split.getByLabel('Right').selectOption({ label: 'T Today' });
  await expect(split.locator('img')).toHaveCount(2);
  const slider = split.getByRole('slider');
  await expect(slider).toHaveAttribute('aria-valuenow', '50');
  await slider.focus();
  await page.keyboard.press('ArrowLeft');
  await expect(slider).toHaveAttribute('aria-valuenow', '48');
  const box = (await slider.boundingBox())!;
  await page.mouse.move(box.x + 1, box.y + 100);
  await page.mouse.down();
  await page.mouse.move(box.x + 200, box.y + 120, { steps: 4 });
  await page.mouse.up();
  expect(Number(await slider.getAttribute('aria-valuenow'))).toBeGreaterThan(60);

  await begin(page, 'Nothing to compare');
  await toStage(page, 'Compare');
  await expect(page.getByTestId('compare-table').getByRole('cell', { name: '–' }).first()).toBeVisible();
});

/** Which way the first edge of the bar runs, degrees. */
function bearingOfBar({ options }: Project): number {
  const [[x0, y0], [x1, y1]] = options.find(({ id }) => id === 'a')!.masses[0]!.footprint.outer as [
    [number, number],
    [number, number],
  ];
  return (Math.atan2(y1 - y0, x1 - x0) * 180) / Math.PI;
}

test('a massing sweep: storeys by turn, a candidate shown, another kept as an option', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack, (project) => {
    project.comparison = {
      measures: ['floor', 'study/courtyards-march/share'],
      rooms: 'new',
      options: null,
      against: null,
    };
  });
  await open(page, `/p/${id}/compare?option=a`);
  await page.getByRole('button', { name: 'Sweep', exact: true }).click();
  await page.getByRole('button', { name: 'A number that is free' }).click();
  for (const [label, value] of [
    ['From', '2'],
    ['To', '4'],
    ['Values', '3'],
  ] as const) {
    await page.getByLabel(label, { exact: true }).fill(value);
    await page.getByLabel(label, { exact: true }).press('Enter');
  }
  await page.getByRole('button', { name: 'Another number' }).click();
  await page.getByLabel('Values', { exact: true }).nth(1).fill('2');
  await page.getByLabel('Values', { exact: true }).nth(1).press('Enter');
  await expect(page.getByTestId('massing-said')).toContainText(
    '6 massings, each with one study at a coarse grid.',
  );
  await page.getByRole('button', { name: 'Try them' }).click();
  const tried = page.getByTestId('tried').getByRole('button');
  await expect(tried).toHaveCount(6);
  await expect(page.getByRole('button', { name: 'Try them' })).toBeVisible();
  await tried.first().press('Enter');
  const chosen = page.getByTestId('massing-chosen');
  await expect(chosen).toContainText('number of storeys 2; Bar: turned by');
  await chosen.getByRole('button', { name: 'Show it' }).click();
  await expect(page.getByRole('button', { name: /^Undo: try Bar: number of storeys 2/ })).toBeVisible();
  // What it makes of the option is one of its own: it is not out of date, and another is tried from where it began.
  await expect(page.getByText('Out of date: what these massings')).toHaveCount(0);
  await tried.nth(1).press('Enter');
  await chosen.getByRole('button', { name: 'Show it' }).click();
  await saved(page);
  const { project } = (await (await fetch(`${stack.url}/api/projects/${id}`)).json()) as StoredProject;
  const turned = bearingOfBar(project) - bearingOfBar(kelpLane());
  expect(Math.abs(((turned + 540) % 360) - 180)).toBeCloseTo(20, 3);
  await page.getByRole('button', { name: /^Undo: try Bar/ }).click();
  await page.getByRole('button', { name: /^Undo: try Bar/ }).click();
  await saved(page);
  // The server keeps it: after a reload it is there, in the order of a measure.
  await page.reload();
  await page.getByRole('button', { name: 'Sweep', exact: true }).click();
  await expect(tried).toHaveCount(6);
  const rows = page.getByTestId('massing-table').locator('tbody tr');
  await expect(rows).toHaveCount(6);
  await page.getByLabel('In order of').selectOption({ label: 'Floor area' });
  await rows.first().click();
  await expect(chosen).toContainText('number of storeys 4');
  await tried.last().press('Enter');
  await expect(chosen).toContainText('number of storeys 4');
  await chosen.getByRole('button', { name: 'Keep it as an option' }).click();
  await expect(page.getByRole('button', { name: 'Bar 4 / 20', exact: true })).toBeVisible();
  await saved(page);
});
