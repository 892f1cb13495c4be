import { expect, open, sampleCopy, saved, test } from '../stack';

test('a scheme stands, a device is sized for an afternoon, and its year is seen on the almanac', async ({
  page,
  stack,
}) => {
  await open(page, `/p/${await sampleCopy(stack)}/shading?option=a&at=2026-06-21T15:00`);
  const shares = page.getByTestId('glass-shares');
  const south = shares.locator('tr', { hasText: 'south' });
  // Nothing stands: as much is in sun with devices as without.
  await expect(south).toBeVisible();
  const cells = async () =>
    (await south.locator('td').allInnerTexts()).map((text) => Number.parseFloat(text));
  const [, , bare, alike] = await cells();
  expect(bare).toBe(alike);
  expect(bare).toBeGreaterThan(50);
  await page.getByRole('button', { name: 'Overhangs', exact: true }).click();
  await expect(page.getByTestId('hangs-on')).toHaveText('Hangs on 66 openings.');
  await expect(page.getByTestId('cut-off')).toContainText('a vertical shadow angle of');
  await expect(async () => {
    const [, , now, without] = await cells();
    expect(without).toBe(bare);
    expect(now).toBeLessThan(40);
  }).toPass();

  // Only in the lowest storey: fewer.
  await page.getByLabel('Storeys').fill('1');
  await page.getByLabel('Storeys').press('Enter');
  await expect(page.getByTestId('hangs-on')).not.toHaveText('Hangs on 66 openings.');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByTestId('hangs-on')).toHaveText('Hangs on 66 openings.');

  await page.getByLabel('Unwanted').selectOption('day');
  await page.getByLabel('In shade, at least').fill('70');
  await page.getByLabel('In shade, at least').press('Enter');
  await page.getByRole('button', { name: 'Find the size' }).click();
  const said = page.getByTestId('size-said');
  await expect(said).toContainText(/\d\.\d{3} m does it: \d+ % of the glass in shade, 7\d % at its least/);
  await expect(said).toContainText('Too warm');
  const size = /(\d\.\d{3}) m/.exec(await said.innerText())![1]!;
  await said.getByRole('button', { name: 'Hang it so' }).click();
  await expect(page.getByLabel('Depth', { exact: true })).toHaveValue(String(Number(size)));
  // Half the sun cannot come from a goal that is none.
  await page.getByLabel('In shade, at least').fill('101');
  await page.getByLabel('In shade, at least').press('Enter');
  await expect(page.getByText('A share of the glass above 0 and up to 100 %.')).toBeVisible();

  await page.getByLabel('Its year on the almanac').check();
  await expect(page.getByTestId('window-year')).toContainText('Overhang');

  await page.getByRole('button', { name: 'Go through the year' }).click();
  const years = page.getByTestId('room-years');
  await expect(years.locator('tbody tr')).toHaveCount(5);
  const cooling = async (row: number) =>
    Number((await years.locator('tbody tr').nth(row).locator('td').nth(2).innerText()).replace(',', ''));
  expect(await cooling(1)).toBeLessThan(await cooling(0));
  await page.getByLabel('Walls', { exact: true }).fill('0.5');
  await page.getByLabel('Walls', { exact: true }).press('Enter');
  await expect(page.getByText('Out of date: what it was reckoned from has changed.')).toBeVisible();

  // Slats thicker than their spacing are refused in place.
  await page.getByRole('button', { name: 'Louvres', exact: true }).click();
  await page.getByLabel('Thickness').fill('0.5');
  await page.getByLabel('Thickness').press('Enter');
  await expect(page.getByText('Slats of 0.5 m do not fit into a spacing of 0.2 m')).toBeVisible();
  await page.getByRole('button', { name: 'None', exact: true }).click();
  await expect(page.getByTestId('hangs-on')).toHaveCount(0);
  await saved(page);
});

test('a scheme of one’s own: hung, copied to another option, taken away again', async ({ page, stack }) => {
  await open(page, `/p/${await sampleCopy(stack)}/shading?option=a&at=2026-03-21T12:00`);
  await page.getByRole('button', { name: 'Add a scheme' }).click();
  for (const kind of ['Fins', 'Light shelf', 'Eggcrate']) {
    await page.getByRole('button', { name: 'Hang a device' }).click();
    await page.getByRole('button', { name: kind, exact: true }).last().click();
    await expect(page.getByRole('list', { name: 'Devices' }).locator('li.chosen')).toHaveText(kind);
    await expect(page.getByTestId('hangs-on')).toContainText(/Hangs on \d+ openings/);
  }
  await page.getByRole('button', { name: 'Copy to …' }).click();
  await page.getByRole('button', { name: 'B Court', exact: true }).last().click();
  await page.keyboard.press('2');
  await expect(page.getByRole('list', { name: 'Devices' }).locator('li')).toHaveCount(3);
  // The court has no windows yet.
  await expect(page.getByTestId('hangs-on')).toContainText('hangs on no opening');
  await expect(page.getByText('This option has no glazed openings yet')).toBeVisible();
  await page.getByRole('button', { name: 'Remove Scheme 5' }).click();
  await expect(page.getByRole('list', { name: 'Devices' })).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('list', { name: 'Devices' }).locator('li')).toHaveCount(3);
  await page.keyboard.press('0');
  await expect(page.getByText('Devices belong to a proposal.')).toBeVisible();
});
