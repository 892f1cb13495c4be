import { deepestSun, instantOf, roomRows, sunInRooms } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { expect, open, sampleCopy, test } from '../stack';

const project = kelpLane();
const NONE = new Map();
const at = (minutes: number) => instantOf('2026-03-21', minutes, project.site.place.zone);
const only = new Set(['bar/0/1']);

test('the sun in a room is read, cut through, followed by its rays, and found where it is deepest', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/sun?option=a&at=2026-03-21T14:00`);
  await page.getByLabel('Rooms of').selectOption('Bar, storey 1');
  const table = page.getByTestId('room-table');
  const [row] = roomRows(sunInRooms(project, 'a', NONE, at(840), { only }), 14);
  expect(row!.room).toBe('Treatment room 2');
  const line = table.getByRole('row', { name: /Treatment room 2/ });
  await expect(line).toContainText(`${row!.floor.sunlitM2.toFixed(1)} m²`);
  await expect(line).toContainText(`${row!.depth!.depthM.toFixed(2)} m`);
  await line.getByRole('button').click();
  await expect(page.getByTestId('room-details')).toContainText('Desk 2');

  await page.getByRole('button', { name: 'Section', exact: true }).click();
  await expect(page.locator('.scene-label.ray').filter({ hasText: 'VSA' })).toHaveText(
    `VSA ${row!.depth!.vsaDeg.toFixed(1)}°`,
  );
  await expect(page.locator('.scene-label.ray').filter({ hasText: ' m' })).toHaveText(
    `${row!.depth!.depthM.toFixed(2)} m`,
  );
  await page.getByRole('button', { name: '21 March, hour by hour', exact: true }).click();
  await expect(page.locator('.scene-label.fan').first()).toHaveText(/^\d\d:\d\d$/);

  await page.getByLabel('Year on the almanac').selectOption('the glass of opening 1');
  await expect(page.getByTestId('surface-year')).toContainText(/^\d{3,4} h of sun a year/);
  await page.getByLabel('Year on the almanac').selectOption('nothing');
  await expect(page.getByTestId('surface-year')).toHaveCount(0);

  await page.getByLabel('Rays, where they land').check();
  const landings = page.getByTestId('landings');
  await expect(landings.getByRole('row', { name: /^floor/ })).toBeVisible();
  const sumOf = async () => {
    const cells = await landings.locator('tbody td:nth-child(2)').allInnerTexts();
    return cells.reduce((sum, text) => sum + (text === '–' ? 0 : Number(text)), 0);
  };
  expect(Math.abs((await sumOf()) - 100)).toBeLessThan(0.5);
  await page.getByRole('button', { name: 'Draw a strip' }).click();
  const scene = (await page.locator('.pane-scene').boundingBox())!;
  const middle = { x: scene.x + scene.width * 0.25, y: scene.y + scene.height * 0.45 };
  await page.mouse.click(middle.x, middle.y);
  await page.mouse.click(middle.x + scene.width * 0.18, middle.y);
  await expect(page.getByLabel('Strip, along the facade')).toHaveValue('2');
  await expect(landings.getByRole('row', { name: /^strip/ })).toBeVisible();
  await page.getByLabel('Strip, reflectance', { exact: true }).fill('1.5');
  await page.getByLabel('Strip, reflectance', { exact: true }).press('Enter');
  await expect(page.getByText('A reflectance goes from 0 to 1.')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Remove the strip' }).click();
  await expect(landings.getByRole('row', { name: /^strip/ })).toHaveCount(0);

  // One opening alone, then sun off a wall that is chosen on the board.
  const entering = page.getByText(/m² of beam enter/);
  const all = await entering.innerText();
  await page.getByLabel('Through').selectOption({ label: 'opening 1' });
  await expect(entering).not.toHaveText(all);
  await page.getByLabel('Through').selectOption({ label: 'all 2 openings' });
  await expect(entering).toHaveText(all);
  await page.getByLabel('Kind of view').selectOption('orbit');
  await page.mouse.click(scene.x + scene.width * 0.3, scene.y + scene.height * 0.35);
  await page.getByRole('button', { name: 'Off the chosen wall' }).click();
  await expect(page.getByText('Sun off a wall of “Bar” comes in too.')).toBeVisible();
  await expect(entering).toContainText('thrown elsewhere do not');
  await page.getByLabel('Wall, reflectance').fill('7');
  await page.getByLabel('Wall, reflectance').press('Enter');
  await expect(page.getByText('A reflectance goes from 0 to 1.')).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Leave out the wall' }).click();
  await expect(entering).toHaveText(all);

  await page.getByRole('button', { name: 'Find the deepest' }).click();
  const moments = Array.from({ length: 144 }, (_, i) => at(i * 10));
  const [deepest] = deepestSun(project, 'a', NONE, moments, only);
  const found = page.getByTestId('deepest-table').getByRole('row', { name: /Treatment room 2/ });
  await expect(found).toContainText(`${deepest!.best!.ray.depthM.toFixed(2)} m`);
  await found.getByRole('button').click();
  const minutes = deepest!.best!.moment * 10;
  const clock = `${String(Math.floor(minutes / 60)).padStart(2, '0')}%3A${String(minutes % 60).padStart(2, '0')}`;
  await expect(page).toHaveURL(new RegExp(`at=2026-03-21T${clock}`));
});

test('rooms without sun and options without rooms say so', async ({ page, stack }) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/sun?option=b&at=2026-03-21T02:00`);
  await page.getByLabel('Rooms of').selectOption('Everything');
  await expect(page.getByText('No room here gets sun now')).toBeVisible();
  await page.getByLabel('Rooms of').selectOption('Court ring, storey 1');
  await expect(page.getByText('nothing of this has openings')).toBeVisible();
});
