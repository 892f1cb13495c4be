import { planStudy, runStudy, summarize } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { readFileSync } from 'node:fs';
import {
  begin,
  clickGround,
  coarser,
  expect,
  fromAbove,
  open,
  sampleCopy,
  saved,
  test,
  toStage,
} from '../stack';

test('from an empty project to an answer, and out of date when a building moves', async ({ page }) => {
  const id = await begin(page, 'Garden test');
  await page.getByRole('button', { name: 'Confirm place' }).click();
  await page.getByRole('button', { name: 'Confirm north' }).click();
  await toStage(page, 'Form');
  // The board is to be of the same size on both stages.
  await page.getByRole('button', { name: 'Open the almanac' }).click();
  const place = await fromAbove(page);
  await page.getByRole('button', { name: 'Rectangle' }).click();
  await clickGround(page, place, [
    [-12, -12],
    [12, -6],
  ]);
  await page.getByLabel('Storeys').fill('4');
  await page.getByLabel('Storeys').press('Enter');

  await toStage(page, 'Studies');
  await page.getByRole('button', { name: 'Polygon' }).click();
  await clickGround(page, place, [
    [-15, 0],
    [15, 0],
    [15, 14],
    [0, 14],
    [-15, 8],
  ]);
  await page.keyboard.press('Enter');
  await expect(page.locator('.objects')).toContainText('Target 1');
  await page.getByRole('button', { name: 'Add a study' }).click();
  await expect(page.getByTestId('estimate')).toContainText('points ×');
  // What comes late does not push away what is pressed.
  const run = (await page.getByRole('button', { name: 'Run sun hours' }).boundingBox())!;
  expect(run.y).toBeLessThan((await page.getByTestId('estimate').boundingBox())!.y);

  // Brush 1 to 30 June, 8:00 to 16:00 or so, on the almanac.
  await page.getByRole('button', { name: 'Window', exact: true }).click();
  const chart = (await page.getByTestId('almanac-chart').boundingBox())!;
  const x = (day: number) => chart.x + 42 + ((chart.width - 88) * day) / 365;
  const y = (hour: number) => chart.y + 17 + ((chart.height - 34) * hour) / 24;
  await page.mouse.move(x(20), y(8));
  await page.mouse.down();
  await page.mouse.move(x(110), y(16), { steps: 8 });
  await page.mouse.up();
  await expect(page.getByTestId('window-box')).toContainText('08:00–16:00');
  await expect(page.getByLabel('From', { exact: true })).toHaveValue(/2026-01-2\d/);
  await expect(page.getByLabel('To', { exact: true })).toHaveValue(/2026-04-2\d/);
  await page.getByLabel('From', { exact: true }).fill('2026-03-21');
  await page.getByLabel('From', { exact: true }).blur();
  await page.getByLabel('To', { exact: true }).fill('2026-03-21');
  await page.getByLabel('To', { exact: true }).blur();

  await page.getByRole('button', { name: 'Run sun hours' }).click();
  const answer = page.getByTestId('answer');
  await expect(answer).toContainText('of “Target 1” has at least 2 h');
  const first = await answer.innerText();
  expect(Number.parseFloat(first)).toBeLessThan(100);

  await page.getByRole('button', { name: 'Moment', exact: true }).click();
  const spot = place(0, 3);
  await page.mouse.move(spot.x, spot.y);
  await expect(page.locator('.pane-tip')).toHaveText(/^\d+\.\d\d h/);
  await page.mouse.click(spot.x, spot.y);
  await expect(page.getByRole('button', { name: 'Probe 1', exact: true })).toBeVisible();
  await expect(page.getByTestId('probe-light')).toContainText('Mass 1');
  await expect(page.getByRole('img', { name: /Sun dial/ })).toBeVisible();
  await expect(page.getByRole('heading', { name: 'Worst places' })).toBeVisible();

  const legend = (await page.getByRole('slider', { name: 'Threshold' }).boundingBox())!;
  await page.mouse.move(legend.x + 20, legend.y + 20);
  await page.mouse.down();
  await page.mouse.move(legend.x + 150, legend.y + 20, { steps: 5 });
  await page.mouse.up();
  await expect(answer).not.toContainText('at least 2 h');
  await page.keyboard.press('Control+z');
  await expect(answer).toContainText('at least 2 h');
  await page.getByRole('button', { name: 'Lock the scale' }).click();
  await expect(page.getByRole('button', { name: 'Release the scale' })).toBeVisible();

  // Move the building with the mouse: the result goes out of date and says why.
  await page.keyboard.press('m');
  const from = place(0, -9);
  const to = place(0, -19);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move(to.x, to.y, { steps: 6 });
  await page.mouse.up();
  await expect(page.getByTestId('stale')).toContainText('The mass “Mass 1” was changed.');
  await expect(page.getByTestId('legend')).toContainText('out of date');
  await expect(page.getByRole('button', { name: /^Undo: move Mass 1/ })).toBeVisible();
  await page.keyboard.press('Escape');
  // The page is left before the server has answered that it keeps the run.
  const isAsked = page.waitForRequest(
    (request) => request.method() === 'POST' && /\/runs$/.test(request.url()),
  );
  await page.route('**/runs', (route) =>
    route.request().method() === 'POST' ? undefined : route.continue(),
  );
  await page.getByRole('button', { name: 'Run again' }).click();
  await expect(page.getByTestId('stale')).toHaveCount(0);
  await expect(async () =>
    expect(Number.parseFloat(await answer.innerText())).toBeGreaterThan(Number.parseFloat(first)),
  ).toPass();

  // Everything is as it was after a reload.
  await expect(page.getByRole('button', { name: 'Run', exact: true })).toBeVisible();
  await saved(page);
  const text = await answer.innerText();
  await isAsked;
  await page.unroute('**/runs');
  await page.reload();
  await expect(page.getByTestId('answer')).toHaveText(text);
  await expect(page).toHaveURL(new RegExp(`/p/${id}/studies`));
  await expect(page.getByRole('button', { name: 'Release the scale' })).toBeVisible();
});

/** What the computation says of the sample's courtyards in an option, as it is written in the answer. */
function shareOf(optionId: string): string {
  const project = kelpLane();
  const plan = planStudy(project, optionId, project.studies[0]!, new Map());
  const { criterion } = summarize(plan, runStudy(project, plan, new Map()));
  return `${Math.round(criterion.share * 100)} %`;
}

test('options are compared on a locked scale, and a table is taken out', async ({ page, stack }) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/studies?option=a&at=2026-03-21T12:00`);
  for (const key of ['1', '2']) {
    await page.keyboard.press(key);
    await page.getByRole('button', { name: /^Run/ }).click();
    await expect(page.getByTestId('answer')).toContainText('“Terrace courtyards”');
    if (key === '1') await page.getByRole('button', { name: 'Lock the scale' }).click();
  }
  await expect(page.getByTestId('answer')).toContainText(shareOf('b'));
  const scale = await page.getByTestId('legend').locator('svg text').last().textContent();
  await page.keyboard.press('1');
  await expect(page.getByTestId('answer')).toContainText(shareOf('a'));
  expect(await page.getByTestId('legend').locator('svg text').last().textContent()).toBe(scale);
  await page.getByRole('button', { name: 'Table' }).click();
  await expect(page.getByTestId('result-table')).toContainText('Terrace courtyards');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as CSV' }).click();
  expect((await download).suggestedFilename()).toBe('sensors.csv');
});

test('a result is read along a line, month by month, through its sun dial, and beside another study', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack, (project) => {
    coarser(project);
    // The walls are asked for twice over: hour by hour too.
    for (const target of project.targets) if (target.kind === 'facades') target.spacingM *= 2;
  });
  await open(page, `/p/${id}/studies?option=a&study=walls-year`);
  await page.getByRole('button', { name: /^Run/ }).first().click();
  await page.getByRole('button', { name: 'Months' }).click();
  await expect(page.getByRole('img', { name: /Small maps of Insolation of the walls/ })).toBeVisible();
  const means = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Means as CSV' }).click();
  expect(
    readFileSync(await (await means).path(), 'utf8')
      .trim()
      .split('\n'),
  ).toHaveLength(13);
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByLabel('Find each point’s strongest hour').check();
  await page.getByLabel('Suns an hour').selectOption('2');
  await expect(page.getByTestId('stale')).toContainText('The strongest hour is new.');
  await page.getByRole('button', { name: 'Run again' }).click();
  await page.getByLabel('Shows').selectOption('peak');
  await expect(page.getByTestId('legend')).toContainText('Strongest hour, W/m²');

  await page.locator('.objects').getByRole('button', { name: 'Courtyards on 21 March', exact: true }).click();
  await page.getByRole('button', { name: /^Run / }).first().click();
  await expect(page.getByTestId('answer')).toContainText('“Terrace courtyards”');
  await page.getByRole('button', { name: 'Look at it' }).click();
  await page.getByRole('button', { name: 'Draw a line' }).click();
  // Where the result lies on the screen: the tool says so beside the pointer.
  const box = (await page.getByRole('application', { name: 'The scene' }).boundingBox())!;
  const places: [number, number][] = [];
  await expect(async () => {
    places.length = 0;
    for (let share = 0.1; share < 0.9; share += 0.05) {
      const place: [number, number] = [box.x + share * box.width, box.y + 0.6 * box.height];
      await page.mouse.move(...place);
      const text = await page.locator('.pane-tip').textContent({ timeout: 2000 });
      if (text === 'Click where the profile begins') places.push(place);
    }
    expect(places.length).toBeGreaterThan(2);
  }).toPass();
  await page.mouse.click(...places[0]!);
  await page.mouse.click(...places.at(-1)!);
  await expect(page.getByTestId('profile-said')).toContainText(/m long; from \d/);
  const profile = page.waitForEvent('download');
  await page.getByRole('button', { name: 'profile as CSV' }).click();
  const lines = readFileSync(await (await profile).path(), 'utf8')
    .trim()
    .split('\n');
  expect(lines[0]).toBe('distance_m,x,y,z,sun hours (h)');
  expect(lines.length).toBeGreaterThan(10);

  const dial = page.getByTestId('probe-light');
  // A click on the same place finds the probe that stands there.
  await expect(async () => {
    await page.mouse.click(...places[1]!);
    await expect(dial).toBeVisible({ timeout: 5000 });
  }).toPass();
  await dial.getByLabel(/Patches by their/).check();
  const skyCells = dial.locator('.sky-chart g path');
  await expect(skyCells).toHaveCount(145);

  // Beside another study: each pane its own, with a legend of its own.
  await page.getByRole('button', { name: 'Two panes side by side' }).click();
  await page.getByRole('button', { name: 'Pin the study of this pane' }).nth(1).click();
  await page.locator('.objects').getByRole('button', { name: 'Sky over the garden', exact: true }).click();
  await page.getByRole('button', { name: /^Run / }).first().click();
  await expect(page.getByTestId('legend')).toHaveCount(2);
  await expect(page.locator('.pane-title').first()).toContainText('Courtyards on 21');
});

test('too fine a grid and a window without sun say so', async ({ page, stack }) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/studies?option=a`);
  const spacing = page.getByLabel('Grid spacing');
  await page.getByLabel('From', { exact: true }).fill('2026-01-01');
  await page.getByLabel('From', { exact: true }).blur();
  await page.getByLabel('To', { exact: true }).fill('2026-12-31');
  await page.getByLabel('To', { exact: true }).blur();
  await spacing.fill('0.05');
  await spacing.press('Enter');
  await expect(page.getByTestId('estimate')).toContainText(/would need .* A spacing of [\d.]+ m fits/);
  await page.getByLabel('Last hour').fill('3:00');
  await page.getByLabel('Last hour').press('Enter');
  await spacing.fill('1');
  await spacing.press('Enter');
  await expect(page.getByTestId('estimate')).toContainText(
    'The sun is below the horizon throughout this window',
  );
  await page.getByRole('button', { name: /^Run/ }).click();
  await expect(page.getByTestId('answer')).toContainText('0.0 %');
});

test('a run that is stopped keeps what it has, and says that it is only a part', async ({ page, stack }) => {
  const id = await sampleCopy(stack, (project) => {
    project.targets[0]!.spacingM = 0.35;
    project.studies[1]!.stepMinutes = 5;
  });
  await open(page, `/p/${id}/studies?option=b&study=garden-season`);
  const threshold = page.getByLabel('At least');
  const asked = await threshold.inputValue();
  await threshold.fill('3.5');
  await threshold.press('Enter');
  await saved(page);

  // A run that begins while a button is held down moves it not.
  const button = page.getByRole('button', { name: 'Undo: change the threshold' });
  const undo = (await button.boundingBox())!;
  await page.mouse.move(undo.x + 4, undo.y + 8);
  await page.mouse.down();
  await page.getByRole('button', { name: /^Run/ }).press('Enter');
  await expect(page.getByText('1 run at work')).toBeVisible();
  expect(await button.boundingBox()).toEqual(undo);
  await page.mouse.up();
  await expect(threshold).toHaveValue(asked);

  await expect(page.getByText(/[1-9][\d,]* of [\d,]+ points/)).toBeVisible();
  await expect(page.getByTestId('legend')).toBeVisible();
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(page.locator('.sheet')).toContainText(/Stopped at [1-9][\d,]* of [\d,]+/);
  await expect(page.getByTestId('answer')).toContainText(
    'of what is measured of “Allotment garden” has at least',
  );
});

test('every kind of study is measured with its own unit, legend, table and file', async ({ page, stack }) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/studies?option=b`);
  const answer = page.getByTestId('answer');
  for (const [name, kind, unit, head] of [
    ['Sky light of the terrace', 'vsc', '%', 'vsc (%)'],
    ['Courtyards in shade, summer', 'shadow-frequency', '%', 'shadow frequency (%)'],
    ['Courtyards on 21 March', 'sun-hours', 'h', 'sun hours (h)'],
  ] as const) {
    await page.getByRole('button', { name, exact: true }).click();
    await expect(page.getByLabel('Measures')).toHaveValue(kind);
    // A study of the sky has no window of time: neither fields nor a box on the almanac.
    await expect(page.getByLabel('First hour')).toHaveCount(kind === 'vsc' ? 0 : 1);
    await expect(page.getByTestId('window-box')).toHaveCount(kind === 'vsc' ? 0 : 1);
    await page.getByRole('button', { name: /^Run / }).click();
    const study = kelpLane().studies.find((one) => one.name === name)!;
    const plan = planStudy(kelpLane(), 'b', study, new Map());
    const { criterion, values } = summarize(plan, runStudy(kelpLane(), plan, new Map()));
    await expect(answer).toContainText(`has at least ${criterion.atLeast} ${unit}`);
    await expect(answer).toContainText(`${(criterion.share * 100).toFixed(0)} %`);
    await page.getByRole('button', { name: 'Table' }).click();
    const table = page.getByTestId('result-table');
    await expect(table).toContainText(values.mean.toFixed(unit === 'h' ? 2 : 1));
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: 'Save as CSV' }).click(),
    ]);
    expect(readFileSync(await file.path(), 'utf8').split('\n')[0]).toContain(head);
    await page.getByRole('button', { name: 'Close', exact: true }).last().click();
  }
  // Another kind of the same study: its own threshold, and what was measured before is no result of it.
  await page.getByLabel('Measures').selectOption('sky-view');
  await expect(page.getByLabel('At least')).toHaveValue('50');
  await expect(page.getByTestId('stale')).toBeVisible();
  await page.getByRole('button', { name: 'Run again' }).click();
  await expect(page.getByTestId('legend')).toContainText('Sky view factor, %');
  await expect(page.getByTestId('stale')).toHaveCount(0);
  await page.getByRole('button', { name: /^Undo: measure sky view factor/ }).click();
  await expect(page.getByLabel('Measures')).toHaveValue('sun-hours');
});
