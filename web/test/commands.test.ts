import './browser-stand-in';
import type { Opening } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { currentProject, openProject } from '../src/state/project-store';
import { setView, useView } from '../src/state/view-store';

jest.mock('../src/app/stage-rail', () => ({
  STAGES: [
    { path: 'site', name: 'Site' },
    { path: 'sun', name: 'Sun' },
  ],
}));
jest.mock('../src/board/pane-registry', () => ({ focusedView: () => null }));
jest.mock('../src/app/arrangement-buttons', () => ({
  ARRANGEMENTS: [{ arrangement: 'four', name: 'Four panes' }],
}));

import { commands, removeSelection } from '../src/app/commands';

beforeEach(() => {
  openProject('p', 1, kelpLane());
  setView({ optionId: 'a', selection: null, play: null });
});

const run = (name: string) =>
  commands(() => {})
    .find((command) => command.name === name)!
    .run();

test('no two commands share a name or a key', () => {
  const all = commands(() => {});
  const names = all.map((command) => command.name);
  expect(new Set(names).size).toBe(names.length);
  const keys = all.flatMap(({ keys: k }) => (k ? [k.toLowerCase()] : []));
  expect(new Set(keys).size).toBe(keys.length);
});

test('there is a command for every stage and every option, by its number', () => {
  const gone: string[] = [];
  for (const command of commands((stage) => gone.push(stage))) if (command.where === 'Stage') command.run();
  expect(gone).toEqual(['site', 'sun']);
  const options = commands(() => {}).filter((command) => command.where === 'Option');
  expect(options.map(({ name, keys }) => `${keys}: ${name}`)).toEqual([
    '1: Show A Bar',
    '2: Show B Court',
    '3: Show C Stepped',
    '0: Show T Today',
  ]);
  run('Show B Court');
  expect(useView.getState().optionId).toBe('b');
});

test('playing is begun and ended by the same command', () => {
  run('Play or pause the day');
  expect(useView.getState().play).toBe('day');
  run('Play or pause the season');
  expect(useView.getState().play).toBeNull();
});

test('what is chosen is removed: a mass from its option, a neighbour from the site; nothing when nothing is chosen', () => {
  removeSelection();
  expect(currentProject()).toEqual(kelpLane());
  setView({ selection: { id: 'bar', optionId: 'a', layer: 'option', wallBearingDeg: null } });
  removeSelection();
  expect(currentProject().options[1]!.masses).toEqual([]);
  expect(useView.getState().selection).toBeNull();
  setView({ selection: { id: 'rope-store', optionId: null, layer: 'neighbours', wallBearingDeg: null } });
  removeSelection();
  expect(currentProject().neighbours.some((n) => n.id === 'rope-store')).toBe(false);
  expect(currentProject().neighbours).toHaveLength(kelpLane().neighbours.length - 1);
});

test('with an opening of an imported mesh chosen, only the opening goes', () => {
  const project = kelpLane();
  const opening: Opening = {
    id: 'hatch',
    name: 'Hatch',
    host: { on: 'mesh', face: 0 },
    outline: { kind: 'rectangle', u: 1, v: 1, widthM: 1, heightM: 1 },
    kind: 'window',
    glazing: project.glazings[0]!.id,
    revealM: 0,
    openable: false,
    grid: null,
  };
  project.neighbours.push({
    kind: 'mesh',
    id: 'store',
    name: 'Store',
    mesh: 'a'.repeat(64),
    triangles: 2,
    move: [0, 0, 0],
    turnDeg: 0,
    openness: 0,
    openings: [opening],
    demolished: false,
  });
  openProject('p', 1, project);
  setView({
    selection: { id: 'store', optionId: null, layer: 'neighbours', wallBearingDeg: null, face: 'mesh/0' },
    opening: 'hatch',
  });
  removeSelection();
  expect(currentProject().neighbours.at(-1)).toMatchObject({ id: 'store', openings: [] });
  removeSelection();
  expect(currentProject().neighbours.some(({ id }) => id === 'store')).toBe(false);
});
