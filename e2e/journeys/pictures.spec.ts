/// <reference lib="dom" />
import {
  containsWithHoles,
  contentHash,
  DEFAULT_DRAWING,
  defaultMass,
  emptyProject,
  instantOf,
  newUnderlay,
  shadowStudy,
} from '@dial-shade/core';
import { ALL_FORMATS, BufferSource, EncodedPacketSink, Input } from 'mediabunny';
import { unzipSync } from 'fflate';
import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { greyPng } from '../../core/testing/pictures';
import { begin, expect, open, sampleCopy, type Stack, test } from '../stack';

/** A copy of the sample at an address of its own, with the dialog of pictures open. */
async function openSample(page: Page, stack: Stack, where: string): Promise<void> {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/${where}`);
  await openPictures(page);
}

/** Colour at shares of the width and height of the newest picture of the gallery, as the browser decodes it. */
async function pixels(page: Page, places: readonly (readonly [number, number])[]): Promise<number[][]> {
  const address = (await page.locator('.thumbs a').first().getAttribute('href'))!;
  return page.evaluate(
    async ([path, at]) => {
      const image = await createImageBitmap(await (await fetch(path)).blob());
      const canvas = document.createElement('canvas');
      canvas.width = image.width;
      canvas.height = image.height;
      const context = canvas.getContext('2d')!;
      context.drawImage(image, 0, 0);
      return at.map(([x, y]) => [
        ...context
          .getImageData(Math.round(x * image.width), Math.round(y * image.height), 1, 1)
          .data.slice(0, 3),
      ]);
    },
    [address, places] as const,
  );
}

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
  await openSample(page, stack, 'sun?option=b&at=2026-12-21T12:00');
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
  await openSample(page, stack, 'sun?option=a&at=2026-03-21T12:00');
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
  await openSample(page, stack, 'sun?option=b&at=2026-12-21T12:00');
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
  // The legend lies at the upper left, on a paper of its own; the ground beside it is white.
  const [legend, ground] = await pixels(page, [
    [10 / 640, 10 / 400],
    [200 / 640, 10 / 400],
  ]);
  expect([legend, ground]).toEqual([
    [255, 253, 248],
    [255, 255, 255],
  ]);
});

test('a picture tells the truth: what lies in the exact shade is dark in it, what does not is lit', async ({
  page,
  stack,
}) => {
  const project = emptyProject('Truth', 2026);
  const [width, height, shownM] = [640, 400, 40];
  project.options[1]!.masses = [
    defaultMass(
      'm',
      'Block',
      [
        [-4, -4],
        [4, -4],
        [4, 4],
        [-4, 4],
      ],
      1,
      6,
    ),
  ];
  project.viewpoints = [
    {
      id: 'above',
      name: 'Above',
      camera: { kind: 'level', floorM: 20, aboveM: 1, centre: [0, 0], heightM: shownM, northUp: false },
      drawing: { ...DEFAULT_DRAWING, sunPath: false },
      hidden: [],
    },
  ];
  project.areas = [
    {
      id: 'lawn',
      name: 'Lawn',
      use: 'garden',
      outline: [
        [-18, -18],
        [18, -18],
        [18, 18],
        [-18, 18],
      ],
      on: { kind: 'ground' },
    },
  ];
  const made = await fetch(`${stack.url}/api/projects`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ project }),
  });
  const { id } = (await made.json()) as { id: string };
  const atMs = instantOf('2026-03-21', 600, project.site.place.zone);
  const { shaded } = shadowStudy(project, 'a', new Map(), [atMs], 'areas').rows[0]!;
  const isShaded = (x: number, y: number) => shaded.some((region) => containsWithHoles(region, [x, y]));
  // Places of the lawn that lie clear of the outline of the shade and of the block.
  const around = [-0.7, 0, 0.7].flatMap((dx) => [-0.7, 0, 0.7].map((dy) => [dx, dy] as const));
  const places: [number, number][] = [];
  for (let x = -17; x <= 17; x += 1.3)
    for (let y = -17; y <= 17; y += 1.3)
      if (
        Math.max(Math.abs(x), Math.abs(y)) > 5 &&
        around.every(([dx, dy]) => isShaded(x + dx, y + dy) === isShaded(x, y))
      )
        places.push([x, y]);

  await open(page, `/p/${id}/sun?option=a&at=2026-03-21T10:00`);
  await page.getByRole('button', { name: 'Above', exact: true }).click();
  await openPictures(page);
  await setSize(page, width, height);
  await page.getByLabel('Strip with project, moment, sun, north and scale').uncheck();
  await page.getByRole('button', { name: 'Make the picture' }).click();
  await expect(outcome(page)).toHaveText(/_above_2026-03-21_1000 is in the gallery\.$/);
  const across = (shownM * width) / height;
  const colours = await pixels(
    page,
    places.map(([x, y]) => [0.5 + x / across, 0.5 - y / shownM] as const),
  );
  // Shade is bluish, lit ground white; the thin lines of the ring may lie on a place or two.
  const wrong = places.filter(([x, y], i) => isShaded(x, y) !== colours[i]![0]! < 200);
  expect(places.filter(([x, y]) => isShaded(x, y)).length).toBeGreaterThan(10);
  expect(places.length).toBeGreaterThan(200);
  expect(wrong.length).toBeLessThan(6);
});

test('a picture on the ground lies in a picture as it is told: upright, turned, and not where it is hidden', async ({
  page,
  stack,
}) => {
  const bytes = greyPng(60, 40, (x, y) => (x < 30 && y < 20 ? 0 : 255));
  const project = emptyProject('Laid', 2026);
  const picture = contentHash(bytes);
  const laid = (at: [number, number], more: object) => ({
    ...newUnderlay(project, { name: 'Plan', picture, widthPx: 60, heightPx: 40, metresPerPixel: 0.25 }, at),
    ...{ opacity: 1, ...more },
  });
  // Each 15 m wide and 10 m deep.
  project.underlays = [
    laid([-12, 10], {}),
    laid([12, 10], { turnDeg: 180 }),
    laid([-12, -10], { shown: false }),
  ];
  const [width, height, shownM] = [640, 400, 40];
  project.viewpoints = [
    {
      id: 'above',
      name: 'Above',
      camera: { kind: 'level', floorM: 20, aboveM: 1, centre: [0, 0], heightM: shownM, northUp: false },
      drawing: { ...DEFAULT_DRAWING, sunPath: false },
      hidden: [],
    },
  ];
  const pictures = { [picture]: Buffer.from(bytes).toString('base64') };
  const made = await fetch(`${stack.url}/api/projects`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ project: { ...project, pictures } }),
  });
  const { id } = (await made.json()) as { id: string };
  await open(page, `/p/${id}/sun?option=a&at=2026-03-21T12:00`);
  await page.getByRole('button', { name: 'Above', exact: true }).click();
  await openPictures(page);
  await setSize(page, width, height);
  await page.getByLabel('Strip with project, moment, sun, north and scale').uncheck();
  await page.getByRole('button', { name: 'Make the picture' }).click();
  await expect(outcome(page)).toHaveText(/is in the gallery\.$/);
  const across = (shownM * width) / height;
  const quarters = [
    [-12, 10],
    [12, 10],
    [-12, -10],
  ].flatMap(([x, y]) =>
    [
      [-4, 3],
      [4, 3],
      [-4, -3],
      [4, -3],
    ].map(([dx, dy]) => [0.5 + (x! + dx!) / across, 0.5 - (y! + dy!) / shownM] as const),
  );
  const dark = (await pixels(page, quarters)).map(([red]) => red! < 60);
  const [upright, turned, hidden] = [dark.slice(0, 4), dark.slice(4, 8), dark.slice(8)];
  expect(upright).toEqual([true, false, false, false]);
  expect(turned).toEqual([false, false, false, true]);
  expect(hidden).toEqual([false, false, false, false]);
});
