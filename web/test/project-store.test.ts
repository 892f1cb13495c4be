import './browser-stand-in';
import { change, editPlace, editProject, moveOwner, type Project } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { checks } from '../src/state/checks';
import * as merging from '../src/state/document-checks';
import { useNotices } from '../src/state/notice-store';
import {
  mergeNewer,
  currentProject,
  edit,
  endGesture,
  openProject,
  redo,
  undo,
  useProject,
} from '../src/state/project-store';

const past = () => useProject.temporal.getState().pastStates.length;
const name = () => currentProject().name;

beforeAll(() => checks.fetch());
beforeEach(() => {
  openProject('p', 1, kelpLane());
  useNotices.setState({ notices: [] });
});

test('edits are undone and redone by name, one by one', () => {
  edit('rename', editProject({ name: 'One' }));
  edit('rename again', editProject({ name: 'Two' }));
  expect(useProject.getState().editName).toBe('rename again');
  undo();
  expect(name()).toBe('One');
  expect(useProject.temporal.getState().futureStates.at(-1)!.editName).toBe('rename again');
  undo();
  expect(currentProject()).toEqual(kelpLane());
  undo();
  expect(currentProject()).toEqual(kelpLane());
  redo();
  redo();
  expect(name()).toBe('Two');
});

test('a new edit after undo drops what was undone', () => {
  edit('rename', editProject({ name: 'One' }));
  undo();
  edit('rename', editProject({ name: 'Other' }));
  redo();
  expect(name()).toBe('Other');
});

test('an unsound edit is refused with its sentence and changes nothing', () => {
  const before = currentProject();
  const refused = edit('move the place', editPlace({ latitudeDeg: 95 }));
  expect(refused).toBe('Latitude 95 degrees is outside −90 to 90 degrees.');
  expect(currentProject()).toBe(before);
  expect(past()).toBe(0);
  expect(useNotices.getState().notices[0]).toMatchObject({ text: refused, wrong: true });
  edit('move the place', editPlace({ latitudeDeg: 95 }), { quiet: true });
  expect(useNotices.getState().notices).toHaveLength(1);
});

test('an edit that changes nothing leaves no step', () => {
  edit('nothing', (project) => project);
  expect(past()).toBe(0);
});

test('a drag is one step, and two drags are two', () => {
  const drag = (dx: number) =>
    edit('move Bar', moveOwner({ optionId: 'a', id: 'bar' }, dx, 0), { gestureKey: 'move-bar' });
  drag(1);
  drag(1);
  drag(1);
  endGesture();
  expect(past()).toBe(1);
  drag(5);
  endGesture();
  expect(past()).toBe(2);
  const x = () => currentProject().options[1]!.masses[0]!.footprint.outer[0]![0];
  expect(x()).toBe(10);
  undo();
  expect(x()).toBe(5);
  undo();
  expect(x()).toBe(2);
});

test('a drag that ends out of bounds is taken back and told', () => {
  edit('move Bar', moveOwner({ optionId: 'a', id: 'bar' }, 500_000, 0), { gestureKey: 'move-bar' });
  endGesture();
  expect(currentProject()).toEqual(kelpLane());
  expect(useNotices.getState().notices[0]!.text).toContain('is outside −100000 to 100000 m');
});

test('a newer revision from elsewhere is merged into the document and into its history', () => {
  edit('rename', editProject({ name: 'Mine' }));
  const theirs: Project = change('targets', 'garden', { name: 'Plots' })(kelpLane());
  expect(mergeNewer(merging, 2, theirs)).toEqual([]);
  expect(currentProject().name).toBe('Mine');
  expect(currentProject().targets[0]!.name).toBe('Plots');
  expect(useProject.getState().saved!.revision).toBe(2);
  undo();
  expect(currentProject().name).toBe('Kelp Lane');
  expect(currentProject().targets[0]!.name).toBe('Plots');
  redo();
  expect(currentProject().name).toBe('Mine');
});

test('opening another project forgets the history of the first', () => {
  edit('rename', editProject({ name: 'One' }));
  openProject('q', 7, { ...kelpLane(), name: 'Second' });
  expect(past()).toBe(0);
  undo();
  expect(name()).toBe('Second');
});
