import { begin, clickGround, expect, fromAbove, open, sampleCopy, saved, test, toStage } from '../stack';

/** A box of 32.8 × 32.8 × 65.6 feet as an OBJ file. */
const FEET_BOX = `o Mill
v 0 0 0
v 32.8084 0 0
v 32.8084 32.8084 0
v 0 32.8084 0
v 0 0 65.6168
v 32.8084 0 65.6168
v 32.8084 32.8084 65.6168
v 0 32.8084 65.6168
f 4 3 2 1
f 5 6 7 8
f 1 2 6 5
f 2 3 7 6
f 3 4 8 7
f 4 1 5 8
`;

test('an empty project walks through place, north and the first footprint', async ({ page }) => {
  await begin(page, 'Quay corner');
  await expect(page.locator('.pane-warning')).toContainText('Place and north not confirmed');
  const steps = page.getByRole('list', { name: 'First steps' });
  await expect(steps.locator('li.done')).toHaveCount(0);

  await page.locator('svg.map').click({ position: { x: 230, y: 95 } });
  await expect(page.getByLabel('Time zone')).not.toHaveValue('Europe/London');
  await page.getByLabel('Latitude', { exact: true }).fill('55.87');
  await page.getByLabel('Latitude', { exact: true }).press('Enter');
  await page.getByLabel('Longitude', { exact: true }).fill('-4.32');
  await page.getByLabel('Longitude', { exact: true }).press('Enter');
  await expect(page.getByLabel('Time zone')).toHaveValue('Europe/London');
  await expect(page.locator('.facts').first()).toContainText('57.6° high, 17.6 h day');
  await page.getByRole('button', { name: 'Confirm place' }).click();
  await expect(page.locator('.confirm').first()).toContainText('Place confirmed');
  await expect(steps.locator('li.done')).toHaveCount(1);

  await page.locator('.north-dial').scrollIntoViewIfNeeded();
  const dial = (await page.locator('.north-dial').boundingBox())!;
  await page.mouse.move(dial.x + 75, dial.y + 19);
  await page.mouse.down();
  await page.mouse.move(dial.x + 131, dial.y + 75, { steps: 6 });
  await page.mouse.up();
  await expect(page.getByLabel('True north', { exact: true })).toHaveValue('90');
  await page.getByLabel('True north', { exact: true }).fill('12');
  await page.getByLabel('True north', { exact: true }).press('Enter');
  await page.getByRole('button', { name: 'Confirm north' }).click();
  await expect(page.locator('.pane-warning')).toHaveCount(0);

  await steps.getByText('Draw the first footprint').click();
  await expect(page.getByRole('heading', { name: 'Form', exact: true, level: 1 })).toBeVisible();
  const place = await fromAbove(page);
  await page.getByRole('button', { name: 'Rectangle' }).click();
  await clickGround(page, place, [
    [-10, -5],
    [8, 7],
  ]);
  await expect(page.getByRole('button', { name: 'Mass 1', exact: true })).toBeVisible();
  await expect(page.locator('.sheet')).toContainText('216.0 m²');
  await expect(page.getByRole('list', { name: 'First steps' })).toHaveCount(0);
  await saved(page);
});

test('wrong input is answered in place and nothing changes', async ({ page, stack }) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/site`);
  const wrong = async (label: string, typed: string, sentence: string) => {
    const field = page.getByLabel(label, { exact: true }).first();
    const before = await field.inputValue();
    await field.fill(typed);
    await field.press('Enter');
    await expect(page.getByRole('alert')).toContainText(sentence);
    await field.press('Escape');
    await expect(field).toHaveValue(before);
  };
  await wrong('Latitude', '95', 'Latitude 95 degrees is outside −90 to 90 degrees.');
  await wrong('Latitude', 'north', '“north” is not a number.');
  await wrong('Time zone', 'Europe/Atlantis', 'The time zone “Europe/Atlantis” does not exist');
  await wrong('Elevation', '99999', 'Elevation 99999 m is outside');
  await wrong('Year', '3000', 'The year 3000 is outside 1900 to 2100.');
  await open(page, `/p/${id}/form?option=a`);
  await page.getByRole('button', { name: 'Bar', exact: true }).last().click();
  await wrong('Storey 1 height', '0', 'The storey height 0 m is outside 0.1 to 100 m.');
  await wrong('Storey 1 height', '10000', 'The storey height 10000 m is outside');
  await wrong('Storeys', '999', 'at most 200 storeys');
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
});

test('what ground and facades throw back is set, or taken off open ground', async ({ page, stack }) => {
  await open(page, `/p/${await sampleCopy(stack)}/site?option=a&at=2026-06-21T12:00`);
  const albedo = page.getByLabel('Ground, albedo');
  await expect(albedo).toHaveValue('20');
  await albedo.fill('120');
  await albedo.press('Enter');
  await expect(page.getByText(/The albedo of the ground/)).toBeVisible();
  await albedo.fill('35');
  await albedo.press('Enter');
  await expect(albedo).toHaveValue('35');
  await page.getByLabel('Facades, roofs').fill('45');
  await page.getByLabel('Facades, roofs').press('Enter');
  await page.getByLabel('Taken').selectOption('off open ground');
  await expect(page.getByLabel('Facades, roofs')).toHaveCount(0);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByLabel('Facades, roofs')).toHaveValue('45');
  await saved(page);
});

test('units can be feet and inches', async ({ page, stack }) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/form?option=a`);
  await page.getByRole('button', { name: 'Bar', exact: true }).last().click();
  const height = page.getByLabel('Storey 1 height');
  await height.fill('12\' 6"');
  await height.press('Enter');
  await expect(height).toHaveValue('3.81');
  await toStage(page, 'Site');
  await page.getByLabel('Units').selectOption('imperial');
  await toStage(page, 'Form');
  await expect(height).toHaveValue('12\' 6"');
  await page.keyboard.press('Control+z');
  await page.locator('.brand').focus();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(height).toHaveValue('3.8');
});

test('a neighbour in feet comes in with its size shown first, and is there after a reload', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/site`);
  await page.getByRole('button', { name: 'Bring in', exact: true }).click();
  const choose = (text: string, name = 'mill.obj') =>
    page.getByLabel('Model file').setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
  const alert = page.getByRole('dialog').getByRole('alert');
  await choose('v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 9\n');
  await expect(alert).toContainText('a face names vertex 9, but 3 vertices stand before it');
  await choose('v 0 nan 0\n');
  await expect(alert).toContainText('“nan” is not a coordinate');
  await choose('');
  await expect(alert).toContainText('The file is empty');
  await choose('v 0 0 0\0\0');
  await expect(alert).toContainText('binary file');
  await choose(FEET_BOX);
  const size = page.getByTestId('model-size');
  await expect(size).toContainText('tall');
  await page.getByLabel('File is in').selectOption('m');
  await expect(size).toContainText('65.6 m tall');
  await page.getByLabel('File is in').selectOption('ft');
  await expect(size).toContainText('20.0 m tall, 10.0 m wide and 10.0 m deep');
  await page.getByRole('dialog').getByRole('button', { name: 'Bring in', exact: true }).click();
  await expect(page.getByRole('button', { name: 'Mill', exact: true })).toBeVisible();
  await page.getByLabel('Moved right').fill('-20');
  await page.getByLabel('Moved right').press('Enter');
  await saved(page);
  await page.reload();
  await page.getByLabel('Search in the model').fill('mill');
  await page.getByRole('button', { name: 'Mill', exact: true }).click();
  await expect(page.getByLabel('Moved right')).toHaveValue('-20');
});
