import { kelpLane } from '@dial-shade/samples';
import { meansAnything } from './flat-target';
import { requireStudy } from './run-study';

test('a study of the walls of the option means nothing where none stands, and something where a wall stands', () => {
  const sample = kelpLane();
  const options = sample.options.map((option) =>
    option.id === 'today' ? { ...option, masses: [], models: [] } : option,
  );
  const project = { ...sample, options };
  const walls = requireStudy(project, 'walls-year');
  const courtyards = requireStudy(project, 'courtyards-march');
  expect(meansAnything(project, 'a', walls, new Map())).toBe(true);
  expect(meansAnything(project, 'today', walls, new Map())).toBe(false);
  // What is drawn is there in every option.
  expect(meansAnything(project, 'today', courtyards, new Map())).toBe(true);
});

test('ground that an option builds over altogether is nothing to be measured there; a strip that is left is', () => {
  const sample = kelpLane();
  const courtyards = requireStudy(sample, 'courtyards-march');
  const { outer } = sample.options.find(({ id }) => id === 'a')!.masses[0]!.footprint;
  const xs = outer.map(([x]) => x);
  const ys = outer.map(([, y]) => y);
  const within = (beyond: number): [number, number][] => {
    const [x0, x1] = [Math.min(...xs) - beyond, Math.max(...xs)];
    const [y0, y1] = [Math.min(...ys), Math.max(...ys)];
    return [
      [x0, y0],
      [x1, y0],
      [x1, y1],
      [x0, y1],
    ];
  };
  const on = (beyond: number) => ({
    ...sample,
    targets: sample.targets.map((target) =>
      target.kind === 'ground' ? { ...target, outline: within(beyond) } : target,
    ),
  });
  expect(meansAnything(on(0), 'a', courtyards, new Map())).toBe(false);
  expect(meansAnything(on(2), 'a', courtyards, new Map())).toBe(true);
  expect(meansAnything(on(0), 'today', courtyards, new Map())).toBe(true);
});
