import { readFileSync } from 'node:fs';
import type { Project } from '@dial-shade/core';
import { expect, open, sampleCopy, saved, sparser, test } from '../stack';

/** A bar of three storeys with half the windows. */
function small(project: Project): void {
  sparser(project);
  for (const { storeys } of project.options.find(({ id }) => id === 'a')!.masses) storeys.length = 3;
}

test('a scheme stands, a device is sized for an afternoon, and its year is seen on the almanac', async ({
  page,
  stack,
}) => {
  await open(page, `/p/${await sampleCopy(stack, small)}/shading?option=a&at=2026-06-21T15:00`);
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
  await expect(page.getByTestId('hangs-on')).toHaveText('Hangs on 28 openings.');
  await expect(page.getByTestId('cut-off')).toContainText('a vertical shadow angle of');
  await expect(async () => {
    const [, , now, without] = await cells();
    expect(without).toBe(bare);
    expect(now).toBeLessThan(40);
  }).toPass();

  // Only in the lowest storey: fewer.
  await page.getByLabel('Storeys').fill('1');
  await page.getByLabel('Storeys').press('Enter');
  await expect(page.getByTestId('hangs-on')).not.toHaveText('Hangs on 28 openings.');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByTestId('hangs-on')).toHaveText('Hangs on 28 openings.');

  await page.getByLabel('Unwanted').selectOption('day');
  await page.getByLabel('In shade, at least').fill('70');
  await page.getByLabel('In shade, at least').press('Enter');
  await page.getByRole('button', { name: 'Find the size' }).click();
  const said = page.getByTestId('size-said');
  await expect(said).toContainText(/\d\.\d{3} m does it: \d+ % of the glass in shade, 7\d % at its least/);
  await expect(said).toContainText('Too warm');
  // That table comes later than the answer: below the button.
  const [button, table] = [said.getByRole('button'), said.getByRole('table')];
  expect((await button.boundingBox())!.y).toBeLessThan((await table.boundingBox())!.y);
  const size = /(\d\.\d{3}) m/.exec(await said.innerText())![1]!;
  await said.getByRole('button', { name: 'Hang it so' }).click();
  await expect(page.getByLabel('Depth', { exact: true })).toHaveValue(String(Number(size)));
  await page.getByLabel('Goal', { exact: true }).selectOption('depth');
  await page.getByLabel('At most', { exact: true }).fill('2.4');
  await page.getByLabel('At most', { exact: true }).press('Enter');
  await page.getByRole('button', { name: 'Find the size' }).click();
  await expect(said).toContainText('does it in Treatment room');
  await expect(said).toContainText(/at most \d\.\d\d m deep/);
  await page.getByLabel('Goal', { exact: true }).selectOption('furniture');
  await page.getByRole('button', { name: 'Find the size' }).click();
  await expect(said).toContainText('Without it');
  await page.getByLabel('Goal', { exact: true }).selectOption('glass');
  await page.getByLabel('And', { exact: true }).selectOption('sideM');
  await page.getByRole('button', { name: 'Find the size' }).click();
  await expect(said).toContainText('with the extension beyond the jambs');
  await said.getByRole('button', { name: 'Hang it so' }).click();
  await expect(page.getByLabel('Beyond the jambs', { exact: true })).not.toHaveValue('0.2');
  await page.getByRole('button', { name: /^Undo/ }).click();
  // Half the sun cannot come from a goal that is none.
  await page.getByLabel('In shade, at least').fill('101');
  await page.getByLabel('In shade, at least').press('Enter');
  await expect(page.getByText('A share of the glass above 0 and up to 100 %.')).toBeVisible();

  await page.getByLabel('Over', { exact: true }).selectOption({ index: 1 });
  await expect(page.getByTestId('over-set')).toContainText('of its glass in sun on average of');
  await page.getByLabel('On the almanac').selectOption('shaders');
  await expect(page.getByTestId('window-year')).toContainText('Overhang');

  await page.getByRole('button', { name: 'Go through the year' }).click();
  const years = page.getByTestId('room-years');
  await expect(years.locator('tbody tr')).toHaveCount(8);
  // A figure that is sampled carries its error.
  await expect(years.locator('tbody tr').first()).toContainText(/\d\.\d ± /);
  const cooling = async (row: number) =>
    Number.parseFloat(await years.locator('tbody tr').nth(row).locator('td').nth(2).innerText());
  expect(await cooling(1)).toBeLessThan(await cooling(0));
  await page.getByLabel('Walls', { exact: true }).fill('0.5');
  await page.getByLabel('Walls', { exact: true }).press('Enter');
  await expect(page.getByText('Out of date: what it was reckoned from has changed.')).toBeVisible();
  await years.getByRole('button', { name: 'Fins' }).click();
  await expect(page.getByTestId('room-months')).toContainText('Fins');
  // A typical room of each facade, in all options that have rooms.
  await page.getByLabel('Room', { exact: true }).selectOption('facades');
  await page.getByRole('button', { name: 'Go through the year' }).click();
  await expect(years).toContainText('A, south');

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
  await open(page, `/p/${await sampleCopy(stack, small)}/shading?option=a&at=2026-03-21T12:00`);
  await page.getByRole('button', { name: 'Add a scheme' }).click();
  for (const kind of ['Fins', 'Light shelf', 'Eggcrate']) {
    await page.getByRole('button', { name: 'Hang a device' }).click();
    await page.getByRole('button', { name: kind, exact: true }).last().click();
    await expect(page.getByRole('list', { name: 'Devices' }).locator('li.chosen')).toHaveText(kind);
    await expect(page.getByTestId('hangs-on')).toContainText(/Hangs on \d+ openings/);
  }
  // Fins, a shelf and an eggcrate at the same windows cannot all stand there; that is said, and allowed.
  await expect(page.getByTestId('device-problems')).toContainText('run into one another');
  // One window is changed by itself: the others keep what hangs on them.
  const list = page.getByRole('list', { name: 'Devices' });
  await list.getByRole('button', { name: 'Fins', exact: true }).click();
  const before = Number(/\d+/.exec(await page.getByTestId('hangs-on').innerText())![0]);
  await page.getByRole('button', { name: 'Detach it there' }).click();
  await expect(page.getByTestId('hangs-on')).toHaveText('Hangs on 1 opening.');
  await list.getByRole('button', { name: 'Fins', exact: true }).click();
  await expect(page.getByTestId('hangs-on')).toHaveText(`Hangs on ${before - 1} openings.`);
  await page.getByLabel('It hangs').selectOption('storey');
  await page.getByRole('button', { name: 'For every side and storey' }).click();
  await expect(page.getByTestId('size-table')).toBeVisible();
  await page.getByRole('button', { name: 'Copy to …' }).click();
  await page.getByRole('button', { name: 'B Court', exact: true }).last().click();
  await page.keyboard.press('2');
  await expect(page.getByRole('list', { name: 'Devices' }).locator('li')).toHaveCount(4);
  // The court has no windows yet.
  await expect(page.getByTestId('hangs-on')).toContainText('hangs on no opening');
  await expect(page.getByText('This option has no glazed openings yet')).toBeVisible();
  await page.getByRole('button', { name: 'Remove Scheme 8' }).click();
  await expect(page.getByRole('list', { name: 'Devices' })).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('list', { name: 'Devices' }).locator('li')).toHaveCount(4);
  await page.keyboard.press('0');
  await expect(page.getByText('Devices belong to a proposal.')).toBeVisible();
});

test('blinds come down by a rule and slats turn with the sun, as the moment has it', async ({
  page,
  stack,
}) => {
  await open(page, `/p/${await sampleCopy(stack, small)}/shading?option=a&at=2026-06-21T14:00`);
  await page.getByRole('button', { name: 'Blinds by the sun', exact: true }).click();
  const now = page.getByTestId('position-now');
  await page.getByLabel('Beam on the glass over').fill('1');
  await page.getByLabel('Beam on the glass over').press('Enter');
  await expect(now).toContainText('At this moment it is down');
  await expect(page.getByTestId('glass-shares')).toContainText('south');
  await page.getByLabel('First month').selectOption('July');
  await expect(now).toContainText('it is up');
  await page.getByLabel('First month').selectOption('November');
  await page.getByLabel('Last month').selectOption('June');
  await expect(now).toContainText('it is down');
  await page.getByLabel('Until').fill('25:00');
  await page.getByLabel('Until').press('Enter');
  await expect(page.getByText('“25:00” is not a clock time')).toBeVisible();
  await page.getByLabel('Until').fill('13:00');
  await page.getByLabel('Until').press('Enter');
  await expect(now).toContainText('it is up');
  await expect(page.getByTestId('devices-year')).toContainText('are summed hour by hour');
  // A blind inside leaves so much of the gain while it is down.
  await expect(page.getByLabel('Of the gain, comes in')).toHaveCount(0);
  await page.getByLabel('Side', { exact: true }).selectOption('inside');
  await expect(page.getByLabel('Of the gain, comes in')).toHaveValue('70');
  await page.getByLabel('Of the gain, comes in').fill('2');
  await page.getByLabel('Of the gain, comes in').press('Enter');
  await expect(page.getByText(/The factor on the g-value/)).toBeVisible();
  await page.getByLabel('Of the gain, comes in').fill('50');
  await page.getByLabel('Of the gain, comes in').press('Enter');
  await expect(page.getByLabel('Of the gain, comes in')).toHaveValue('50');
  await page.getByRole('button', { name: 'Louvres', exact: true }).click();
  await page.getByLabel('Turn with the sun').check();
  await page.getByLabel('Tilt', { exact: true }).fill('80');
  await page.getByLabel('Tilt', { exact: true }).press('Enter');
  await expect(page.getByText('lies beyond those that the slats turn between')).toBeVisible();
  await page.getByLabel('Tilt', { exact: true }).press('Escape');
  await expect(now).toContainText('it is turned to');
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(now).toHaveCount(0);
  await saved(page);
});

test('what devices do through the year, a depth dragged on the board, a sweep, a map of worth made into a device', async ({
  page,
  stack,
}) => {
  await open(page, `/p/${await sampleCopy(stack, small)}/shading?option=a&at=2026-06-21T15:00`);
  await page.getByRole('button', { name: 'Overhangs', exact: true }).click();
  const year = page.getByTestId('devices-year');
  await expect(year).toContainText('of unwanted sun kept out');
  const keptOut = async () =>
    Number.parseFloat((await year.locator('.set-figure strong').first().innerText()) ?? '');
  const before = await keptOut();
  await expect(year).toContainText('sky light on the glass');
  await expect(page.getByTestId('room-light')).toContainText(
    /\d\.\d\d %; \d\.\d\d % without devices\. \d+ % of its view out is left/,
  );
  await page.getByLabel('Of', { exact: true }).selectOption('room');
  await expect(year).toContainText('4 windows');
  await page.getByLabel('Of', { exact: true }).selectOption('window');
  await page.getByLabel('On the almanac').selectOption('shade');
  await expect(page.getByTestId('tone-legend')).toContainText('of the glass in shade');
  await expect(page.getByTestId('hour-set-outline')).toHaveCount(2);

  // The handle of the depth is somewhere above the middle of what is looked at: there first, then about it.
  await page.getByRole('button', { name: 'Look at it' }).click();
  const box = (await page.locator('.pane').first().boundingBox())!;
  const hover = page.locator('.pane-tip');
  const handle = await (async () => {
    const steps = Array.from({ length: 22 }, (_, i) => (i - 11) * 8);
    const about = steps
      .flatMap((dx) => steps.map((dy) => ({ dx, dy: dy - 30 })))
      .sort((a, b) => Math.hypot(a.dx - 40, a.dy + 100) - Math.hypot(b.dx - 40, b.dy + 100));
    for (const { dx, dy } of about) {
      const [x, y] = [box.x + box.width / 2 + dx, box.y + box.height / 2 + dy];
      await page.mouse.move(x, y);
      if ((await hover.count()) > 0 && /depth · drag it/.test(await hover.first().innerText()))
        return { x, y };
    }
    throw new Error('No handle of the depth was found.');
  })();
  await page.mouse.down();
  await page.mouse.move(handle.x - 20, handle.y + 14, { steps: 4 });
  await page.mouse.move(handle.x - 42, handle.y + 26, { steps: 4 });
  await page.mouse.up();
  const depth = page.getByLabel('Depth', { exact: true });
  await expect(depth).not.toHaveValue('0.8');
  const dragged = Number(await depth.inputValue());
  expect(Math.round(dragged * 100) % 5).toBe(0);
  await expect(async () => {
    const now = await keptOut();
    if (dragged > 0.8) expect(now).toBeGreaterThan(before);
    else expect(now).toBeLessThan(before);
  }).toPass();
  await page.keyboard.press('Control+z');
  await expect(depth).toHaveValue('0.8');
  // Cut through, the cut-off stands as a dimension.
  await page.getByRole('button', { name: 'Section', exact: true }).click();
  const angle = page.locator('.scene-label', { hasText: 'VSA' });
  await expect(angle).toHaveText('VSA 67.3°');
  await page.getByLabel('Over the head', { exact: true }).first().fill('0.4');
  await page.getByLabel('Over the head', { exact: true }).first().press('Enter');
  await expect(angle).not.toHaveText('VSA 67.3°');
  await page.getByRole('button', { name: /^Undo/ }).click();

  await page.getByRole('checkbox', { name: /^depth/ }).check();
  await page.getByLabel('Values of the depth', { exact: true }).fill('5');
  await page.getByLabel('Values of the extension beyond the jambs').fill('1');
  await expect(page.getByText('in at least two values')).toBeVisible();
  await page.getByLabel('Values of the extension beyond the jambs').fill('3');
  await page.getByText('Other kinds beside it').click();
  await page.getByRole('checkbox', { name: 'Fins', exact: true }).check();
  await page.getByRole('button', { name: 'Try them' }).click();
  await expect(page.getByTestId('sweep-said')).toContainText('27 of 27 tried');
  await page.getByTestId('sweep-chart').focus();
  await page.keyboard.press('ArrowLeft');
  await expect(page.locator('.sweep-table tr.chosen')).toHaveCount(1);
  await expect(depth).not.toHaveValue('0.8');
  await page.locator('.sweep-table tbody tr').first().click();
  await expect(page.locator('.sweep-table tbody tr').first()).toHaveClass(/chosen/);
  const file = page.waitForEvent('download');
  await page.getByTestId('sweep').getByRole('button', { name: 'CSV' }).click();
  const download = await file;
  expect(download.suggestedFilename()).toBe('sweep.csv');
  const lines = readFileSync(await download.path(), 'utf8')
    .trim()
    .split('\n');
  expect(lines[0]).toContain('kind,depthM,sideM,unwanted_kept_out');
  expect(lines).toHaveLength(28);
  await saved(page);
  // What was found is kept when the page is opened anew, and out of date when what it was tried in changes.
  await page.reload();
  await expect(page.getByTestId('sweep-said')).toContainText('27 of 27 tried');
  await expect(page.getByText('Out of date: what it was tried in has changed.')).toHaveCount(0);

  await page.getByRole('button', { name: 'Add a scheme' }).click();
  await page.getByLabel('Show it on the board').check();
  await expect(page.getByTestId('worth-said')).toContainText('are worth shading');
  await page.getByRole('button', { name: 'Make it a device' }).click();
  await expect(page.getByRole('list', { name: 'Devices' }).locator('li')).toHaveText('Plate 1');
  await expect(page.getByTestId('hangs-on')).toHaveText('Hangs on 1 opening.');
  await expect(async () => expect(await keptOut()).toBeGreaterThan(60)).toPass();
  await saved(page);
});
