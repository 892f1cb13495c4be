import { momentsOf, sunPosition } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { readFile } from 'node:fs/promises';
import { begin, expect, open, sampleCopy, test, toStage } from '../stack';

test('a set of moments is chosen, changed, gone to, drawn on the almanac, read and taken out', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/sun?option=a&at=2026-03-21T15:20`);
  await page.getByRole('button', { name: 'Solstices and equinoxes', exact: true }).click();
  const marks = page.getByTestId('moment-marks').locator('circle');
  await expect(marks).toHaveCount(12);
  await page.getByLabel('Times of day', { exact: true }).fill('9, 3 pm');
  await page.getByLabel('Times of day', { exact: true }).press('Enter');
  await expect(marks).toHaveCount(8);
  await page.getByLabel('Times of day', { exact: true }).fill('25');
  await page.getByLabel('Times of day', { exact: true }).press('Enter');
  await expect(page.getByText('“25” are no times of day; write them as 9:30, 12, 3 pm.')).toBeVisible();
  await page.getByLabel('Times of day', { exact: true }).fill('9, 3 pm');
  await page.getByLabel('Times of day', { exact: true }).press('Enter');
  await page.getByLabel('September equinox').uncheck();
  await expect(marks).toHaveCount(6);
  await page.getByLabel('Times are').selectOption('Solar time');
  await page.getByLabel('Times are').selectOption('Clock time on site');
  await page.getByTestId('moments').getByRole('button', { name: '21 Jun' }).first().click();
  await expect(page).toHaveURL(/at=2026-06-21T09%3A00/);

  await page.getByRole('button', { name: 'Table of 6 moments' }).click();
  const rows = page.getByTestId('moment-table').locator('tbody tr');
  await expect(rows).toHaveCount(6);
  const { site } = kelpLane();
  const sun = sunPosition(Date.UTC(2026, 5, 21, 8), site.place);
  await expect(rows.nth(2)).toContainText(`2026-06-2109:00`);
  await expect(rows.nth(2)).toContainText(`${sun.altitudeDeg.toFixed(1)}°`);
  const shadow = rows.nth(2).locator('td').nth(5);
  const before = Number.parseFloat(await shadow.innerText());
  await page.getByLabel('Height of the stick').fill('2');
  await page.getByLabel('Height of the stick').press('Enter');
  await expect(async () =>
    expect(Math.abs(Number.parseFloat(await shadow.innerText()) - 2 * before)).toBeLessThan(0.02),
  ).toPass();
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as CSV' }).click();
  const csv = await readFile(await (await saving).path(), 'utf8');
  expect(csv.trimEnd().split('\n')).toHaveLength(7);
  expect(csv).toContain('date,clock,solar,utc,altitude_deg');
  await page.getByRole('button', { name: 'Close', exact: true }).last().click();
});

test('in an empty project sets are made: a day from sunrise to sunset, and a list that is typed', async ({
  page,
}) => {
  await begin(page, 'Moments');
  await toStage(page, 'Sun');
  await page.getByRole('button', { name: 'This day' }).click();
  await page.getByLabel('Every', { exact: true }).fill('120');
  await page.getByLabel('Every', { exact: true }).press('Enter');
  await expect(page.getByTestId('moments').locator('li')).toHaveCount(
    momentsOf(
      {
        id: 's',
        name: 'S',
        basis: 'clock',
        source: { kind: 'day', date: '2026-03-21', everyMinutes: 120, from: null, to: null },
      },
      {
        ...kelpLane().site,
        place: { ...kelpLane().site.place, latitudeDeg: 51.48, longitudeDeg: 0, elevationM: 20 },
      },
    ).length,
  );
  await page.getByRole('button', { name: 'List', exact: true }).click();
  await page.getByLabel(/^Dates and times/).fill('21 Dec: 9, 12; 3/4 10:00');
  await page.getByRole('button', { name: 'Add these' }).click();
  await expect(page.getByText('“3/4” is taken as day 3 of month 4')).toBeVisible();
  await expect(page.getByTestId('moments').locator('li')).toHaveCount(4);
  await page.getByLabel(/^Dates and times/).fill('30 Feb 9:00');
  await page.getByRole('button', { name: 'Add these' }).click();
  await expect(page.getByText(/is no date of 2026/)).toBeVisible();
  await page.getByRole('button', { name: 'Empty', exact: true }).click();
  await expect(page.getByText('has no moments: its list is empty')).toBeVisible();
  await page.getByRole('button', { name: 'Add the moment at hand' }).click();
  await expect(page.getByTestId('moments').locator('li')).toHaveCount(1);
  await page.getByRole('button', { name: 'Remove List' }).click();
  await expect(page.getByTestId('moments')).toHaveCount(0);
});
