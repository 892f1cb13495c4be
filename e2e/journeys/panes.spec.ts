import { expect, open, sampleCopy, test } from '../stack';

test('the board is divided; a pinned pane keeps its moment and option while the other goes on', async ({
  page,
}) => {
  await open(page, '/p/kelp-lane/sun?option=a&at=2026-03-21T12:00');
  await page.getByRole('button', { name: 'Two panes side by side' }).click();
  const panes = page.locator('.pane');
  await expect(panes).toHaveCount(2);
  await panes.nth(1).getByRole('button', { name: 'Pin the moment of this pane' }).click();
  await panes.nth(1).getByRole('button', { name: 'Pin the option of this pane' }).click();
  await panes
    .nth(0)
    .locator('.pane-scene')
    .click({ position: { x: 20, y: 200 } });
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('2');
  await expect(panes.nth(0).locator('.pane-title')).toContainText('Court21 Mar, 12:10');
  await expect(panes.nth(1).locator('.pane-title')).toContainText('Bar21 Mar, 12:00');

  // With the focus on the pinned pane, keys and almanac act on it.
  await panes
    .nth(1)
    .locator('.pane-scene')
    .click({ position: { x: 20, y: 200 } });
  await expect(page).toHaveURL(/option=a&at=2026-03-21T12%3A00/);
  await page.keyboard.press('Shift+ArrowDown');
  await expect(panes.nth(1).locator('.pane-title')).toContainText('13:00');
  await expect(panes.nth(0).locator('.pane-title')).toContainText('12:10');

  const before = (await panes.nth(0).boundingBox())!;
  const divider = page.getByRole('separator', { name: 'Divider between panes, across' });
  const line = (await divider.boundingBox())!;
  await page.mouse.move(line.x + 5, line.y + 200);
  await page.mouse.down();
  await page.mouse.move(line.x + 105, line.y + 200, { steps: 4 });
  await page.mouse.up();
  await expect(async () =>
    expect((await panes.nth(0).boundingBox())!.width).toBeGreaterThan(before.width + 60),
  ).toPass();
  await page.reload();
  await expect(panes).toHaveCount(2);
  await expect(panes.nth(1).locator('.pane-title')).toContainText('13:00');
  await page.getByRole('button', { name: 'Four panes' }).click();
  await expect(panes).toHaveCount(4);
  await page.getByRole('button', { name: 'One pane' }).click();
  await expect(panes).toHaveCount(1);
});

test('every kind of view is taken, set by its fields, kept and looked from again', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/sun?option=a&at=2026-03-21T15:20`);
  const kind = page.getByLabel('Kind of view');

  await kind.selectOption('Plan');
  await page.getByLabel('Cut above the floor').fill('1.2');
  await page.getByLabel('Cut above the floor').press('Enter');
  await page.getByLabel('True north up').check();
  await page.getByLabel('Surfaces').selectOption('White');
  await page.getByRole('button', { name: 'Keep this view' }).click();
  await page.getByLabel('Name').fill('Plan of the clinic');
  await page.getByLabel('Name').press('Enter');

  await kind.selectOption('Section');
  await page.getByRole('button', { name: 'Look the other way' }).click();
  await page.getByRole('button', { name: '1 m farther' }).click();
  await kind.selectOption('Elevation');
  await page.getByLabel('Faces, from true north').fill('400');
  await page.getByLabel('Faces, from true north').press('Enter');
  await expect(page.getByText('The bearing goes from 0 to 360 degrees.')).toBeVisible();
  await page.getByLabel('Faces, from true north').fill('200');
  await page.getByLabel('Faces, from true north').press('Enter');
  await kind.selectOption('From the sun');
  await expect(page.getByText('What is seen from the sun is lit')).toBeVisible();

  await kind.selectOption('Eye');
  await page.getByRole('button', { name: 'Wide 75°' }).click();
  await expect(page.getByLabel('Field of view')).toHaveValue('75');
  await page.getByLabel('Field of view').fill('180');
  await page.getByLabel('Field of view').press('Enter');
  await expect(page.getByText('The field of view goes from 5 to 120 degrees.')).toBeVisible();
  const scene = page.locator('.pane-scene');
  const box = (await scene.boundingBox())!;
  const says = page.getByText(/^Looks \d+° from true north/);
  const before = await says.innerText();
  await page.mouse.move(box.x + 300, box.y + 250);
  await page.mouse.down();
  await page.mouse.move(box.x + 480, box.y + 250, { steps: 4 });
  await page.mouse.up();
  await expect(says).not.toHaveText(before);
  await page.getByRole('button', { name: 'Stand elsewhere' }).click();
  await page.mouse.click(box.x + 300, box.y + box.height - 60);
  await expect(page.getByRole('button', { name: 'Stand elsewhere' })).toHaveAttribute(
    'aria-pressed',
    'false',
  );

  await page.getByRole('button', { name: 'Plan of the clinic', exact: true }).click();
  await expect(kind).toHaveValue('level');
  await expect(page.getByLabel('Cut above the floor')).toHaveValue('1.2');
  await expect(page.getByLabel('True north up')).toBeChecked();
  await expect(page.getByLabel('Surfaces')).toHaveValue('white');

  // A key that frames everything makes an orbit of it, and the pane says so.
  await scene.focus();
  await page.keyboard.press('f');
  await expect(kind).toHaveValue('orbit');
  await page.getByRole('button', { name: 'Plan of the clinic', exact: true }).click();
  await expect(kind).toHaveValue('level');

  // One plan becomes plans of every storey, and undo takes them back in one step.
  const listed = page.getByRole('button', { name: /^Plan of the clinic/ });
  await page.getByRole('button', { name: 'The same for every storey' }).click();
  await expect(async () => expect(await listed.count()).toBeGreaterThan(4)).toPass();
  await page.getByRole('button', { name: /^Undo: plans of every storey/ }).click();
  await expect(listed).toHaveCount(1);
  await page.getByRole('button', { name: 'Duplicate Plan of the clinic', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Plan of the clinic copy', exact: true })).toBeVisible();
});

test('plans of every floor lie side by side as a sheet, and the board goes back to one pane', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/sun?option=a&at=2026-03-21T14:00`);
  await page.getByRole('combobox', { name: 'Kind of view' }).selectOption('Plan');
  await page.getByRole('button', { name: 'Every floor side by side' }).click();
  const panes = page.locator('.pane');
  await expect(panes).toHaveCount(6);
  await expect(panes.nth(3).locator('.pane-title')).toHaveText('Bar, storey 3');
  await panes.nth(3).click({ position: { x: 60, y: 60 } });
  await expect(page.getByLabel('Floor', { exact: true }).locator('option:checked')).toContainText(
    'Bar, storey 3',
  );
  await page.reload();
  await expect(panes).toHaveCount(6);
  await page.getByRole('button', { name: 'One pane' }).click();
  await expect(panes).toHaveCount(1);
});
