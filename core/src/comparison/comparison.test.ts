import { kelpLane } from '../../../samples/src/kelp-lane';
import { inVariant } from '../devices';
import { massFigures } from '../form';
import { ROOM_PRESETS, roomYear, typicalRooms } from '../gains';
import { centroid } from '../geometry';
import { emptyProject, type Project, type Study, TODAY } from '../project';
import { roomsIn } from '../shade';
import { planStudy, requireStudy, runStudy, studyResult, type StudyResult, whoTakes } from '../study';
import { MemoryMasks } from '../trace';
import { comparisonCsv, comparisonJson } from './comparison-files';
import { comparedMeasures, firstMeasures, massingValues, roomValues, studyValues } from './measures';
import { cutDown } from './cut-down';
import { type MassingNumber, massingGrid, massingOf, MassingSweep, withMasses } from './massing-sweep';
import { betterOf, tradeOffFront } from './trade-off';

const NONE = new Map();

function box(storeys: number): Project {
  const project = emptyProject('P', 2026);
  project.options[1]!.masses = [
    {
      ...{ id: 'm', name: 'M', base: { on: 'ground', offsetM: 0 }, roof: { kind: 'flat', parapetM: 0 } },
      footprint: {
        outer: [
          [0, 0],
          [20, 0],
          [20, 10],
          [0, 10],
        ],
        holes: [],
      },
      storeys: Array.from({ length: storeys }, () => ({ heightM: 3 })),
      ...{ openings: [], partitions: [], rooms: [], furniture: [], demolished: false },
    },
  ];
  return project;
}

test('massing by hand: floors, height, facades by where they face', () => {
  const project = box(4);
  const of = massingValues(project, project.options[1]!.id, NONE);
  expect(Object.fromEntries(Object.entries(of).map(([key, { value }]) => [key, value]))).toMatchObject({
    ...{ floor: 800, footprint: 200, volume: 2400, height: 12, storeys: 4 },
    ...{ 'facade/south': 240, 'facade/west': 120, 'glazed/north': 0, compactness: 720 / 800 },
  });
  expect(massingValues(project, TODAY, NONE)).toEqual({});
});

test('figures of a study: share, mean and least are those of its summary, places are counted, what is lost against Today', () => {
  const project = kelpLane();
  const study = requireStudy(project, 'Sky light at the neighbours’ windows');
  const resultOf = (option: string) => {
    const plan = planStudy(project, option, study, NONE);
    return studyResult(plan, runStudy(project, plan, NONE));
  };
  const [today, proposal] = [resultOf(TODAY), resultOf('a')];
  const values = studyValues(project, study, proposal, today);
  const key = (of: string) => `study/${study.id}/${of}`;
  expect(values[key('share')]!.value).toBeCloseTo(proposal.summary.criterion.share * 100, 9);
  expect(values[key('mean')]!.value).toBe(proposal.summary.values.mean);
  expect(values[key('worst')]!.value).toBe(proposal.summary.values.min);
  // What is taken from a neighbour: means of its windows before less after, weighted with their area.
  const of = (id: string) => {
    const mine = ({ id: place }: { id: string }) => place.split('.')[1] === id;
    const mean = ({ summary }: StudyResult) => {
      const rows = summary.targets.filter(mine);
      const area = rows.reduce((sum, { areaM2 }) => sum + areaM2, 0);
      return rows.reduce((sum, row) => sum + row.mean * row.areaM2, 0) / area;
    };
    return mean(today) - mean(proposal);
  };
  const taken = comparedMeasures(project).filter(({ key: k }) => k.startsWith(`study/${study.id}/from/`));
  expect(taken.length).toBeGreaterThan(1);
  const told = taken.filter(({ key: k }) => k in values);
  expect(told.length).toBeGreaterThan(0);
  for (const { key: k } of told) expect(values[k]!.value).toBeCloseTo(of(k.split('/').at(-1)!), 4);
  const under = proposal.summary.targets.filter(
    ({ mean, sensors }) => sensors > 0 && mean < study.criterion.atLeast,
  );
  expect(values[key('failing')]!.value).toBe(under.length);
  expect(values[key('takes')]!.value).toBeGreaterThan(0);
  expect(values[key('takes')]!.passes).toBe(false);
  // A threshold that is moved is told by the values that are there.
  const easy = { ...study, criterion: { ...study.criterion, atLeast: 0, share: 0.5 } };
  expect(studyValues(project, easy, proposal, null)[key('share')]).toEqual({ value: 100, passes: true });
  expect(studyValues(project, easy, proposal, null)[key('failing')]!.value).toBe(0);
  // Today takes nothing from itself.
  expect(studyValues(project, study, today, today)[key('takes')]).toBeUndefined();
  expect(studyValues(project, study, today, resultOf(TODAY))[key('takes')]!.value).toBeLessThan(
    values[key('takes')]!.value,
  );
});

test('every key is there once, and what is offered first exists', () => {
  const project = kelpLane();
  const keys = comparedMeasures(project).map(({ key }) => key);
  expect(new Set(keys).size).toBe(keys.length);
  for (const key of firstMeasures(project)) expect(keys).toContain(key);
  expect(firstMeasures(emptyProject('P', 2026))).toEqual(['floor', 'height']);
});

test('the front: nothing on it is beaten, everything off it is', () => {
  const marks = [
    { id: 'a', x: 1, y: 5 },
    { id: 'b', x: 2, y: 4 },
    { id: 'c', x: 2, y: 3 },
    { id: 'd', x: 4, y: 1 },
    { id: 'e', x: 3, y: 0.5 },
  ];
  const ids = (x: 'more' | 'less', y: 'more' | 'less') =>
    tradeOffFront(marks, { better: x }, { better: y }).map(({ id }) => id);
  expect(ids('more', 'more')).toEqual(['a', 'b', 'd']);
  expect(ids('less', 'less')).toEqual(['a', 'c', 'e']);
  // What differs by the dust of a sum only does not save what is worse.
  const dusty = [...marks, { id: 'f', x: 4 + 4e-12, y: 0.9 }];
  const better = { better: 'more' as const };
  expect(tradeOffFront(dusty, better, better).map(({ id }) => id)).toEqual(['a', 'b', 'd']);
  expect(betterOf({ better: 'less' }, 1, 2)).toBe(true);
  expect(betterOf({ better: null }, 1, 2)).toBe(false);
});

test('the files: a line an option, figures under headings with their units', () => {
  const project = box(2);
  const measures = comparedMeasures(project);
  const options = project.options.map(({ id, letter, name }) => ({
    ...{ id, letter, name },
    values: massingValues(project, id, NONE),
  }));
  const [head, today, first] = comparisonCsv(measures, options)
    .trim()
    .split(/\r?\n/)
    .map((line) => line.split(','));
  expect(head!.slice(0, 3)).toEqual(['option', 'name', 'Floor area (m²)']);
  expect(today![2]).toBe('');
  expect(first![2]).toBe('400');
  const read = JSON.parse(comparisonJson(measures, options));
  expect(read.options[1].values.floor).toBe(400);
  expect(read.measures[0]).toEqual({ key: 'floor', of: '', name: 'Floor area', unit: 'm²', better: 'more' });
});

test('a year of typical rooms: means by floor area of their own years; devices let in less, and cost heating', () => {
  const project = kelpLane();
  const [bare, shaded] = ['a', 'a~overhangs'].map((id) => {
    const of = inVariant(project, id);
    return roomValues(of.project, of.optionId, NONE, ROOM_PRESETS.new);
  });
  const rooms = roomsIn(project, 'a', NONE).filter(({ optionId }) => optionId === 'a');
  const years = typicalRooms(rooms, project.site.north.trueNorthDeg).map(({ room }) =>
    roomYear(project, 'a', NONE, room, ROOM_PRESETS.new),
  );
  const sum = (values: readonly number[]) => values.reduce((all, one) => all + one, 0);
  const floor = sum(years.map(({ envelope }) => envelope.floorM2));
  expect(bare!['rooms/solar']!.value).toBeCloseTo(sum(years.flatMap(({ solar }) => solar)) / floor, 9);
  expect(bare!['rooms/need']!.value).toBeCloseTo(
    bare!['rooms/heating']!.value + bare!['rooms/cooling']!.value,
    9,
  );
  const warm = sum(years.map(({ tooWarmH, envelope }) => tooWarmH * envelope.floorM2)) / floor;
  expect(bare!['rooms/warm']!.value).toBeCloseTo(warm, 9);
  for (const less of ['solar', 'cooling', 'warm', 'peak'])
    expect(shaded![`rooms/${less}`]!.value).toBeLessThan(bare![`rooms/${less}`]!.value);
  expect(shaded!['rooms/heating']!.value).toBeGreaterThan(bare!['rooms/heating']!.value);
  // Nothing to say without weather, or without rooms.
  const dull = { ...project, site: { ...project.site, weather: null } };
  expect(roomValues(dull, 'a', NONE, ROOM_PRESETS.new)).toEqual({});
  expect(comparedMeasures(dull).some(({ group }) => group === 'rooms')).toBe(false);
  expect(roomValues(project, TODAY, NONE, ROOM_PRESETS.new)).toEqual({});
});

describe('an option that is cut down to a level', () => {
  const project = box(4);
  const id = project.options[1]!.id;

  test('whole storeys go, and their floor area with them; a level at a ceiling keeps what is under it', () => {
    expect(cutDown(project, id, 12)).toMatchObject({ floorM2: 800, lostM2: 0, lost: [] });
    expect(cutDown(project, id, 12).masses).toEqual(project.options[1]!.masses);
    expect(cutDown(project, id, 11.9)).toMatchObject({ lostM2: 200, lost: [{ name: 'M', storeys: 1 }] });
    expect(cutDown(project, id, 6)).toMatchObject({ lostM2: 400, lost: [{ name: 'M', storeys: 2 }] });
    expect(cutDown(project, id, 6).masses[0]!.storeys).toHaveLength(2);
    expect(cutDown(project, id, 2)).toMatchObject({ lostM2: 800, masses: [] });
  });

  test('only a roof that reaches over it becomes flat', () => {
    const gabled = box(4);
    gabled.options[1]!.masses[0]!.roof = { kind: 'gable', riseM: 3 };
    const cut = cutDown(gabled, id, 12);
    expect(cut).toMatchObject({ lostM2: 0, lost: [] });
    expect(cut.masses[0]!.roof).toEqual({ kind: 'flat', parapetM: 0 });
  });

  test('what the slices of a study say is given back comes, when it is traced without what stands over the level', () => {
    const near: Project = {
      ...box(4),
      targets: [
        {
          ...{ id: 't', name: 'T', kind: 'ground', spacingM: 4, offsetM: 0.1 },
          outline: [
            ...[
              [0, 13],
              [20, 13],
              [20, 17],
              [0, 17],
            ].map((p) => p as [number, number]),
          ],
        },
      ],
    };
    const study: Study = {
      ...{ id: 's', name: 'S', kind: 'vsc', targets: ['t'], stepMinutes: 10, scale: null },
      window: { from: '2026-03-21', to: '2026-03-21', startMinutes: 0, endMinutes: 1440 },
      criterion: { atLeast: 27, share: 1, source: '' },
    };
    const read = (of: Project) => whoTakes(of, planStudy(of, id, study, NONE), NONE);
    const told = read(near);
    for (const level of [3, 6, 9]) {
      const { masses } = cutDown(near, id, level);
      const gives = told.slices.find(({ fromM }) => fromM === level)!.gives;
      expect(read(withMasses(near, id, masses)).value - told.value).toBeCloseTo(gives, 9);
      expect(gives).toBeGreaterThan(0);
    }
  });
});

describe('massings that are tried', () => {
  const project = box(4);
  const id = project.options[1]!.id;
  const one = (number: MassingNumber, value: number) => massingOf(project, id, [number], [value])[0]!;

  test('every combination of values, whole storeys, and no more than can be looked at', () => {
    const grid = massingGrid([
      { number: { of: 'storeys', mass: 'm' }, from: 2, to: 5, steps: 4 },
      { number: { of: 'turn', mass: 'm' }, from: -10, to: 10, steps: 3 },
    ]);
    expect(grid).toHaveLength(12);
    expect(grid[0]).toEqual([2, -10]);
    expect(grid.at(-1)).toEqual([5, 10]);
    const many = { number: { of: 'turn' as const, mass: 'm' }, from: 0, to: 9, steps: 13 };
    expect(() => massingGrid([many, many, many])).toThrow(
      '2,197 massings; 2,000 are tried at most. 12 values',
    );
    expect(() => massingGrid([])).toThrow('one to 3 numbers');
  });

  test('what a number does, by hand: storeys, a turn, a wall pushed, storeys set back, moved along a bearing', () => {
    expect(massFigures(one({ of: 'storeys', mass: 'm' }, 6)).floorM2).toBeCloseTo(1200, 9);
    expect(massFigures(one({ of: 'turn', mass: 'm' }, 30)).footprintM2).toBeCloseTo(200, 9);
    expect(centroid(one({ of: 'turn', mass: 'm' }, 30).footprint.outer)).toEqual([
      expect.closeTo(10, 9),
      expect.closeTo(5, 9),
    ]);
    // The first edge runs along the south, 20 m long.
    expect(massFigures(one({ of: 'push', mass: 'm', edge: 0 }, 2)).footprintM2).toBeCloseTo(240, 9);
    // The upper two storeys are 18 by 8 m.
    expect(massFigures(one({ of: 'setback', mass: 'm', fromStorey: 2 }, 1)).floorM2).toBeCloseTo(
      400 + 2 * 144,
      9,
    );
    expect(one({ of: 'along', mass: 'm', bearingDeg: 90 }, 3).footprint.outer[0]).toEqual([
      expect.closeTo(3, 9),
      expect.closeTo(0, 9),
    ]);
    expect(() => one({ of: 'setback', mass: 'm', fromStorey: 1 }, 6)).toThrow('Nothing sound is left of “M”');
    expect(() => one({ of: 'turn', mass: 'gone' }, 1)).toThrow('is gone');
  });

  test('candidates have the figures of a run of the same massing at the same grid; broken ones have none', () => {
    const sample = kelpLane();
    const study = requireStudy(sample, 'Courtyards on 21 March');
    const sweep = new MassingSweep(sample, 'a', NONE, [study.id], new MemoryMasks(64 * 1024 ** 2), TODAY);
    const numbers: MassingNumber[] = [{ of: 'storeys', mass: 'bar' }];
    const low = sweep.read(numbers, [1]).figures!;
    const high = sweep.read(numbers, [5]).figures!;
    const share = `study/${study.id}/share`;
    expect(low[share]!.value).toBeGreaterThan(high[share]!.value);
    const coarse = { ...sample, targets: sample.targets.map((t) => ({ ...t, spacingM: t.spacingM * 2 })) };
    const alone = {
      ...coarse,
      options: coarse.options.map((one) =>
        one.id === 'a' ? { ...one, masses: massingOf(sample, 'a', numbers, [1]) } : one,
      ),
    };
    const plan = planStudy(alone, 'a', study, NONE);
    const { summary } = studyResult(plan, runStudy(alone, plan, NONE));
    expect(low[share]!.value).toBeCloseTo(summary.criterion.share * 100, 9);
    expect(low.floor!.value).toBeLessThan(high.floor!.value);
    expect(sweep.read(numbers, [0]).figures).toBeNull();
  });
});
