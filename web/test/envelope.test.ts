import './browser-stand-in';
import { emptyProject, type Envelope, type Project } from '@dial-shade/core';
import { envelopeHandles } from '../src/envelope/envelope-handles';
import { envelopeParts, keptInHand, useEnvelopes, withKept } from '../src/envelope/envelope-store';
import { longer } from '../src/envelope/longer-windows';
import { openProject } from '../src/state/project-store';
import { chosenMeasures, chosenOptions, nameOf } from '../src/compare/compared';

type Pair = [number, number];
const SQUARE: Pair[] = [
  [0, 0],
  [20, 0],
  [20, 10],
  [0, 10],
];
const WINDOW = { from: '2026-03-21', to: '2026-03-21', startMinutes: 600, endMinutes: 720 };

function withEnvelope(more: Partial<Envelope>): Project {
  const project = emptyProject('P', 2026);
  project.site.boundary = SQUARE;
  project.areas = [
    {
      id: 'g',
      name: 'Garden',
      use: 'garden',
      outline: SQUARE.map(([x, y]): Pair => [x, y + 20]),
      on: { kind: 'ground' },
    },
  ];
  project.envelopes = [
    {
      ...{
        id: 'e',
        name: 'E',
        build: null,
        setbacksM: [],
        noBuild: [],
        limit: null,
        slope: null,
        lost: 'keep',
      },
      ...{
        storeyM: 3,
        spacingM: 1,
        keep: [{ on: 'area', id: 'g', option: null, basis: 'clock' as const, windows: [WINDOW] }],
      },
      ...more,
    },
  ];
  openProject('p', 1, project);
  useEnvelopes.setState({ chosen: null, kept: 0 });
  return project;
}

const edges = () => envelopeHandles().flatMap((one) => (one.kind === 'edge' ? [one] : []));

test('edges are taken hold of where they stand after their setbacks, whichever way the outline runs', () => {
  withEnvelope({ setbacksM: [2] });
  expect(edges()[0]).toMatchObject({ from: [2, 2], to: [18, 2], setbacksM: [2, 2, 2, 2] });
  withEnvelope({ build: [...SQUARE].reverse(), setbacksM: [1, 0, 0, 3] });
  // Backwards: the first edge runs along the north, the last along the west.
  expect(edges()[0]!.from).toEqual([3, 9]);
  expect(edges()[0]!.to).toEqual([20, 9]);
  // Corners of the boundary are not dragged here; those of an outline of its own and of areas are.
  const corners = envelopeHandles().filter(({ kind }) => kind === 'corner');
  expect(corners).toHaveLength(8);
  withEnvelope({ setbacksM: [50] });
  expect(edges()).toEqual([]);
});

test('a corner that is moved changes its area, and only that', () => {
  const project = withEnvelope({});
  const corner = envelopeHandles().find(({ kind }) => kind === 'corner');
  if (corner?.kind !== 'corner') throw new Error('no corner');
  const moved = corner.put(corner.ring.map(([x, y], i): Pair => [x, i === 0 ? y + 1 : y]))(project);
  expect(moved.areas[0]!.outline[0]).toEqual([0, 21]);
  expect(moved.envelopes).toBe(project.envelopes);
});

test('what is chosen of an envelope, and changed', () => {
  const project = withEnvelope({});
  expect(keptInHand(project, { chosen: 'gone', kept: 7 })).toMatchObject({ index: 0 });
  expect(keptInHand(emptyProject('P', 2026), { chosen: null, kept: 0 })).toBeNull();
  const changed = withKept('e', 0, { windows: [{ ...WINDOW, endMinutes: 900 }] })(project);
  expect(changed.envelopes[0]!.keep[0]!.windows[0]!.endMinutes).toBe(900);
  // The model matters only where it decides what is kept.
  const count = (of: Partial<Envelope>) => {
    const now = withEnvelope(of);
    return envelopeParts(now, now.envelopes[0]).filter((part) => part === now.neighbours).length;
  };
  expect([count({}), count({ lost: 'leave' })]).toEqual([0, 1]);
});

test('windows are made longer within the day, and gone where little is left of them', () => {
  expect(longer([WINDOW], 30)[0]).toMatchObject({ startMinutes: 570, endMinutes: 750 });
  expect(longer([{ ...WINDOW, startMinutes: 10, endMinutes: 1430 }], 60)[0]).toMatchObject({
    ...{ startMinutes: 0, endMinutes: 1440 },
  });
  expect(longer([WINDOW], -50)).toEqual([]);
});

test('what is compared: chosen, in its order; what is gone is left out', () => {
  const project = withEnvelope({});
  expect(chosenMeasures(project).map(({ key }) => key)).toEqual(['floor', 'height', 'envelope/e/over']);
  expect(nameOf(chosenMeasures(project)[2]!)).toBe('E: Sticks out of it');
  const picked: Project = {
    ...project,
    comparison: {
      measures: ['height', 'study/gone/share', 'floor'],
      rooms: 'new',
      options: ['today', 'gone', 'today~', 'today~gone'],
      against: null,
    },
  };
  expect(chosenMeasures(picked).map(({ key }) => key)).toEqual(['height', 'floor']);
  expect(chosenOptions(picked).map(({ id }) => id)).toEqual(['today']);
  expect(
    chosenOptions(project)
      .map(({ id }) => id)
      .at(-1),
  ).toBe('today');
});
