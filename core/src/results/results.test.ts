import { kelpLane } from '@dial-shade/samples';
import { readModelFile } from '../files';
import { bounds, signedArea } from '../geometry';
import { planStudy, requireStudy, runStudy, STUDY_KINDS, type StudyResult, studyResult } from '../study';
import { resultMap } from './result-map';
import {
  colourOn,
  niceTop,
  profileAlong,
  profileCsv,
  RAMPS,
  resultGeoJson,
  resultGlb,
  resultScale,
  resultSvg,
  seriesIn,
  seriesMeans,
  seriesSvg,
  shareOn,
} from '.';

const NONE = new Map();
const project = kelpLane();
project.targets = project.targets.map((target) => ({ ...target, spacingM: Math.max(2, target.spacingM) }));

function resultOf(studyId: string, option = 'a'): StudyResult {
  const plan = planStudy(project, option, requireStudy(project, studyId), NONE);
  return studyResult(plan, runStudy(project, plan, NONE));
}
const courtyards = resultOf('courtyards-march');
const walls = resultOf('walls-year');
const free = ({ grid }: StudyResult) => Array.from(grid.covered).filter((by) => by === 0).length;

test('maps in a box lie in rows with which they are the largest; those to scale keep their rows', () => {
  const inBox = resultMap(project, walls, { fitMm: [100, 100] });
  expect(Math.max(inBox.widthMm, inBox.heightMm)).toBeCloseTo(100, 6);
  const toScale = resultMap(project, walls, 1);
  const cellMm = ({ cells }: typeof inBox) => {
    const [a, b] = [...cells[0]!.path.matchAll(/([-\d.]+) ([-\d.]+)/g)].map(([, x, y]) => [
      Number(x),
      Number(y),
    ]);
    return Math.hypot(b![0]! - a![0]!, b![1]! - a![1]!);
  };
  const long = 100 / Math.max(toScale.widthMm, toScale.heightMm);
  expect(cellMm(inBox) / cellMm(toScale)).toBeGreaterThan(1.3 * long);
  expect(toScale.cells).toHaveLength(inBox.cells.length);
});

describe('GeoJSON', () => {
  test('a cell each, with every measure; areas in plan are those of the cells', () => {
    const { features } = JSON.parse(resultGeoJson(project, courtyards, true));
    expect(features).toHaveLength(free(courtyards));
    const first = features[0].properties;
    expect(Object.keys(first)).toEqual([
      'target',
      'name',
      'area_m2',
      ...STUDY_KINDS['sun-hours'].measures.map(({ heading }) => heading),
    ]);
    const areaOf = (rings: [number, number, number][][]) =>
      rings.reduce(
        (sum, ring, i) => sum + (i ? -1 : 1) * Math.abs(signedArea(ring.map(([x, y]) => [x, y]))),
        0,
      );
    let [plan, surface] = [0, 0];
    for (const { geometry, properties } of features) {
      plan += geometry.coordinates.reduce(
        (sum: number, polygon: [number, number, number][][]) => sum + areaOf(polygon),
        0,
      );
      surface += properties.area_m2;
    }
    // On ground that slopes by 2.5°.
    expect(plan / Math.cos((2.5 * Math.PI) / 180)).toBeCloseTo(surface, 2);
  });

  test('cells of walls stand upright, in longitude and latitude near the place', () => {
    const { features } = JSON.parse(resultGeoJson(project, walls));
    const heights = features.flatMap(({ geometry }: { geometry: { coordinates: number[][][][] } }) =>
      geometry.coordinates.flat(2).map(([, , z]) => z!),
    );
    expect(Math.max(...heights) - Math.min(...heights)).toBeGreaterThan(10);
    const [longitude, latitude] = features[0].geometry.coordinates[0][0][0];
    expect(Math.abs(longitude - project.site.place.longitudeDeg)).toBeLessThan(0.01);
    expect(Math.abs(latitude - project.site.place.latitudeDeg)).toBeLessThan(0.01);
  });
});

test('GLB: a node a target, the triangles of its cells with the area of the target, read back as a model', async () => {
  const bytes = await resultGlb(walls, project.site.ground, resultScale(walls));
  const model = await readModelFile(bytes, 'cells.glb', () => Promise.reject(new Error('no IFC here')));
  expect(model.groups.map(({ name }) => name)).toEqual(walls.targets.map(({ name }) => name));
  const { positions: p, triangles } = model.mesh!;
  let area = 0;
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) =>
      Array.from(p.subarray(triangles[t + k]! * 3, triangles[t + k]! * 3 + 3)),
    ) as [number[], number[], number[]];
    const [u, v] = [b, c].map((q) => q.map((x, k) => x - a[k]!)) as [number[], number[]];
    area +=
      Math.hypot(
        u[1]! * v[2]! - u[2]! * v[1]!,
        u[2]! * v[0]! - u[0]! * v[2]!,
        u[0]! * v[1]! - u[1]! * v[0]!,
      ) / 2;
  }
  expect(area).toBeCloseTo(walls.summary.areaM2, 1);
  expect(new TextDecoder().decode(bytes)).toContain('COLOR_0');
});

test('SVG: a path a cell with its value, in true scale, with legend and title, and nothing unescaped', () => {
  const named = { ...project, name: 'A & B <“C”>' };
  const text = resultSvg(named, courtyards, resultScale(courtyards), 100);
  const values = [...text.matchAll(/data-value="([\d.]+)"/g)].map(([, value]) => Number(value));
  expect(values).toHaveLength(free(courtyards));
  expect(Math.max(...values)).toBeCloseTo(courtyards.summary.values.max, 3);
  expect(text).toContain('A &amp; B &lt;“C”> – Courtyards on 21 March, A Bar – 1:100');
  expect(text).toContain('Sun, h');
  // The courtyards are 37 m long: 370 mm at 1:100, with margins of 16 mm.
  expect(text).toMatch(/width="402\.000mm"/);
  expect(text).toContain('id="north"');
  expect(resultSvg(project, walls, resultScale(walls))).not.toContain('id="north"');
});

test('scales: steps, ends, and the round number on top', () => {
  const scale = { min: 0, max: 10, ramp: 'sun' } as const;
  expect([-1, 0, 5, 10, 12].map((value) => shareOn(scale, value))).toEqual([0, 0, 0.5, 1, 1]);
  const stepped = { ...scale, steps: 5 };
  expect([0, 1.9, 2, 9.9, 10].map((value) => shareOn(stepped, value))).toEqual([0, 0, 0.25, 1, 1]);
  expect(colourOn(scale, 0)).toBe(RAMPS.sun(0));
  expect(niceTop(7.3)).toBe(8);
  expect(resultScale(courtyards, { min: 1, max: 3 })).toMatchObject({ min: 1, max: 3, ramp: 'sun' });
  expect(resultScale(resultOf('windows-sky')).max).toBe(40);
});

describe('a profile', () => {
  const [target] = courtyards.targets;
  const { minX, maxX, minY, maxY } = bounds(target!.outline);
  const line = {
    target: target!.id,
    from: [minX - 1, (minY + maxY) / 2] as [number, number],
    to: [maxX + 1, (minY + maxY) / 2] as [number, number],
  };
  const points = profileAlong(courtyards, project.site.ground, line);

  test('reads the cell that each place lies in, and nothing beside the target', () => {
    expect(points[0]!.value).toBeNaN();
    expect(points.at(-1)!.value).toBeNaN();
    expect(points.at(-1)!.distanceM).toBeCloseTo(maxX - minX + 2, 9);
    const { grid, values } = courtyards;
    let read = 0;
    for (const { at, value } of points) {
      if (Number.isNaN(value)) continue;
      read++;
      // The nearest sensor in plan of those with this value is no further than a cell is wide.
      const off = Array.from({ length: grid.count }, (_, i) =>
        values.hours![i] === value
          ? Math.hypot(grid.positions[i * 3]! - at[0], grid.positions[i * 3 + 1]! - at[1])
          : Infinity,
      );
      expect(Math.min(...off)).toBeLessThan(2 * Math.SQRT1_2 + 0.3);
    }
    expect(read).toBeGreaterThan(points.length / 3);
  });

  test('as text: distance, place and the measure; a line on nothing is empty', () => {
    const [head, first] = profileCsv(courtyards, points).split('\n');
    expect(head).toBe('distance_m,x,y,z,sun hours (h)');
    expect(first!.startsWith('0,')).toBe(true);
    expect(first!.endsWith(',')).toBe(true);
    expect(profileAlong(courtyards, project.site.ground, { ...line, target: 'none' })).toEqual([]);
  });
});

describe('months side by side', () => {
  test('a map each with its mean, which add up to the mean of the whole', () => {
    expect(seriesIn(courtyards)).toEqual([]);
    expect(seriesIn(walls)).toEqual(['month']);
    const text = seriesSvg(project, walls, 'month');
    const means = [...text.matchAll(/data-mean="([\d.]+)"/g)].map(([, mean]) => Number(mean));
    expect(means).toHaveLength(12);
    const whole = means.reduce((sum, mean) => sum + mean, 0);
    expect(whole).toBeCloseTo(walls.summary.values.mean, 1);
    expect(seriesMeans(walls, 'month').map(({ mean }) => Number(mean.toFixed(4)))).toEqual(means);
    expect(text).toContain('A Bar – by month');
  });
});
