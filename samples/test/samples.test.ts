import {
  assembleScene,
  centroid,
  contains,
  glassInSun,
  massLevels,
  modelProblems,
  planStudy,
  type Point2,
  problems,
  projectJsonSchema,
  type Ring,
  roofFaces,
  runStudy,
  standScheme,
  summarize,
  sunDay,
  sunVector,
  TODAY,
} from '@dial-shade/core';

import { readFileSync } from 'node:fs';
import { SAMPLES } from '../src/index';

test.each(Object.entries(SAMPLES))('%s is sound and what stands in samples/projects', (id, make) => {
  expect(problems(make())).toEqual([]);
  expect(JSON.parse(readFileSync(`samples/projects/${id}.json`, 'utf8'))).toEqual(make());
});

/** A corner moved a millimetre towards the middle of its footprint, so that one on the boundary counts as within. */
function inwards([x, y]: Point2, outer: Ring): Point2 {
  const [cx, cy] = centroid(outer);
  const length = Math.hypot(cx - x, cy - y);
  return [x + ((cx - x) / length) * 0.001, y + ((cy - y) / length) * 0.001];
}

describe('Kelp Lane', () => {
  const project = SAMPLES['kelp-lane']!();

  test('has what its story says: a slope, a terrace with courtyards, a garden, a chapel with a tower, three options', () => {
    expect(project.site.ground.kind).toBe('plane');
    expect(project.site.place).toMatchObject({
      latitudeDeg: 55.87,
      longitudeDeg: -4.32,
      zone: 'Europe/London',
    });
    const names = project.neighbours.map((n) => n.name);
    expect(names.filter((name) => name.startsWith('Terrace house'))).toHaveLength(5);
    expect(names).toEqual(expect.arrayContaining(['Chapel nave', 'Chapel tower', 'Back wall']));
    expect(project.options.map((o) => `${o.letter} ${o.name}`)).toEqual([
      'T Today',
      'A Bar',
      'B Court',
      'C Stepped',
    ]);
  });

  test('the options stand within the boundary, each step on the one below', () => {
    const boundary = project.site.boundary!;
    for (const option of project.options)
      for (const mass of option.masses)
        for (const corner of mass.footprint.outer)
          expect({
            mass: mass.name,
            inside: contains(boundary, inwards(corner, mass.footprint.outer)),
          }).toEqual({
            mass: mass.name,
            inside: true,
          });
    const [podium, middle, top] = project.options[3]!.masses.map((mass) =>
      massLevels(mass, project.site.ground),
    );
    expect(middle!.bottomM).toBeCloseTo(podium!.eavesM, 3);
    expect(top!.bottomM).toBeCloseTo(middle!.eavesM, 3);
  });

  test('no option leaves the courtyards more sun than Today, and the stepped one leaves most', () => {
    const mean = (option: string) => {
      const plan = planStudy(project, option, project.studies[0]!, new Map());
      return summarize(plan, runStudy(project, plan, new Map())).values.mean;
    };
    const today = mean(TODAY);
    const [a, b, c] = [mean('a'), mean('b'), mean('c')];
    for (const option of [a, b, c]) expect(option).toBeLessThan(today);
    expect(c).toBeGreaterThan(Math.max(a, b));
  });

  test('every owner in a scene has a name of its own', () => {
    for (const option of project.options) {
      const names = assembleScene(project, option.id, new Map()).owners.map((owner) => owner.name);
      expect(new Set(names).size).toBe(names.length);
    }
  });
});

test('the published JSON Schema is the one that the program keeps, and names its version', () => {
  const published = readFileSync('docs/project.schema.json', 'utf8');
  expect(published).toBe(JSON.stringify(projectJsonSchema(), null, 1) + '\n');
  expect(JSON.parse(published).title).toBe(
    `Dial Shade project file, version ${SAMPLES['kelp-lane']!().version}`,
  );
});

describe('Mesa Baja', () => {
  const project = SAMPLES['mesa-baja']!();

  test('has what its story says: the southern sky, teeth with glass in two options, a square behind the hall', () => {
    expect(project.site.place).toMatchObject({
      latitudeDeg: -33.1,
      longitudeDeg: -70.9,
      zone: 'America/Santiago',
    });
    const roofs = project.options.map((o) => o.masses[0]!.roof.kind);
    expect(roofs).toEqual(['gable', 'sawtooth', 'sawtooth', 'flat']);
    for (const id of ['a', 'b']) {
      expect(modelProblems(project, id)).toEqual([]);
      const hall = project.options.find((o) => o.id === id)!.masses[0]!;
      expect(hall.openings).toHaveLength(5);
    }
  });

  test('the teeth of A look away from the noon sun of midsummer and midwinter, those of B towards it', () => {
    const { place, north } = project.site;
    for (const date of ['2026-06-21', '2026-12-21']) {
      const day = sunDay(date, place, place.zone);
      const sun = sunVector(day.transitAltitudeDeg, day.transitAzimuthDeg, north.trueNorthDeg);
      for (const [id, sign] of [
        ['a', -1],
        ['b', 1],
      ] as const) {
        const hall = project.options.find((o) => o.id === id)!.masses[0]!;
        for (const { normal } of roofFaces(hall, project.site.ground).filter(
          (f) => Math.abs(f.normal[2]) < 1e-6,
        ))
          expect(Math.sign(normal[0] * sun[0] + normal[1] * sun[1])).toBe(sign);
      }
    }
  });

  test('the schemes of the patio hang on bays that look north, and shade them at midsummer noon', () => {
    const option = project.options.find(({ id }) => id === 'c')!;
    const noon = Date.parse('2026-12-21T13:45:00-03:00');
    const mean = (scheme: string | null) => {
      const glass = glassInSun(standScheme('c', scheme)(project), 'c', new Map(), noon, {
        wanted: ({ face }) => face.normal[1] > 0.9,
      });
      const sum = (of: (one: (typeof glass)[0]) => number) => glass.reduce((all, one) => all + of(one), 0);
      return sum(({ sunlitM2 }) => sunlitM2) / sum(({ areaM2 }) => areaM2);
    };
    expect(option.scheme).toBeNull();
    const bare = mean(null);
    expect(bare).toBeGreaterThan(0.3);
    for (const { id } of option.schemes) expect(mean(id)).toBeLessThan(0.7 * bare);
  });

  test('the hall takes winter sun from the square in the south of it', () => {
    const [study] = project.studies;
    const mean = (option: string) => {
      const plan = planStudy(project, option, study!, new Map());
      return summarize(plan, runStudy(project, plan, new Map())).values.mean;
    };
    expect(mean('a')).toBeLessThan(mean('today'));
  });
});
