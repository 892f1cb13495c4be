import { rule } from '../../testing/blocks';
import { house, NONE, OVERHANG } from '../../testing/shaded-house';
import { editRules } from '../document';
import type { Project } from '../project';
import { glazedPlaces } from './device-places';
import { withOpeningsKept } from './openings-kept';

const SIZE = { by: 'size', widthM: 1, heightM: 1, spacingM: 2.5, sillM: 1, jambM: 0.3 } as const;

function ruled(): Project {
  const project = house(OVERHANG);
  const option = project.options.find(({ id }) => id === 'a')!;
  option.masses[0]!.openings = [];
  option.rules = [rule(SIZE, { sectors: ['south'], storeys: [0] })];
  return project;
}

const middles = (project: Project) =>
  new Map(
    glazedPlaces(project, 'a', NONE)
      .flatMap(({ places }) => places)
      .map(({ opening, box }) => [opening.id, (box.u0 + box.u1) / 2]),
  );

test('an opening that a device names is found again after another bay count, where it was', () => {
  const before = ruled();
  const ids = [...middles(before).keys()];
  const named = ids[1]!;
  const [device] = before.options.find(({ id }) => id === 'a')!.schemes[0]!.devices;
  device!.openings = [{ owner: 'm', opening: named }];
  device!.except = [{ owner: 'm', opening: ids[0]! }];
  const denser = editRules('a', (rules) =>
    rules.map((one) => ({ ...one, make: { ...SIZE, spacingM: 1.5 } })),
  )(before);
  expect(middles(denser).size).toBeGreaterThan(middles(before).size);
  const kept = withOpeningsKept(before, denser, 'a', NONE);
  const [now] = kept.options.find(({ id }) => id === 'a')!.schemes[0]!.devices;
  const [one] = now!.openings!;
  expect(Math.abs(middles(kept).get(one!.opening)! - middles(before).get(named)!)).toBeLessThan(1);
  // Unkept, the same number lies elsewhere.
  expect(Math.abs(middles(denser).get(named)! - middles(before).get(named)!)).toBeGreaterThan(
    Math.abs(middles(kept).get(one!.opening)! - middles(before).get(named)!),
  );
  expect(now!.except).toHaveLength(1);
});

test('what has no opening near any longer is named no longer; without names nothing changes', () => {
  const before = ruled();
  const [device] = before.options.find(({ id }) => id === 'a')!.schemes[0]!.devices;
  const none = editRules('a', () => [])(before);
  expect(withOpeningsKept(before, none, 'a', NONE)).toBe(none);
  device!.openings = [{ owner: 'm', opening: [...middles(before).keys()][0]! }];
  const gone = editRules('a', () => [])(before);
  const [now] = withOpeningsKept(before, gone, 'a', NONE).options.find(({ id }) => id === 'a')!.schemes[0]!
    .devices;
  expect(now!.openings).toEqual([]);
});
