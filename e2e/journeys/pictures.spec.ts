import { ALL_FORMATS, BufferSource, EncodedPacketSink, Input } from 'mediabunny';
import { unzipSync } from 'fflate';
import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { begin, expect, open, sampleCopy, test } from '../stack';

const openPictures = (page: Page) =>
  page.getByRole('button', { name: 'Pictures and films', exact: true }).click();
const outcome = (page: Page) => page.getByTestId('pictures-outcome');

async function setSize(page: Page, width: number, height: number): Promise<void> {
  await page.getByLabel('Size, pixels').selectOption('A size of its own');
  for (const [label, px] of [
    ['Width', width],
    ['Height', height],
  ] as const) {
    await page.getByLabel(label, { exact: true }).fill(String(px));
    await page.getByLabel(label, { exact: true }).press('Enter');
  }
}

async function saved(page: Page, press: () => Promise<void>): Promise<{ name: string; bytes: Buffer }> {
  const download = page.waitForEvent('download');
  await press();
  const file = await download;
  return { name: file.suggestedFilename(), bytes: await readFile(await file.path()) };
}

const pngSize = (bytes: Uint8Array) => {
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  expect(String.fromCharCode(...bytes.subarray(1, 4))).toBe('PNG');
  return [view.getUint32(16), view.getUint32(20)];
};

test('a picture is made at a size, named by itself, kept, compared with another, taken out and removed', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/sun?option=b&at=2026-12-21T12:00`);
  await openPictures(page);
  await expect(page.getByText('No picture is kept yet.')).toBeVisible();
  await setSize(page, 640, 400);
  await page.getByRole('button', { name: 'Make the picture' }).click();
  const name = 'kelp-lane_B-court_orbit_2026-12-21_1200';
  await expect(outcome(page)).toHaveText(`${name} is in the gallery.`);
  await expect(page.getByRole('img', { name })).toBeVisible();

  const plain = await saved(page, () => page.getByRole('button', { name: 'Save as PNG' }).click());
  expect(plain.name).toBe(`${name}.png`);
  expect(pngSize(plain.bytes)).toEqual([640, 400]);
  const kept = await saved(page, () => page.getByRole('link', { name: `Download ${name}` }).click());
  expect(kept.name).toBe(`${name}.png`);
  expect(pngSize(kept.bytes)).toEqual([640, 400]);

  // A size that cannot be is answered, and nothing is made.
  await setSize(page, 20, 400);
  await page.getByRole('button', { name: 'Make the picture' }).click();
  await expect(outcome(page)).toHaveText('A side of a picture has 64 to 8192 pixels, a whole number.');

  await setSize(page, 640, 400);
  await page.getByLabel('On', { exact: true }).selectOption('Paper');
  await page.getByLabel('Strip with project, moment, sun, north and scale').uncheck();
  await page.getByRole('button', { name: 'Close' }).click();
  await page.keyboard.press('a');
  await page.keyboard.press('i');
  await page.getByRole('button', { name: 'Make the picture' }).click();
  await expect(page.locator('.thumbs li')).toHaveCount(2);
  await page.getByLabel(`Choose ${name}`).first().check();
  await page.getByLabel(`Choose ${name}`).last().check();
  await page.getByRole('button', { name: 'Compare two' }).click();
  const slider = page.getByRole('slider', { name: 'How much of the first picture is seen' });
  await slider.press('Home');
  await expect(slider).toHaveValue('0');
  await page.getByRole('button', { name: 'All pictures' }).click();
  await page.getByLabel('Filter the gallery').fill('garden');
  await expect(page.getByText('No picture says “garden”.')).toBeVisible();
  await page.getByLabel('Filter the gallery').fill('court 12:00');
  await page
    .getByRole('button', { name: `Remove ${name}` })
    .first()
    .click();
  await expect(page.locator('.thumbs li')).toHaveCount(1);
  await page.reload();
  await openPictures(page);
  await expect(page.locator('.thumbs li')).toHaveCount(1);
});

test('a set goes out as a zip of named pictures and as a contact sheet, and can be stopped', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/sun?option=a&at=2026-03-21T12:00`);
  await openPictures(page);
  await setSize(page, 240, 150);
  await page.getByRole('button', { name: 'Set', exact: true }).click();
  await page.getByLabel('B Court').check();
  await expect(page.getByTestId('set-estimate')).toContainText('12 × 2 × 1 = 24 pictures');
  await page.getByLabel('Moments', { exact: true }).selectOption('The moment at hand');
  await expect(page.getByTestId('set-estimate')).toContainText('1 × 2 × 1 = 2 pictures');
  await page.getByLabel('Keep them in the gallery').uncheck();
  await page.getByRole('button', { name: 'Make the set' }).click();
  await expect(outcome(page)).toHaveText('2 pictures are made.');
  const zip = await saved(page, () => page.getByRole('button', { name: 'Zip of 2 PNGs' }).click());
  const files = unzipSync(zip.bytes);
  expect(Object.keys(files).sort()).toEqual([
    'kelp-lane_A-bar_orbit_2026-03-21_1200.png',
    'kelp-lane_B-court_orbit_2026-03-21_1200.png',
  ]);
  for (const file of Object.values(files)) expect(pngSize(file)).toEqual([240, 150]);
  await page.getByLabel('Columns of the sheet').selectOption('Options');
  const sheet = await saved(page, () => page.getByRole('button', { name: 'Contact sheet' }).click());
  const [width, height] = pngSize(sheet.bytes);
  expect(width!).toBeGreaterThan(2 * 240);
  expect(height!).toBeGreaterThan(150);

  await page.getByLabel('Moments', { exact: true }).selectOption({ index: 0 });
  await page.getByRole('button', { name: 'Make the set' }).click();
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(outcome(page)).toHaveText(/^Stopped: \d+ of 24 pictures are made\.$/);
  await expect(page.locator('.thumbs li')).toHaveCount(0);
});

/** Sub-images of a GIF and their delays, hundredths of a second, by walking its blocks. */
function gifFrames(bytes: Buffer): { size: [number, number]; delays: number[] } {
  expect(bytes.toString('latin1', 0, 6)).toBe('GIF89a');
  const delays: number[] = [];
  const colours = (flags: number) => (flags & 0x80 ? 3 * 2 ** ((flags & 7) + 1) : 0);
  let at = 13 + colours(bytes[10]!);
  let images = 0;
  const skipBlocks = () => {
    while (bytes[at]) at += bytes[at]! + 1;
    at++;
  };
  while (bytes[at] !== 0x3b) {
    if (bytes[at] === 0x21) {
      if (bytes[at + 1] === 0xf9) delays.push(bytes.readUInt16LE(at + 4));
      at += 2;
      skipBlocks();
    } else {
      expect(bytes[at]).toBe(0x2c);
      images++;
      at += 10 + colours(bytes[at + 9]!) + 1;
      skipBlocks();
    }
  }
  expect(delays).toHaveLength(images);
  return { size: [bytes.readUInt16LE(6), bytes.readUInt16LE(8)], delays };
}

test('films of each kind have the frames and times that were said; one that is too long is refused', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/sun?option=b&at=2026-12-21T12:00`);
  await openPictures(page);
  await setSize(page, 320, 200);
  await page.getByRole('button', { name: 'Film', exact: true }).click();
  const every = page.getByLabel('A frame every');
  await every.fill('0.005');
  await every.press('Enter');
  await expect(page.getByTestId('film-estimate')).toHaveText(
    /would have \d{2},\d{3} frames.*the most is 2,000/,
  );
  await expect(page.getByRole('button', { name: 'Make the film' })).toBeDisabled();
  await every.fill('60');
  await every.press('Enter');
  await page.getByLabel('Frames per second').selectOption('5');
  await expect(page.getByTestId('film-estimate')).toHaveText('7 frames, 1.4 s.');

  for (const kind of ['GIF', 'WebM', 'MP4']) {
    await page.getByLabel('Kind of film').selectOption(kind);
    const film = await saved(page, () => page.getByRole('button', { name: 'Make the film' }).click());
    expect(film.name).toBe(`kelp-lane_B-court_orbit_2026-12-21_day.${kind.toLowerCase()}`);
    await expect(outcome(page)).toContainText('7 frames, 1.4 s');
    if (kind === 'GIF') {
      expect(gifFrames(film.bytes)).toEqual({ size: [320, 200], delays: Array(7).fill(20) });
      continue;
    }
    const input = new Input({ source: new BufferSource(film.bytes), formats: ALL_FORMATS });
    const track = (await input.getPrimaryVideoTrack())!;
    const times: number[] = [];
    for await (const packet of new EncodedPacketSink(track).packets()) times.push(packet.timestamp);
    expect(times.sort((a, b) => a - b).map((s) => Math.round(s * 1000))).toEqual([
      0, 200, 400, 600, 800, 1000, 1200,
    ]);
    expect(await input.computeDuration()).toBeCloseTo(1.4, 2);
  }

  await page.getByLabel('Runs through').selectOption('A season, at 12:00');
  await page.getByLabel('A frame every').fill('1');
  await page.getByLabel('A frame every').press('Enter');
  await expect(page.getByTestId('film-estimate')).toHaveText('365 frames, 73 s.');
  await page.getByRole('button', { name: 'Make the film' }).click();
  await page.getByRole('button', { name: 'Stop' }).click();
  await expect(outcome(page)).toHaveText('Stopped; no film was saved.');
});

test('an empty project, several panes and a study’s result make pictures too', async ({ page, stack }) => {
  await begin(page, 'Bare');
  await page.getByRole('button', { name: 'Two panes side by side' }).click();
  await openPictures(page);
  await setSize(page, 400, 250);
  await page.getByLabel('All panes of the board').check();
  await page.getByRole('button', { name: 'Make the picture' }).click();
  await expect(outcome(page)).toHaveText(/^bare_\w+-\w+_board_.* is in the gallery\.$/);
  await page.getByRole('button', { name: 'Close' }).click();
  await page.getByRole('button', { name: 'One pane' }).click();

  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/studies?option=b`);
  await page.getByRole('button', { name: 'Run sun hours' }).click();
  await expect(page.getByTestId('answer')).toBeVisible();
  await openPictures(page);
  await setSize(page, 640, 400);
  await page.getByRole('button', { name: 'Make the picture' }).click();
  await expect(outcome(page)).toHaveText(/is in the gallery/);
});
