import './browser-stand-in';
import { editPlace, editProject, moveOwner } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';

/** A page whose checks have not been fetched yet. */
async function freshPage() {
  jest.resetModules();
  const store = await import('../src/state/project-store');
  const { useNotices } = await import('../src/state/notice-store');
  const { checks } = await import('../src/state/checks');
  store.openProject('p', 1, kelpLane());
  const told = () => useNotices.getState().notices.map(({ text }) => text);
  return { ...store, told, fetchChecks: () => checks.fetch() };
}

const past = ({ useProject }: Awaited<ReturnType<typeof freshPage>>) =>
  useProject.temporal.getState().pastStates.length;

test('what cannot be is taken back once the checks are there, and what came before it stays', async () => {
  const page = await freshPage();
  page.edit('rename', editProject({ name: 'Mine' }));
  expect(page.edit('move the place', editPlace({ latitudeDeg: 95 }))).toBeNull();
  expect(page.currentProject().site.place.latitudeDeg).toBe(95);
  await page.fetchChecks();
  expect(page.currentProject()).toEqual({ ...kelpLane(), name: 'Mine' });
  expect(past(page)).toBe(1);
  expect(page.told()).toEqual(['Latitude 95 degrees is outside −90 to 90 degrees.']);
  expect(page.edit('move the place', editPlace({ latitudeDeg: 96 }))).toContain('outside');
});

test('a sound edit made before the checks were there stays', async () => {
  const page = await freshPage();
  page.edit('rename', editProject({ name: 'Mine' }));
  await page.fetchChecks();
  expect(page.currentProject().name).toBe('Mine');
  expect(page.told()).toEqual([]);
});

test('a drag that the checks come into is looked at when it ends', async () => {
  const page = await freshPage();
  const drag = () =>
    page.edit('move Bar', moveOwner({ optionId: 'a', id: 'bar' }, 500_000, 0), { gestureKey: 'move-bar' });
  page.edit('rename', editProject({ name: 'Mine' }));
  page.edit('move the place', editPlace({ latitudeDeg: 95 }));
  drag();
  await page.fetchChecks();
  expect(page.isDragging()).toBe(true);
  page.endGesture();
  expect(page.currentProject()).toEqual({ ...kelpLane(), name: 'Mine' });
  expect(page.told()).toEqual(['Latitude 95 degrees is outside −90 to 90 degrees.']);
  expect(page.edit('rename', editProject({ name: 'Again' }))).toBeNull();
});

test('what another project was changed to is not looked into', async () => {
  const page = await freshPage();
  page.edit('move the place', editPlace({ latitudeDeg: 95 }));
  page.openProject('q', 1, { ...kelpLane(), name: 'Another' });
  await page.fetchChecks();
  expect(page.currentProject().name).toBe('Another');
  expect(page.told()).toEqual([]);
});
