import './browser-stand-in';
import type { Camera, Point3, RayStretch } from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { BufferGeometry, Group, LineSegments } from 'three';
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js';
import { segments } from '../src/board/overlay-lines';
import { broaden, broadPen, thinPen } from '../src/board/pens';
import { type DrawnRay, rayStretches, roomObjects, stripLines } from '../src/board/room-objects';
import { newestOnly } from '../src/state/newest-only';
import { openProject } from '../src/state/project-store';
import { roomsShown, useRooms } from '../src/sun/rooms-store';
import type { RoomFound } from '../src/workers/room-work';

const RAY: DrawnRay = {
  at: [5, 3, 0],
  through: [4, 0, 2.4],
  vsaDeg: (Math.atan2(2.4, 3) * 180) / Math.PI,
  depthM: 3,
  facadeBearingDeg: 180,
};
const SECTION: Camera = { kind: 'upright', from: [2, -5], to: [2, 8], alongM: 6, levelM: 1.5, heightM: 8 };
const LIT: RoomFound['lit'] = [
  {
    outer: [
      [0, 1, 0],
      [2, 1, 0],
      [2, 3, 0],
    ] as Point3[],
    holes: [],
  },
];

const pointsOf = (lines: { geometry: BufferGeometry }): Point3[] => {
  const { array } = lines.geometry.getAttribute('position');
  return Array.from({ length: array.length / 3 }, (_, i) => [
    array[i * 3]!,
    array[i * 3 + 1]!,
    array[i * 3 + 2]!,
  ]);
};

describe('a limiting ray', () => {
  const drawn = (camera: Camera | null) =>
    roomObjects({ lit: LIT, ray: RAY, fan: [{ label: '09:00', ray: RAY }] }, camera, 'metric', 'light');

  test('says its angle and its depth, and runs from before the facade to the floor', () => {
    const { lines, labels } = drawn(null);
    expect(labels.map(({ text }) => text)).toEqual(['3.00 m', `VSA ${RAY.vsaDeg.toFixed(1)}°`, '09:00']);
    const ray = lines.map((one) => pointsOf(one as LineSegments)).find((points) => points.length === 2)!;
    expect(ray[1]).toEqual(RAY.at);
    expect(ray[0]![1]).toBeLessThan(0);
    expect(ray[0]![2]).toBeGreaterThan(RAY.through[2]);
  });

  test('in a section lies in the cut, a little behind it, whatever place of the facade it comes from', () => {
    const { lines, labels } = drawn(SECTION);
    // The cut runs along x = 2; what lies to the right, at larger x, is taken away.
    const xs = lines
      .slice(1)
      .flatMap((one) => pointsOf(one as LineSegments))
      .map(([x]) => x);
    expect(Math.max(...xs) - Math.min(...xs)).toBeLessThan(1e-6);
    expect(xs[0]).toBeLessThan(2);
    expect(xs[0]).toBeGreaterThan(1.5);
    for (const { at } of labels) expect(at[0]).toBeCloseTo(xs[0]!, 6);
  });

  test('outlines of sunlit patches show through walls in a cut only', () => {
    const isOnTop = (camera: Camera | null) =>
      !(
        drawn(camera).lines[0] as LineSegments<
          BufferGeometry,
          ReturnType<typeof segments>['material'] & { depthTest: boolean }
        >
      ).material.depthTest;
    expect([isOnTop(null), isOnTop(SECTION)]).toEqual([false, true]);
  });
});

test('rays are drawn in three strengths: from the sun, mirrored, spread', () => {
  const stretch = (bounce: number, isSpread: boolean): RayStretch => ({
    from: [0, 0, 1],
    to: [0, 1, 0],
    bounce,
    isSpread,
  });
  const all = [stretch(0, false), stretch(1, false), stretch(1, true), stretch(2, true)];
  const lines = rayStretches(all, null, 'light') as LineSegments[];
  expect(lines.map((one) => pointsOf(one).length / 2)).toEqual([2, 1, 1]);
  expect(rayStretches([], null, 'light')).toEqual([]);
  expect(stripLines({ from: [0, 0, 1], to: [0, 1, 1] }, null, 'light')).toHaveLength(1);
});

test('of the rooms that are measured the chosen one is shown alone, with its ray and the fan of the set', () => {
  const depth = { ...RAY, facadeAzimuthDeg: 170, reachesWall: false, opening: 'w', face: 'wall/0/0/0' };
  const room = (key: string) => ({ key, lit: LIT, depth }) as unknown as RoomFound;
  const state = {
    ...useRooms.getState(),
    found: [room('a/0/0'), room('a/0/1')],
    fan: [{ label: '9', depth }],
  };
  const all = roomsShown({ ...state, chosen: null }, 10)!;
  expect(all.lit).toHaveLength(2);
  expect([all.ray, all.fan]).toEqual([null, []]);
  const one = roomsShown({ ...state, chosen: 'a/0/1' }, 10)!;
  expect(one.lit).toHaveLength(1);
  expect(one.ray).toMatchObject({ depthM: 3, facadeBearingDeg: 180 });
  expect(one.fan).toHaveLength(1);
  expect(roomsShown({ ...state, found: null }, 10)).toBeNull();
});

describe('pens', () => {
  const EDGE = Float32Array.of(0, 0, 0, 1, 0, 0);

  test('a thin one draws lines of the screen, a broad one of a width that grows with its strength', () => {
    const thin = thinPen('#000000');
    expect(thin.draw(EDGE)).toBeInstanceOf(LineSegments);
    const broad = broadPen('#000000', 2);
    const lines = broad.draw(EDGE) as LineSegments2;
    broad.setStrength(0.5);
    const at = lines.material.linewidth;
    broad.setStrength(1);
    expect(lines.material.linewidth).toBeGreaterThan(at);
    broad.setStrength(0);
    expect(lines.material.visible).toBe(false);
    expect(broad.draw(new Float32Array()).visible).toBe(false);
  });

  test('all lines of a group are broadened for a larger picture, in their order and place', () => {
    const group = new Group();
    const inner = new Group();
    group.add(segments([0, 0, 0, 0, 0, 1], '#39406f', 0.4, 7, true), inner);
    inner.add(broadPen('#000000', 2).draw(EDGE));
    broaden(group, 3, 1.5);
    const found: LineSegments2[] = [];
    group.traverse((object) => object instanceof LineSegments2 && found.push(object));
    expect(found).toHaveLength(2);
    const [thin] = found.filter(({ renderOrder }) => renderOrder === 7);
    expect(thin!.material).toMatchObject({ linewidth: 3, opacity: 0.4, depthTest: false });
    expect(found.find((one) => one !== thin)!.material.linewidth).toBe(3);
  });
});

test('of wishes that come while one is at work only the newest is worked on', async () => {
  const asked: string[] = [];
  const taken: string[] = [];
  let release = () => {};
  const wish = newestOnly(
    async (one: string) => {
      asked.push(one);
      await new Promise<void>((resolve) => (release = resolve));
      return one.toUpperCase();
    },
    (found) => taken.push(found),
  );
  const first = wish('a');
  void wish('b');
  void wish('c');
  release();
  await new Promise((resolve) => setTimeout(resolve, 0));
  release();
  await first;
  expect([asked, taken]).toEqual([['a', 'c'], ['C']]);
  const second = wish('d');
  void wish(null);
  release();
  await second;
  expect(taken).toEqual(['C']);
});

test('what was wished for in another project is let go, and what is wished for then does not wait for it', async () => {
  const taken: string[] = [];
  const answers: (() => void)[] = [];
  const wish = newestOnly(
    (one: string) => new Promise<string>((resolve) => answers.push(() => resolve(one))),
    (found) => taken.push(found),
  );
  openProject('one', 1, kelpLane());
  const left = wish('of one');
  openProject('two', 1, kelpLane());
  const here = wish('of two');
  expect(answers).toHaveLength(2);
  answers[0]!();
  await left;
  expect(taken).toEqual([]);
  answers[1]!();
  await here;
  expect(taken).toEqual(['of two']);
});
