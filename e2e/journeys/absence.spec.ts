import { expect, open, sampleCopy, saved, test, toStage } from '../stack';

test.use({ ownPostgres: true });
test.describe.configure({ mode: 'default' });

test('two pages of the same project: edits of different objects are merged', async ({
  page,
  context,
  stack,
}) => {
  const id = await sampleCopy(stack);
  await open(page, `/p/${id}/site`);
  const other = await context.newPage();
  await open(other, `/p/${id}/site`);
  await page.getByLabel('Project', { exact: true }).fill('Kelp Lane, first page');
  await page.getByLabel('Project', { exact: true }).press('Enter');
  await other.getByLabel('Elevation', { exact: true }).fill('33');
  await other.getByLabel('Elevation', { exact: true }).press('Enter');
  for (const each of [page, other]) {
    await expect(each.getByLabel('Project', { exact: true })).toHaveValue('Kelp Lane, first page');
    await expect(each.getByLabel('Elevation', { exact: true })).toHaveValue('33');
    await saved(each);
  }
  await other.close();
});

test('two pages that change the same thing: the choice is offered', async ({ page, context, stack }) => {
  await open(page, '/p/kelp-lane/site');
  const stored = await fetch(`${stack.url}/api/projects/kelp-lane`);
  const { revision, project } = (await stored.json()) as { revision: number; project: object };
  // The page hears nothing of the other's change before it saves its own.
  await context.route('**/api/projects/kelp-lane/changes*', (route) => route.abort());
  const answer = await fetch(`${stack.url}/api/projects/kelp-lane`, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ revision, project: { ...project, name: 'Theirs' } }),
  });
  expect(answer.status).toBe(200);
  await page.getByLabel('Project', { exact: true }).fill('Mine');
  await page.getByLabel('Project', { exact: true }).press('Enter');
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('Changed here and on another page');
  await expect(dialog).toContainText('name');
  await dialog.getByRole('button', { name: 'Take the other page’s' }).click();
  await expect(page.getByLabel('Project', { exact: true })).toHaveValue('Theirs');
  await saved(page);
});

test('the database is away for several tries to save: work goes on and is saved when it is back', async ({
  page,
  stack,
}) => {
  await open(page, '/p/kelp-lane/site');
  const search = page.getByRole('button', { name: 'Search commands' });
  const before = await search.boundingBox();
  await stack.haltDatabase();
  await page.getByLabel('Elevation', { exact: true }).fill('21');
  await page.getByLabel('Elevation', { exact: true }).press('Enter');
  await expect(page.getByTestId('save-status')).toHaveText('Not saved yet');
  expect(await search.boundingBox()).toEqual(before);
  await expect(page.locator('.notice')).toContainText('cannot be reached');
  await toStage(page, 'Sun');
  await page.keyboard.press('2');
  await expect(page.locator('.pane-title')).toContainText('Court');
  for (let tries = 0; tries < 2; tries++)
    await page.waitForResponse((answer) => answer.request().method() === 'PATCH' && answer.status() === 503);
  await stack.resumeDatabase();
  await saved(page);
  await page.reload();
  await toStage(page, 'Site');
  await expect(page.getByLabel('Elevation', { exact: true })).toHaveValue('21');
});

test('the page is closed before its work was saved: it is back at the next visit', async ({
  page,
  stack,
}) => {
  await open(page, '/p/kelp-lane/site');
  await stack.haltDatabase();
  await page.getByLabel('Elevation', { exact: true }).fill('44');
  await page.getByLabel('Elevation', { exact: true }).press('Enter');
  await expect(page.getByTestId('save-status')).toHaveText('Not saved yet');
  await page.goto('about:blank');
  await stack.resumeDatabase();
  await open(page, '/p/kelp-lane/site');
  await expect(page.getByLabel('Elevation', { exact: true })).toHaveValue('44');
  await saved(page);
});

test('the server is killed in the middle of a run: the run finishes after the restart', async ({
  page,
  stack,
}) => {
  const id = await sampleCopy(stack, (project) => {
    project.targets[0]!.spacingM = 0.8;
    project.studies[1]!.window = { from: '2026-01-01', to: '2026-12-31', startMinutes: 0, endMinutes: 1440 };
    project.studies[1]!.stepMinutes = 45;
  });
  await open(page, `/p/${id}/studies?option=b&study=garden-season`);
  await expect(page.getByRole('heading', { name: 'Garden, March to September' })).toBeVisible();
  await page.getByRole('button', { name: /^Run/ }).click();
  await expect(page.getByRole('button', { name: 'Stop' })).toBeVisible();
  await expect(page.getByText(/[1-9][\d,]* of [\d,]+ points/)).toBeVisible();
  // A coarse picture is there before the end.
  await expect(page.getByTestId('legend')).toBeVisible();
  await stack.killServer();
  await stack.startServer();
  await expect(page.getByRole('button', { name: /^Run$/ })).toBeVisible();
  const runs = (await (await fetch(`${stack.url}/api/projects/${id}/runs`)).json()) as {
    status: string;
    sensors: number;
    sensorsDone: number;
  }[];
  expect(runs[0]).toMatchObject({ status: 'done', sensorsDone: runs[0]!.sensors });
});
