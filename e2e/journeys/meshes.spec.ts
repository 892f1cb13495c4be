import type { PlaneTarget, Project } from '@dial-shade/core';
import { begin, expect, saved, type Stack, test, toStage } from '../stack';

const KIOSK = `o Kiosk
v 0 0 0
v 6 0 0
v 6 4 0
v 0 4 0
v 0 0 3
v 6 0 3
v 6 4 3
v 0 4 3
f 4 3 2 1
f 5 6 7 8
f 1 2 6 5
f 2 3 7 6
f 3 4 8 7
f 4 1 5 8
`;

async function stored(stack: Stack, id: string): Promise<Project> {
  const answer = await fetch(`${stack.url}/api/projects/${id}`);
  return ((await answer.json()) as { project: Project }).project;
}

test('a flat face of an imported mesh takes a window, panels, and is measured; all of it goes along when it moves', async ({
  page,
  stack,
}) => {
  const id = await begin(page, 'Kiosk');
  await page.getByRole('button', { name: 'Bring in', exact: true }).click();
  await page
    .getByLabel('Model file')
    .setInputFiles({ name: 'kiosk.obj', mimeType: 'text/plain', buffer: Buffer.from(KIOSK) });
  const dialog = page.getByRole('dialog');
  await dialog.getByLabel('Kiosk becomes').selectOption('option');
  await dialog.getByRole('button', { name: 'Bring in', exact: true }).click();
  await expect(dialog).toHaveCount(0);
  await toStage(page, 'Openings');
  await page.getByRole('button', { name: 'From drawing south (S)' }).click();

  // Seen from the south, the face stands in the middle of the board, above the foot of the view.
  const board = (await page.locator('.board canvas').boundingBox())!;
  const elevation = page.getByRole('region', { name: 'Elevation' });
  await expect(async () => {
    for (const part of [0.48, 0.44, 0.52, 0.4]) {
      await page.mouse.click(board.x + board.width / 2, board.y + board.height * part);
      if ((await elevation.innerText()).includes('Kiosk, a flat face')) break;
    }
    await expect(elevation).toContainText('Kiosk, a flat face');
  }).toPass();
  await expect(elevation).toContainText('6.00 m × 3.00 m, faces 180°');
  const wall = (await elevation.locator('path.wall').boundingBox())!;
  await elevation.getByRole('button', { name: 'Window', exact: true }).click();
  await page.mouse.move(wall.x + wall.width * 0.1, wall.y + wall.height * 0.3);
  await page.mouse.down();
  await page.mouse.move(wall.x + wall.width * 0.3, wall.y + wall.height * 0.7, { steps: 4 });
  await page.mouse.up();
  const openings = elevation.locator('path.opening');
  await expect(openings).toHaveCount(1);

  await page.getByRole('button', { name: 'Add a rule', exact: true }).first().click();
  await page.getByLabel('Makes', { exact: true }).selectOption('panels');
  await expect(openings).toHaveCount(1);
  await page.getByRole('button', { name: 'Only “Kiosk”' }).click();
  await expect(elevation.locator('path.opening.ruled').first()).toBeVisible();
  const panels = await elevation.locator('path.opening.ruled').count();
  await elevation.getByRole('button', { name: 'Paint panels' }).click();
  await page.mouse.click(wall.x + wall.width * 0.62, wall.y + wall.height * 0.5);
  await expect(page.getByRole('button', { name: 'Undo: paint a panel of Rule 1' })).toBeVisible();
  expect(Math.abs((await elevation.locator('path.opening.ruled').count()) - panels)).toBe(1);
  await elevation.getByRole('button', { name: 'Paint panels' }).click();

  await elevation.locator('path.opening.ruled').first().click();
  await page.getByRole('button', { name: 'Break it on this wall only' }).click();
  await expect(elevation.locator('path.opening.ruled')).toHaveCount(0);
  await expect(page.locator('.sheet')).toContainText('1 wall left alone');

  await toStage(page, 'Studies');
  await page.getByRole('button', { name: 'Add a study' }).click();
  await page.getByRole('button', { name: 'Measure the chosen face' }).click();
  await expect(page.getByLabel('Face of Kiosk', { exact: true })).toBeChecked();
  await page.getByRole('button', { name: /^Run/ }).click();
  await expect(page.getByTestId('answer')).toContainText('“Face of Kiosk” has at least');
  await page.getByRole('button', { name: 'Turn Face of Kiosk to its other side' }).click();
  await expect(page.getByRole('button', { name: 'Run again' })).toBeVisible();
  await saved(page);
  const before = await stored(stack, id);

  await toStage(page, 'Form');
  const type = async (label: string, value: string) => {
    await page.getByLabel(label, { exact: true }).fill(value);
    await page.getByLabel(label, { exact: true }).press('Enter');
  };
  await type('Turned by', '90');
  await type('Raised', '1.5');
  await saved(page);
  const after = await stored(stack, id);
  const target = (project: Project) => project.targets[0] as PlaneTarget;
  expect(target(before).origin[2]).toBeCloseTo(0, 6);
  expect(target(after).origin[2]).toBeCloseTo(1.5, 6);
  // Measured from behind: u runs west along the south face, and south once the kiosk is turned.
  expect(target(before).u.map((v) => Math.round(v))).toEqual([-1, 0, 0]);
  expect(target(after).u.map((v) => Math.round(v) + 0)).toEqual([0, -1, 0]);
  const model = after.options[1]!.models[0]!;
  expect(model.openings.length).toBeGreaterThan(panels - 2);
  expect(new Set(model.openings.map(({ host }) => host.on))).toEqual(new Set(['mesh']));
});
