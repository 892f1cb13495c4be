import { house, NONE, OVERHANG } from '../../testing/shaded-house';
import { RAD } from '../civil';
import { glazedPlaces } from '../devices';
import { onFace } from '../form';
import { planeDrawn, planeUnder } from './worth-planes';

const [place] = glazedPlaces(house(null), 'a', NONE).flatMap(({ places }) => places);
const { face, box } = place!;

/** A drawn plane before the window: from a line so far over its head and off the face, so far outwards, lower by a tilt. */
function drawn(aboveM: number, offM: number, tiltDeg: number, outM: number, turned = false) {
  const [sin, cos] = [Math.sin(tiltDeg * RAD), Math.cos(tiltDeg * RAD)];
  const origin: [number, number, number] = [...onFace(face, [box.u0 - 0.5, box.v1 + aboveM], -offM)];
  const out = [0, 1, 2].map((k) => face.normal[k]! * cos - face.v[k]! * sin) as [number, number, number];
  const along = [...face.u] as [number, number, number];
  const wide = box.u1 - box.u0 + 1;
  const outline: [number, number][] = turned
    ? [
        [0, 0],
        [outM, 0],
        [outM, wide],
        [0, wide],
      ]
    : [
        [0, 0],
        [wide, 0],
        [wide, outM],
        [0, outM],
      ];
  return turned ? { origin, u: out, v: along, outline } : { origin, u: along, v: out, outline };
}

test('a plane that was drawn is found as it stands before the window, whichever way it was drawn', () => {
  for (const [aboveM, offM, tiltDeg] of [
    [0.2, 0, 0],
    [0.3, 0.5, 35],
    [0.4, 0.8, 90],
    [0.1, 0.2, -20],
  ] as const)
    for (const turned of [false, true]) {
      const found = planeDrawn(drawn(aboveM, offM, tiltDeg, 1.4, turned), place!);
      expect(found).toEqual({ aboveM, offM, tiltDeg, sideM: 0.5, outM: 1.4, cellM: 0.1 });
    }
});

test('a plane across the facade, one behind it, and one that reaches too far are none', () => {
  const across = drawn(0.2, 0, 0, 1);
  expect(
    planeDrawn({ ...across, u: face.normal as [number, number, number], v: [0, 0, 1] }, place!),
  ).toBeNull();
  expect(planeDrawn(drawn(0.2, -1, 0, 0.5), place!)).toBeNull();
  expect(planeDrawn(drawn(0.2, 0, 0, 25), place!)).toBeNull();
});

test('the underside of what hangs over a window is such a plane', () => {
  expect(planeUnder({ ...OVERHANG, tiltDeg: 10 })).toMatchObject({
    aboveM: 0.1,
    tiltDeg: 10,
    outM: 0.6,
    sideM: 30,
  });
  expect(planeUnder({ kind: 'reveal', depthM: 0.2, thicknessM: 0.05 })).toBeNull();
});
