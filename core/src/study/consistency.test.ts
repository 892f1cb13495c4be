import { kelpLane } from '@dial-shade/samples';
import { change, editProject, editRules, editSite, moveOwner } from '../document';
import type { Project } from '../project';
import { assembleScene } from '../scene';
import { groundNormal } from '../site';
import { seasons } from '../sun';
import { sceneObstacles } from '../trace';
import { pointYear } from './point-year';
import { signature, signatureChanges } from './signature';
import { planStudy, runStudy } from './run-study';
import { sunSamples } from './sun-samples';

const YEAR = { from: '2026-01-01', to: '2026-12-31', startMinutes: 0, endMinutes: 1440 };

test('a probe’s year is the sun-hours study of the same point at the same step', () => {
  const project = kelpLane();
  project.targets[1]!.spacingM = 12;
  const study = { ...project.studies[0]!, window: YEAR, stepMinutes: 15 };
  for (const option of ['today', 'a']) {
    const plan = planStudy(project, option, study, new Map());
    const values = runStudy(project, plan, new Map());
    const scene = assembleScene(project, option, new Map());
    const owners = { surfaceOf: scene.surfaceOf, ownerOf: scene.ownerOf, count: scene.owners.length };
    const at = Array.from(plan.grid.positions.subarray(0, 3)) as [number, number, number];
    const year = pointYear(
      project.site,
      at,
      groundNormal(project.site.ground),
      sceneObstacles(scene),
      owners,
      96,
    );
    expect(year.sunHours).toBeCloseTo(values.hours![0]!, 1);
  }
});

test('the samples of a window are those of its days, and of its parts', () => {
  const { site } = kelpLane();
  const minutes = (window: typeof YEAR, step = 10) =>
    sunSamples(site, [window], step).minutes.reduce((a, b) => a + b, 0);
  const march = { from: '2026-03-01', to: '2026-03-31', startMinutes: 0, endMinutes: 1440 };
  let days = 0;
  for (let d = 1; d <= 31; d++) {
    const date = `2026-03-${String(d).padStart(2, '0')}`;
    days += minutes({ ...march, from: date, to: date });
  }
  expect(minutes(march)).toBeCloseTo(days, 6);
  const morning = minutes({ ...march, endMinutes: 720 });
  const afternoon = minutes({ ...march, startMinutes: 720 });
  expect(morning + afternoon).toBeCloseTo(minutes(march), 6);
});

test('at the poles the sun is up from equinox to equinox, on the equator for half of the year', () => {
  const { site } = kelpLane();
  const up = (latitudeDeg: number) => {
    const at = { ...site, place: { ...site.place, latitudeDeg, zone: 'Etc/UTC' } };
    return sunSamples(at, [YEAR], 30).minutes.reduce((a, b) => a + b, 0) / 60;
  };
  const marks = seasons(2026);
  const summer = (marks['september-equinox'] - marks['march-equinox']) / 3_600_000;
  expect(Math.abs(up(89.999) - summer)).toBeLessThan(3);
  expect(Math.abs(up(-89.999) - (8760 - summer))).toBeLessThan(3);
  expect(Math.abs(up(0) - 4380)).toBeLessThan(3);
});

test('samples keep the order of time, and neighbours in time are numbered one after another', () => {
  const { site } = kelpLane();
  const samples = sunSamples(site, [{ ...YEAR, to: '2026-01-10' }], 20);
  for (let i = 1; i < samples.count; i++) {
    expect(samples.step[i]!).toBeGreaterThan(samples.step[i - 1]!);
    const sameDay = samples.day[i] === samples.day[i - 1];
    if (sameDay) expect(samples.clock[i]! - samples.clock[i - 1]!).toBeCloseTo(20, 6);
    expect(samples.step[i]! - samples.step[i - 1]! === 1).toBe(sameDay);
  }
});

describe('what a result depends on', () => {
  const project = kelpLane();
  const study = project.studies[0]!;
  const then = signature(project, 'a', study);
  const changes = (edited: Project, option = 'a') =>
    signatureChanges(
      then,
      signature(
        edited,
        option,
        edited.studies.find((s) => s.id === study.id)!,
      ),
    );

  test.each<[string, (p: Project) => Project, string[]]>([
    ['a moved mass', moveOwner({ optionId: 'a', id: 'bar' }, 1, 0), ['The mass “Bar” was changed.']],
    [
      'a moved mass of Today that stays',
      moveOwner({ optionId: 'today', id: 'kiosk' }, 1, 0),
      ['The mass “Transformer kiosk” was changed.'],
    ],
    [
      'a rule of its windows',
      editRules('a', (rules) => rules.slice(1)),
      ['The rule “Treatment rooms” was removed.'],
    ],
    [
      'a pane',
      change('glazings', 'single', { visibleTransmittance: 0.5 }),
      ['The glazing “Single, clear” was changed.'],
    ],
    [
      'the leaves of a tree',
      change('neighbours', 'rowan', { bareOpenness: 0.5 }),
      ['The neighbour “Rowan at the gate” was changed.'],
    ],
    ['the ground', editSite({ ground: { kind: 'level', levelM: 0 } }), ['The ground was changed.']],
    [
      'the grid of its target',
      change('targets', 'courtyards', { spacingM: 2 }),
      ['The target “Terrace courtyards” was changed.'],
    ],
    [
      'its window',
      change('studies', 'courtyards-march', { stepMinutes: 5 }),
      ['The window of time was changed.'],
    ],
  ])('%s makes it out of date', (_, edit, expected) => {
    expect(changes(edit(project))).toEqual(expected);
  });

  test.each<[string, (p: Project) => Project]>([
    ['the name of the project', editProject({ name: 'Other' })],
    [
      'the threshold',
      change('studies', 'courtyards-march', { criterion: { atLeast: 5, share: 1, source: 'x' } }),
    ],
    ['the scale of its colours', change('studies', 'courtyards-march', { scale: { min: 0, max: 3 } })],
    ['another target', change('targets', 'garden', { spacingM: 3 })],
    ['another option', moveOwner({ optionId: 'b', id: 'ring' }, 4, 4)],
    ['what is demolished anyway', moveOwner({ optionId: 'today', id: 'depot' }, 4, 4)],
    ['the year of the almanac', editSite({ year: 2030 })],
  ])('%s does not', (_, edit) => {
    expect(changes(edit(project))).toEqual([]);
  });

  test('another option differs by its masses and rules', () => {
    expect(changes(project, 'b').sort()).toEqual([
      'The mass “Bar” was removed.',
      'The mass “Court ring” is new.',
      'The rule “Flats” was removed.',
      'The rule “Treatment rooms” was removed.',
    ]);
  });
});
