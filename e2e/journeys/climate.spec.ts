import { climateAt, makeUpYear, writeEpw } from '@dial-shade/core';
import { readFileSync, statSync } from 'node:fs';
import { begin, coarser, expect, open, sampleCopy, saved, test, toStage } from '../stack';

const PLACE = { name: 'Far Point', latitudeDeg: 40, longitudeDeg: 5, standardTimeH: 0, elevationM: 10 };
const epw = (place = PLACE) =>
  writeEpw(makeUpYear(place, climateAt(place.latitudeDeg), 4, 2026), 'made up', 'test', 2026);
const file = (name: string, text: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });

test('an empty project gets a weather year: from a file, from far away when it is wished, or made up', async ({
  page,
}) => {
  await begin(page, 'Climate test');
  await toStage(page, 'Climate');
  await expect(page.getByText('go by a weather year')).toBeVisible();
  const input = page.getByLabel('From a file');
  await input.setInputFiles(file('broken.epw', epw().split('\n').slice(0, 500).join('\n')));
  await expect(page.getByRole('alert')).toContainText(
    '“broken.epw”: The file has 492 hours; a year has 8,760',
  );
  await input.setInputFiles(file('letters.epw', epw().replace(/(\n\d{4},1,2,5,\d+,[^,]*,)/, '$1x')));
  await expect(page.getByRole('alert')).toContainText('is not a number');
  await input.setInputFiles(file('far.epw', epw()));
  await expect(page.getByRole('alertdialog')).toContainText('km from the site');
  await page.getByRole('button', { name: 'Leave it' }).click();
  await expect(page.getByTestId('weather-facts')).toHaveCount(0);
  await input.setInputFiles(file('far.epw', epw()));
  await page.getByRole('button', { name: 'Use it all the same' }).click();
  const facts = page.getByTestId('weather-facts');
  await expect(facts).toContainText('Far Point');
  await expect(facts).toContainText(/The weather was taken 1,?\d{3} km from the site/);
  await page.getByRole('button', { name: 'Remove the weather year' }).click();
  await page.getByRole('button', { name: 'Make a year up for this place' }).click();
  await expect(facts).toContainText('Made up with seed 1');
  await page.keyboard.press('Control+z');
  await expect(facts).toHaveCount(0);
  await page.keyboard.press('Control+Shift+z');
  await saved(page);
  await page.reload();
  await expect(facts).toContainText('Made up with seed 1');
});

test('carpets on the almanac, sets of hours as outline, charts taken out, on the sample', async ({
  page,
  stack,
}) => {
  await open(page, `/p/${await sampleCopy(stack)}/climate?option=a`);
  await expect(page.getByTestId('weather-facts')).toContainText('Orrin Bay');
  await page.getByLabel('Almanac shows').selectOption('dryBulb');
  await expect(page.getByTestId('tone-legend')).toContainText('dry-bulb temperature');
  await page.getByRole('button', { name: 'Show Too warm on the almanac' }).click();
  await expect(page.getByTestId('hour-set-outline')).toHaveCount(1);
  const hours = page.locator('.objects li', { hasText: 'Too warm' }).locator('.figure');
  const before = await hours.innerText();
  await page.locator('.objects').getByRole('button', { name: 'Too warm', exact: true }).click();
  await page.getByTestId('hour-set').getByLabel('From').fill('22');
  await page.getByTestId('hour-set').getByLabel('From').press('Enter');
  await expect(hours).not.toHaveText(before);
  await expect(page.getByTestId('hour-set')).toContainText('K·h above it');
  await page.getByRole('button', { name: 'By windows' }).click();
  await page.getByLabel('Last day of window 1').fill('2026-06-30');
  await page.getByRole('button', { name: 'Another window' }).click();
  await expect(page.getByLabel('First day of window 2')).toHaveValue('2026-06-01');
  await expect(page.getByTestId('hour-set-outline')).toHaveCount(2);

  const save = async (name: string) => {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name, exact: true }).click(),
    ]);
    return readFileSync(await download.path(), 'utf8');
  };
  const months = (await save('months as CSV')).trim().split('\n');
  expect(months).toHaveLength(13);
  expect(await save('months as SVG')).toContain('<svg');
  const dome = page.getByRole('img', { name: /Sky vault/ });
  await dome.scrollIntoViewIfNeeded();
  await page.getByLabel('Patches').selectOption('2');
  await expect(dome.locator('path')).toHaveCount(577);
  await dome.locator('path').nth(300).hover();
  await expect(page.getByTestId('dome-said')).toContainText('° high');
  const patches = (await save('sky-vault as CSV')).trim().split('\n');
  expect(patches).toHaveLength(578);
  const rose = page.getByRole('img', { name: 'Wind rose' });
  await rose.scrollIntoViewIfNeeded();
  await page.getByLabel('At', { exact: true }).selectOption('day');
  await expect(page.getByText('of 4,380 hours')).toBeVisible();
  expect((await save('wind as CSV')).split('\n')[0]).toContain('0.5–2 m/s (h)');

  // Tables are saved as the spreadsheets of this person read them.
  await toStage(page, 'Site');
  await page.getByLabel('Saved tables').selectOption('semicolon');
  await toStage(page, 'Climate');
  const parted = await save('months as CSV');
  expect(parted.startsWith('\uFEFF')).toBe(true);
  expect(parted.trim().split('\n')[1]!.split(';')).toEqual(months[1]!.split(','));
});

test('every kind of study runs on the sample, before and after, held to criteria', async ({
  page,
  stack,
}) => {
  await open(page, `/p/${await sampleCopy(stack, coarser)}/studies?option=a`);
  const answer = page.getByTestId('answer');
  for (const [study, unit] of [
    ['Insolation of the walls', 'kWh/m²'],
    ['Solar gain, May to September', 'kWh/m²'],
    ['Sun into the rooms on 21 March', 'at least 1.5 h'],
    ['Sky over the garden', '%'],
    ['Courtyards in shade, summer', '%'],
    ['Sky light at the neighbours’ windows', '%'],
  ] as const) {
    await page.locator('.objects').getByRole('button', { name: study, exact: true }).click();
    await expect(page.getByTestId('estimate')).toContainText('points ×');
    await page.getByRole('button', { name: /^Run / }).first().click();
    await expect(answer).toContainText(unit, { timeout: 60_000 });
    if (study === 'Insolation of the walls') {
      await expect(page.getByTestId('pv')).toContainText('kWh on');
      await page.getByLabel('Shows').selectOption('m06');
      await expect(page.getByTestId('legend')).toContainText('June, kWh/m²');
      await page.getByLabel('Shows').selectOption('insolation');
    }
  }
  // How it lies: steps, contours, values; and out in every format.
  await page.getByLabel('Steps of colour').fill('5');
  await page.getByLabel('Steps of colour').press('Enter');
  await page.getByLabel('Values in cells').check();
  await expect(page.locator('.scene-label.value').first()).toHaveText(/^\d+\.\d$/);
  await page.getByLabel('Values in cells').uncheck();
  for (const [item, ending] of [
    ['Points as CSV', /\.csv$/],
    ['Cells as GeoJSON', /\.geojson$/],
    ['Coloured cells as GLB', /\.glb$/],
    ['Map as SVG', /\.svg$/],
    ['Map as PNG', /\.png$/],
    ['Summary as JSON', /\.json$/],
  ] as const) {
    await page.getByRole('button', { name: 'Save the result' }).click();
    const [file] = await Promise.all([
      page.waitForEvent('download'),
      page.getByRole('button', { name: item }).click(),
    ]);
    expect(file.suggestedFilename()).toMatch(ending);
    expect(statSync(await file.path()).size).toBeGreaterThan(500);
  }
  await page.getByRole('button', { name: 'Work out before', exact: true }).click();
  const said = page.getByTestId('compared');
  await expect(said).toContainText(/\d+ of 20 places pass/);
  await page.getByRole('button', { name: 'Places', exact: true }).click();
  const places = page.getByTestId('places');
  await expect(places.locator('.place-row:not(.head)').first()).toContainText('Terrace house');
  await places.getByLabel('Filter by name').fill('house 3');
  await expect(places).toContainText('4 of 20');
  await places.getByRole('button', { name: 'After' }).click();
  await places.locator('.place-row:not(.head)').first().click();
  await expect(places.locator('.place-row.chosen')).toHaveCount(1);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'CSV', exact: true }).click(),
  ]);
  const rows = readFileSync(await download.path(), 'utf8')
    .trim()
    .split('\n');
  expect(rows[0]).toBe('target,before,after,difference,ratio,pass');
  expect(rows).toHaveLength(21);
  await places.getByRole('button', { name: 'Close the places' }).click();
  await page.getByRole('button', { name: 'Change on the model' }).click();
  await expect(page.getByTestId('legend')).toContainText('Change of vertical sky component against Today');
  await expect(answer).toContainText(/−\d/);
  await page.getByRole('button', { name: 'Change on the model' }).click();

  await page.getByRole('button', { name: 'Find who takes it' }).click();
  const takers = page.getByTestId('takers');
  await expect(takers.locator('tbody tr').first()).toContainText('Bar', { timeout: 60_000 });
  await expect(takers).toContainText('storey 5');
  const overall = await page.getByTestId('takes-said').innerText();
  await page.getByLabel('At place').selectOption({ index: 1 });
  await expect(page.getByTestId('takes-said')).not.toHaveText(overall);
  await expect(page.getByRole('img', { name: 'What cutting gives back, by level' })).toBeVisible();
  // What if it were a storey lower: more sky for the neighbours, less floor.
  const whatIf = page.getByTestId('what-if-said');
  await expect(whatIf).toContainText('nothing is cut yet');
  await page.getByRole('button', { name: 'A storey less' }).click();
  await expect(whatIf).toContainText(
    /Cut at \d+ m: [\d.]+ % instead of [\d.]+, for \d+ of 1,920 m² of floor \(1 storey of Bar\)/,
  );
  const slider = page.getByRole('slider', { name: 'Level it is cut down to' });
  await slider.focus();
  await slider.press('PageDown');
  await expect(whatIf).toContainText('2 storeys of Bar');
  await slider.press('ArrowLeft');
  await expect(whatIf).toContainText('3 storeys of Bar');
  await page.getByRole('button', { name: 'On the massing' }).click();
  await expect(page.getByTestId('legend')).toContainText('Taken by the massing');
  await page.getByRole('button', { name: 'On the massing' }).click();
  await takers.getByRole('button', { name: 'Bar', exact: true }).click();
  await expect(page.getByTestId('legend')).toContainText('Vertical sky component');

  // A copy of the criteria asks for more: fewer pass.
  await page.getByRole('button', { name: 'Copy Published guidance values' }).click();
  const set = page.getByTestId('criteria-set');
  await set.getByLabel('Vertical sky component, at least').fill('39');
  await set.getByLabel('Vertical sky component, at least').press('Enter');
  await set.getByLabel('Or keeps, of before').first().fill('1');
  await set.getByLabel('Or keeps, of before').first().press('Enter');
  await page.getByLabel('Held to').selectOption({ label: 'Published guidance values, copy' });
  await expect(said).toContainText('0 of 20 places pass');
});

test('targets by rule: windows and walls of one’s own, counted, and solar gain only of glass', async ({
  page,
  stack,
}) => {
  await open(page, `/p/${await sampleCopy(stack)}/studies?option=a`);
  await page.getByRole('button', { name: 'Add a study' }).click();
  await page.getByLabel('Measures').selectOption('solar-gain');
  await expect(page.getByTestId('estimate')).not.toContainText('Reckoning');
  await page.getByRole('button', { name: 'Facades', exact: true }).click();
  await expect(page.getByTestId('estimate')).toContainText('has no glass');
  await page.keyboard.press('Control+z');
  const rows = page.locator('.objects li', { hasText: /^Windows \d+/ });
  await page.getByRole('button', { name: 'Windows', exact: true }).click();
  await expect(rows.locator('.figure')).toHaveText(/^\d+ panes$/);
  const all = Number.parseInt(await rows.locator('.figure').innerText(), 10);
  const faces = page.locator('fieldset.chips').last();
  await faces.getByRole('button', { name: 'north', exact: true }).click();
  await faces.getByRole('button', { name: 'east', exact: true }).click();
  await expect(rows.locator('.figure')).not.toHaveText(`${all} panes`);
  await page.getByLabel('Storeys').last().fill('1');
  await page.getByLabel('Storeys').last().press('Enter');
  await expect(async () => {
    expect(Number.parseInt(await rows.locator('.figure').innerText(), 10)).toBeLessThan(all);
  }).toPass();
});
