import { massLevels, type Project } from '@dial-shade/core';
import { expect, open, sampleCopy, saved, test, toStage } from '../stack';

test('panels by chance are painted by hand, a rule is broken, a curtain wall is drawn, typed and repeated', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack, (project) => {
    project.options[1]!.rules = [];
  });
  await open(page, `/p/${id}/openings?option=a`);
  await expect(page.getByRole('region', { name: 'Elevation' })).toContainText('Click a wall or a roof');
  await page.mouse.click(850, 300);
  const elevation = page.getByRole('region', { name: 'Elevation' });
  await expect(elevation).toContainText('Bar, wall 1, storey');

  await page.getByRole('button', { name: 'Add a rule', exact: true }).first().click();
  await page.getByLabel('Makes', { exact: true }).selectOption('panels');
  await page.getByRole('button', { name: 'Only the chosen wall' }).click();
  const openings = elevation.locator('path.opening');
  await expect(openings.first()).toBeVisible();
  const before = await openings.count();
  await elevation.getByRole('button', { name: 'Paint panels' }).click();
  const wall = (await elevation.locator('path.wall').boundingBox())!;
  const middle = { x: wall.x + wall.width * 0.5 + 4, y: wall.y + wall.height * 0.5 };
  await page.mouse.click(middle.x, middle.y);
  await expect(page.getByRole('button', { name: 'Undo: paint a panel of Rule 1' })).toBeVisible();
  const painted = await openings.count();
  expect(Math.abs(painted - before)).toBe(1);
  await page.mouse.click(middle.x, middle.y);
  await expect(openings).toHaveCount(before);
  await elevation.getByRole('button', { name: 'Paint panels' }).click();

  await page.getByRole('button', { name: 'Break Rule 1 into single openings' }).click();
  await expect(elevation.locator('path.opening.ruled')).toHaveCount(0);
  await expect(openings).toHaveCount(before);
  await page.getByRole('button', { name: 'Undo: break Rule 1' }).click();
  await page.getByRole('button', { name: 'Remove Rule 1' }).click();
  await expect(openings).toHaveCount(0);

  await elevation.getByRole('button', { name: 'Window', exact: true }).click();
  await page.mouse.move(wall.x + wall.width * 0.05, wall.y + wall.height * 0.2);
  await page.mouse.down();
  await page.mouse.move(wall.x + wall.width * 0.12, wall.y + wall.height * 0.8, { steps: 4 });
  await page.mouse.up();
  await expect(openings).toHaveCount(1);
  const type = async (label: string, value: string) => {
    await page.getByLabel(label, { exact: true }).fill(value);
    await page.getByLabel(label, { exact: true }).press('Enter');
  };
  await type('Width', '2.4');
  await type('Sill', '0.5');
  await type('Head', '2.9');
  await type('From the left', '1');
  await page.getByLabel('Curtain-wall grid').check();
  await type('Panes across', '4');
  await type('Repeat every', '4');
  await page.getByRole('button', { name: 'Array to the right' }).click();
  // The first ends 3.4 m from the left; every 4 m until 34 m: seven more.
  await expect(openings).toHaveCount(8);
  await type('Head', '9');
  await expect(elevation.getByRole('alert')).toContainText('it does not fit');
  await expect(elevation.getByRole('alert')).toContainText('There is no place on this face where it fits.');
  await elevation.getByRole('button', { name: 'Leave it' }).click();
  await saved(page);
  const { project } = (await (await fetch(`${stack.url}/api/projects/${id}`)).json()) as { project: Project };
  const drawn = project.options[1]!.masses[0]!.openings;
  expect(drawn[0]).toMatchObject({
    outline: { u: 1, v: 0.5, widthM: 2.4 },
    grid: { columns: 4, rows: 2, barM: 0.06 },
  });
  expect(drawn.map((o) => (o.outline as { u: number }).u)).toEqual([1, 5, 9, 13, 17, 21, 25, 29]);
});

test('an area on a flat roof is measured where it lies', async ({ page, stack }) => {
  const id = await sampleCopy(stack, (project) => {
    project.areas = [
      {
        id: 'roof',
        name: 'Roof terrace',
        use: 'terrace',
        outline: [
          [4, 6],
          [30, 6],
          [30, 14],
          [4, 14],
        ],
        on: { kind: 'level', levelM: massLevels(project.options[1]!.masses[0]!, project.site.ground).eavesM },
      },
    ];
    project.studies[0]!.targets = [];
  });
  await open(page, `/p/${id}/site?option=a`);
  await page.getByRole('button', { name: 'Measure Roof terrace' }).click();
  await toStage(page, 'Studies');
  await page.getByLabel('Roof terrace', { exact: true }).check();
  await page.getByRole('button', { name: /^Run/ }).click();
  await expect(page.getByTestId('answer')).toContainText('100.0 % of “Roof terrace” has at least 2 h');
});
