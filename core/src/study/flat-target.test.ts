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
