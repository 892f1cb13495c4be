import { block, opening, rect } from '../../testing/blocks';
import { house, NONE, OVERHANG } from '../../testing/shaded-house';
import type { DeviceMake, Project } from '../project';
import { deviceProblems } from './device-problems';

const SHORT = { ...OVERHANG, sideM: 0.2 } as DeviceMake;
const fins = (depthM: number, more: object = {}): DeviceMake => ({
  kind: 'fins',
  at: 'both',
  depthM,
  gapM: 0.05,
  aboveM: 0,
  belowM: 0,
  thicknessM: 0.04,
  turnDeg: 0,
  ...more,
});

const optionOf = (project: Project) => project.options.find(({ id }) => id === 'a')!;

function withMore(project: Project, ...makes: [string, DeviceMake][]): Project {
  const [scheme] = optionOf(project).schemes;
  for (const [name, make] of makes) scheme!.devices.push({ ...scheme!.devices[0]!, id: name, name, make });
  return project;
}

test('devices that only touch or stand apart are no matter', () => {
  // The overhang lies 10 cm over the head where the fins end.
  expect(deviceProblems(withMore(house(SHORT), ['Fins', fins(0.5)]), 'a', NONE)).toEqual([]);
  expect(deviceProblems(house(null), 'a', NONE)).toEqual([]);
  const shelf: DeviceMake = { kind: 'shelf', heightM: 0.6, outM: 0.3, inM: 0.3, thicknessM: 0.03 };
  expect(deviceProblems(house(shelf, 0.2), 'a', NONE)).toEqual([]);
  for (const turnDeg of [-60, -35, 0, 50, 90])
    expect(
      deviceProblems(
        house({ ...SHORT, slats: { slatM: 0.14, spacingM: 0.2, turnDeg } } as DeviceMake),
        'a',
        NONE,
      ),
    ).toEqual([]);
});

test('devices that run into one another, or into themselves at the next window', () => {
  const tall = withMore(house(SHORT), ['Fins', fins(0.5, { aboveM: 0.3 })]);
  expect(deviceProblems(tall, 'a', NONE)).toEqual(['“Device” and “Fins” run into one another at one place.']);
  const wide = house({ ...SHORT, sideM: 1 } as DeviceMake);
  optionOf(wide).masses[0]!.openings.push(opening('next', rect(7, 1, 2, 1)));
  expect(deviceProblems(wide, 'a', NONE)).toEqual(['“Device” runs into itself at one place.']);
});

test('a device in a neighbour, in a tree, over the boundary, across the opening above', () => {
  const project = house({ ...SHORT, depthM: 3 } as DeviceMake);
  project.neighbours = [
    { kind: 'building', ...block('shed', 3, -6, 3, 4), demolished: false },
    {
      kind: 'tree',
      id: 't',
      name: 'Lime',
      at: [6, -2],
      heightM: 8,
      crownM: 3,
      clearM: 1,
      crown: 'round',
      leafOpenness: 0.2,
      bareOpenness: 0.6,
      leafFrom: '04-15',
      leafUntil: '11-01',
      demolished: false,
    },
  ];
  project.site.boundary = [
    [-2, -1],
    [12, -1],
    [12, 12],
    [-2, 12],
  ];
  expect(deviceProblems(project, 'a', NONE)).toEqual([
    '“Device” runs into “SHED” at one place.',
    '“Device” runs into “Lime” at one place.',
    '“Device” reaches over the boundary at one place.',
  ]);
  const upright = house(fins(0.4, { belowM: 0.9, gapM: 0.5 }));
  const option = optionOf(upright);
  option.masses[0]!.openings.push(opening('low', rect(2.9, 0.15, 1, 0.7)));
  option.schemes[0]!.devices[0]!.openings = [{ owner: 'm', opening: 'o' }];
  expect(deviceProblems(upright, 'a', NONE)).toEqual([
    '“Device” stands before another opening of its wall that it does not hang on.',
  ]);
});
