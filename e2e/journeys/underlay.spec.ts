/// <reference lib="dom" />
import type { Project } from '@dial-shade/core';
import type { Page } from '@playwright/test';
import { pdfOf } from '../../core/testing/pdf';
import { greyPng } from '../../core/testing/pictures';
import { begin, expect, fromAbove, saved, type Stack, test } from '../stack';

/** A sheet of 200 × 100 pixels, black in its upper left quarter. */
const PLAN = Buffer.from(greyPng(200, 100, (x, y) => (x < 100 && y < 50 ? 0 : 255)));

/** How light the page is about a place, 0 to 255. */
async function lightAt(page: Page, { x, y }: { x: number; y: number }): Promise<number> {
  const png = await page.screenshot({ clip: { x: x - 2, y: y - 2, width: 5, height: 5 } });
  return page.evaluate(async (base64) => {
    const bytes = Uint8Array.from(atob(base64), (letter) => letter.codePointAt(0)!);
    const image = await createImageBitmap(new Blob([bytes]));
    const context = new OffscreenCanvas(image.width, image.height).getContext('2d')!;
    context.drawImage(image, 0, 0);
    const { data } = context.getImageData(0, 0, image.width, image.height);
    return data.reduce((sum, value, i) => sum + (i % 4 === 3 ? 0 : value), 0) / ((data.length / 4) * 3);
  }, png.toString('base64'));
}

const lay = (page: Page, name: string, mimeType: string, buffer: Buffer) =>
  page.getByLabel('Lay one there').setInputFiles({ name, mimeType, buffer });

async function underlays(page: Page, stack: Stack, id: string) {
  await saved(page);
  const answer = await fetch(`${stack.url}/api/projects/${id}`);
  return ((await answer.json()) as { project: Project }).project.underlays;
}

test('a plan is laid on the ground, scaled, placed, turned, faded, locked, and traced over', async ({
  page,
  stack,
}) => {
  const id = await begin(page, 'Traced');
  const place = await fromAbove(page);
  const click = async (x: number, y: number) => {
    const at = place(x, y);
    await page.mouse.move(at.x, at.y);
    await page.mouse.click(at.x, at.y);
  };
  const drag = async (from: [number, number], to: [number, number]) => {
    const [a, b] = [place(...from), place(...to)];
    await page.mouse.move(a.x, a.y);
    await page.mouse.down();
    await page.mouse.move((a.x + b.x) / 2, (a.y + b.y) / 2);
    await page.mouse.move(b.x, b.y);
    await page.mouse.up();
  };
  const list = page.getByRole('list', { name: 'Pictures on the ground' });
  await lay(page, 'notes.png', 'image/png', Buffer.from('no picture'));
  await expect(page.getByRole('alert')).toContainText('“notes.png” cannot be read as a picture');
  await lay(page, 'plan.png', 'image/png', PLAN);
  await expect(list).toContainText('not to scale yet');
  // Its upper left quarter lies in the north west, dark; the others are as the ground is.
  const lights = () =>
    Promise.all(
      [
        [-30, 8],
        [30, 8],
        [-30, -18],
        [30, -18],
      ].map(([x, y]) => lightAt(page, place(x!, y!))),
    );
  await expect(async () => {
    const [dark, ...others] = await lights();
    expect(dark!).toBeLessThan(140);
    expect(Math.min(...others)).toBeGreaterThan(200);
  }).toPass();

  // It lies 100 m wide; two points that are 40 m apart are really 10 m apart.
  await page.getByRole('button', { name: 'Scale by two points' }).click();
  await click(-20, 0);
  await click(20, 0);
  const distance = page.getByLabel('Distance between the two points');
  await expect(distance).toBeFocused();
  await distance.fill('far');
  await distance.press('Enter');
  await expect(page.locator('.scale-form').getByRole('alert')).toBeVisible();
  await distance.fill('10');
  await distance.press('Enter');
  await expect(list).toContainText('25.0 m wide');
  const [scaled] = await underlays(page, stack, id);
  expect(scaled!.at[0]).toBeCloseTo(-15, 0);

  await drag(scaled!.at, [5, 10]);
  await expect.poll(async () => (await underlays(page, stack, id))[0]!.at[0]).toBeGreaterThan(4.5);
  const [moved] = await underlays(page, stack, id);
  expect(Math.hypot(moved!.at[0] - 5, moved!.at[1] - 10)).toBeLessThan(0.5);
  // Its handle for turning stands beside its right edge, by a twentieth of its width.
  await drag([moved!.at[0] + 25 * 0.55, moved!.at[1]], [moved!.at[0], moved!.at[1] + 14]);
  await expect.poll(async () => (await underlays(page, stack, id))[0]!.turnDeg).toBeGreaterThan(85);
  expect((await underlays(page, stack, id))[0]!.turnDeg).toBeLessThan(95);

  // Turned by a quarter anticlockwise its upper left quarter is the lower left one.
  const quarter = await Promise.all(
    [-5, 5].map((dy) => lightAt(page, place(moved!.at[0] - 3, moved!.at[1] + dy))),
  );
  expect(quarter[0]).toBeLessThan(140);
  expect(quarter[1]).toBeGreaterThan(200);

  // A point of it onto a place; with a second pair it is turned back.
  await page.getByRole('button', { name: 'Point on point' }).click();
  await click(5, 10);
  await click(0, 0);
  await click(0, 10);
  await click(10, 0);
  await expect(page.getByRole('button', { name: 'Point on point' })).toHaveAttribute('aria-pressed', 'false');
  const [fitted] = await underlays(page, stack, id);
  expect(Math.abs(fitted!.turnDeg)).toBeLessThan(5);
  expect(Math.hypot(...fitted!.at)).toBeLessThan(1);

  await page.getByLabel('Strength').focus();
  await page.keyboard.press('ArrowLeft');
  await expect.poll(async () => (await underlays(page, stack, id))[0]!.opacity).toBeCloseTo(0.65, 9);
  await page.getByRole('button', { name: 'Lock plan' }).click();
  await expect(page.getByText('It is locked')).toBeVisible();
  await expect(page.getByLabel('Turned')).toBeHidden();
  await expect(list.getByRole('button', { name: /is locked; unlock it/ })).toBeDisabled();

  await page.getByRole('button', { name: /^Draw an area/ }).click();
  for (const [x, y] of [
    [-10, -5],
    [10, -5],
    [10, 5],
    [-10, 5],
  ] as const)
    await click(x, y);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Areas that matter (1)' })).toBeVisible();

  await page.getByRole('button', { name: 'Hide plan', exact: true }).click();
  await expect.poll(async () => (await underlays(page, stack, id))[0]!.shown).toBe(false);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(page.getByRole('button', { name: 'Hide plan', exact: true })).toBeVisible();

  // It is there again when the page is, from the server.
  await saved(page);
  const fetched = page.waitForResponse((answer) =>
    answer.url().endsWith(`/api/underlays/${fitted!.picture}`),
  );
  await page.reload();
  expect((await fetched).status()).toBe(200);
});

test('a page of a PDF is laid as large as its scale says', async ({ page, stack }) => {
  const id = await begin(page, 'Sheets');
  await lay(page, 'plans.pdf', 'application/pdf', Buffer.from('%PDF-1.4 and no more'));
  await expect(page.getByRole('alert')).toContainText('“plans.pdf” cannot be read as a PDF');
  // A4 upright, then A3 lying: 420 mm wide, 84 m at 1 : 200.
  const pdf = pdfOf([
    { width: 595, height: 842, draw: '100 100 300 300 re S' },
    {
      width: 1190.55,
      height: 841.89,
      draw: 'BT /F1 40 Tf 100 760 Td (Ground floor) Tj ET 100 100 900 500 re S',
    },
  ]);
  await lay(page, 'plans.pdf', 'application/pdf', pdf);
  const dialog = page.getByRole('dialog');
  const number = dialog.getByRole('textbox', { name: 'Page', exact: true });
  await number.fill('3');
  await number.press('Enter');
  await expect(dialog.getByRole('alert')).toHaveText('There are pages 1 to 2.');
  await number.fill('2');
  await number.press('Enter');
  await expect(dialog.getByText('Paper of 420 × 297 mm')).toBeVisible();
  await expect(dialog.getByRole('img', { name: 'Page 2' })).toBeVisible();
  await dialog.getByLabel('Scale on the paper').fill('1:200');
  await dialog.getByRole('button', { name: 'Lay it on the ground' }).click();
  await expect(page.getByRole('list', { name: 'Pictures on the ground' })).toContainText('84.0 m wide');
  const [laid] = await underlays(page, stack, id);
  expect(laid).toMatchObject({ name: 'plans, page 2', scaled: true });
  expect(laid!.heightPx * laid!.metresPerPixel).toBeCloseTo(59.4, 1);
});
