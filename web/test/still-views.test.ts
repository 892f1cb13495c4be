import './browser-stand-in';
import {
  assembleScene,
  type CameraOf,
  defaultMass,
  emptyProject,
  patchAt,
  type Point3,
  type Scene,
  signedArea,
  skyVault,
  type Subdivision,
} from '@dial-shade/core';
import { Mesh, Vector3 } from 'three';
import { poseOf, stillCamera } from '../src/board/camera-pose';
import { cutOf } from '../src/board/cut';
import { sectionObjects } from '../src/board/section-objects';
import { DOME_RADIUS, domeCells } from '../src/climate/dome-cells';

const EYE: CameraOf<'eye'> = { kind: 'eye', at: [10, 5, 1.6], bearingDeg: 90, pitchDeg: 0, fovDeg: 60 };
const SECTION: CameraOf<'upright'> = {
  kind: 'upright',
  from: [0, 4],
  to: [10, 4],
  alongM: 5,
  levelM: 3,
  heightM: 20,
};

/** Where a place comes to lie in a picture twice as broad as it is high: x and y from −1 to 1, z from near to far. */
function seen(camera: Parameters<typeof stillCamera>[0], at: Point3, sun: Point3 | null = null) {
  return new Vector3(...at).project(stillCamera(camera, 2, sun, 0));
}

describe('a view that stays as it is', () => {
  test('an eye sees what lies ahead in the middle, and half its field of view above at the upper rim', () => {
    const ahead = seen(EYE, [30, 5, 1.6]);
    expect([ahead.x, ahead.y]).toEqual([expect.closeTo(0, 9), expect.closeTo(0, 9)]);
    const rise = 20 * Math.tan((30 * Math.PI) / 180);
    expect(seen(EYE, [30, 5, 1.6 + rise]).y).toBeCloseTo(1, 9);
    // Looking east, north is on the left; the picture is twice as broad as high.
    expect(seen(EYE, [30, 5 + rise * 2, 1.6]).x).toBeCloseTo(-1, 9);
    expect(seen({ ...EYE, pitchDeg: 30 }, [30, 5, 1.6 + rise]).y).toBeCloseTo(0, 9);
    expect(Math.abs(seen(EYE, [0, 5, 1.6]).z)).toBeGreaterThan(1);
  });

  test('from outside it looks in perspective or along parallels, as tall as asked', () => {
    const orbit: CameraOf<'orbit'> = {
      kind: 'orbit',
      eye: [0, -100, 50],
      lookAt: [0, 0, 0],
      projection: 'parallel',
      heightM: 40,
    };
    const up = new Vector3(0, 0.4472135955, 0.894427191).multiplyScalar(20);
    expect(seen(orbit, [up.x, up.y, up.z]).y).toBeCloseTo(1, 6);
    expect(seen(orbit, [40, 0, 0]).x).toBeCloseTo(1, 9);
    const near = seen({ ...orbit, projection: 'perspective' }, [10, -50, 0]).x;
    const far = seen({ ...orbit, projection: 'perspective' }, [10, 50, 0]).x;
    expect(near).toBeGreaterThan(far * 1.5);
    expect(poseOf({ ...orbit, projection: 'perspective' }, null, 0).heightM).toBeNull();
  });

  test('a section shows nothing of what lies before its cut, and an elevation everything', () => {
    const within = (z: number) => Math.abs(z) <= 1;
    expect(within(seen(SECTION, [5, 4.1, 3]).z)).toBe(true);
    expect(within(seen(SECTION, [5, 3.9, 3]).z)).toBe(false);
    expect(seen(SECTION, [5, 9, 13]).y).toBeCloseTo(1, 9);
    const elevation: CameraOf<'elevation'> = {
      kind: 'elevation',
      centre: [0, 0, 3],
      bearingDeg: 180,
      heightM: 20,
    };
    for (const y of [-60, 0, 60]) expect(within(seen(elevation, [0, y, 3]).z)).toBe(true);
    // From the sun, what lies on one ray lies in one place.
    const sun: Point3 = [0.6, 0, 0.8];
    const from: CameraOf<'sun'> = { kind: 'sun', lookAt: [0, 0, 0], heightM: 50 };
    const [low, high] = [seen(from, [3, 7, 0], sun), seen(from, [3 + 6, 7, 8], sun)];
    expect([low.x, low.y]).toEqual([expect.closeTo(high.x, 9), expect.closeTo(high.y, 9)]);
    expect(low.z).toBeGreaterThan(high.z);
  });
});

describe('what a cut goes through', () => {
  function scene(): Scene {
    const project = emptyProject('P', 2026);
    const ring = (x: number, y: number, w: number, d: number): [number, number][] => [
      [x, y],
      [x + w, y],
      [x + w, y + d],
      [x, y + d],
    ];
    const court = defaultMass('court', 'Court', ring(0, 0, 10, 8), 2, 3);
    court.footprint.holes = [ring(3, 2, 4, 4).reverse()];
    project.options[1]!.masses = [court, defaultMass('hut', 'Hut', ring(20, 2, 5, 5), 1, 4)];
    return assembleScene(project, project.options[1]!.id, new Map());
  }
  const area = (mesh: Mesh, [a, b]: readonly [0 | 1 | 2, 0 | 1 | 2]) => {
    const p = mesh.geometry.getAttribute('position');
    let sum = 0;
    for (let i = 0; i < p.count; i += 3)
      sum += Math.abs(
        signedArea(
          [0, 1, 2].map((k): [number, number] => [p.getComponent(i + k, a), p.getComponent(i + k, b)]),
        ),
      );
    return sum;
  };
  const faces = (objects: readonly unknown[]) => objects[0] as Mesh;

  test('an upright cut fills what it cuts, without what lies open between', () => {
    const plane = cutOf(SECTION)!;
    // Through the courtyard: 3 m on either side of it, 6 m high; and the hut.
    const mesh = faces(sectionObjects(scene(), new Set(), plane, 'light'));
    expect(area(mesh, [0, 2])).toBeCloseTo(2 * 3 * 6 + 5 * 4, 4);
    const p = mesh.geometry.getAttribute('position');
    // On the side that is seen, by a hair.
    for (let i = 0; i < p.count; i++) expect(Math.abs(p.getY(i) - 4.002)).toBeLessThan(1e-5);
  });

  test('a level cut gives the plan; what is hidden is not cut', () => {
    const plane = cutOf({
      ...{ kind: 'level', floorM: 3, aboveM: 0.5 },
      centre: [0, 0],
      heightM: 9,
      northUp: false,
    });
    const all = scene();
    expect(area(faces(sectionObjects(all, new Set(), plane!, 'light')), [0, 1])).toBeCloseTo(80 - 16 + 25, 4);
    const hut = new Set([all.owners.findIndex(({ id }) => id === 'hut')]);
    expect(area(faces(sectionObjects(all, hut, plane!, 'dark')), [0, 1])).toBeCloseTo(80 - 16, 4);
    const above = cutOf({
      ...{ kind: 'level', floorM: 9, aboveM: 0.5 },
      centre: [0, 0],
      heightM: 9,
      northUp: false,
    });
    expect(sectionObjects(all, new Set(), above!, 'light')).toEqual([]);
  });
});

describe('the dome of the sky', () => {
  const points = (path: string) =>
    path
      .slice(1, -1)
      .split('L')
      .map((pair) => pair.split(' ').map(Number) as [number, number]);

  test.each<Subdivision>([1, 2, 4])(
    'split by %d, its cells fill the disc once, in the order of the vault',
    (split) => {
      const cells = domeCells(split);
      const vault = skyVault(split);
      expect(cells).toHaveLength(vault.count);
      const disc = Math.PI * DOME_RADIUS ** 2;
      const filled = cells.reduce((sum, { path }) => sum + Math.abs(signedArea(points(path))), 0);
      // Arcs are chords of four degrees at most.
      expect(Math.abs(filled / disc - 1)).toBeLessThan(0.002);
      const elsewhere = cells.flatMap(({ path, solidAngle }, p) => {
        const ring = points(path);
        if (p === vault.count - 1) return solidAngle === vault.solidAngle[p] ? [] : [p];
        const [x, y] = [0, 1].map((k) => ring.reduce((sum, one) => sum + one[k]!, 0) / ring.length);
        // Back from the disc: stereographic from the nadir, north up, east on the right.
        const altitude = 90 - (360 / Math.PI) * Math.atan(Math.hypot(x!, y!) / DOME_RADIUS);
        const azimuth = ((Math.atan2(x!, -y!) * 180) / Math.PI + 360) % 360;
        return patchAt(vault, altitude, azimuth) === p && solidAngle === vault.solidAngle[p] ? [] : [p];
      });
      expect(elsewhere).toEqual([]);
    },
  );
});
