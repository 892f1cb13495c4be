import { house, NONE, OVERHANG } from '../../testing/shaded-house';
import { glazedPlaces } from '../devices';
import type { DeviceMake } from '../project';
import { roomsIn } from '../shade';
import { EYE_M, middleOf, roomLight, WORKING_PLANE_M } from './room-light';

function light(make: DeviceMake | null, tau = 1) {
  const project = house(make);
  project.glazings = project.glazings.map((glazing) => ({
    ...glazing,
    visibleTransmittance: tau,
    frameShare: 0,
  }));
  const room = roomsIn(project, 'a', NONE).find(({ openings }) => openings.length > 0)!;
  const places = glazedPlaces(project, 'a', NONE).flatMap((body) => body.places);
  return { room, ...roomLight(project, 'a', NONE, room, places) };
}

/** The sky component of a rectangle of open sky seen upright before a point, by summing it in small steps. */
function component(x0: number, x1: number, z0: number, z1: number, far: number): number {
  const N = 600;
  let sum = 0;
  for (let i = 0; i < N; i++)
    for (let k = 0; k < N; k++) {
      const x = x0 + ((i + 0.5) / N) * (x1 - x0);
      const z = z0 + ((k + 0.5) / N) * (z1 - z0);
      if (z <= 0) continue;
      const r2 = x * x + z * z + far * far;
      const sine = z / Math.sqrt(r2);
      const solid = (far * (((x1 - x0) / N) * ((z1 - z0) / N))) / r2 ** 1.5;
      sum += ((1 + 2 * sine) / 3) * sine * solid;
    }
  return (100 * sum) / ((7 * Math.PI) / 9);
}

test('the sky component in the middle of a room, against its integral over the window, glass clear and tinted', () => {
  const { room, skyPercent, viewLeft } = light(null);
  // The window from 4 to 6 m and 1 to 2 m up, the middle of 10 × 8 m four metres behind it.
  expect(middleOf(room)).toEqual([5, 4]);
  const rise = (v: number) => v - WORKING_PLANE_M;
  const open = component(-1, 1, rise(1), rise(2), 4);
  expect(Math.abs(skyPercent.bare - open)).toBeLessThan(0.005);
  expect(skyPercent.shaded).toBe(skyPercent.bare);
  expect(viewLeft).toBe(1);
  // Nearly square to the glass the pane lets through what it states.
  expect(light(null, 0.5).skyPercent.bare / skyPercent.bare).toBeCloseTo(0.5, 1);
});

test('a long overhang leaves of sky and view what lies under its edge', () => {
  const long: DeviceMake = { ...OVERHANG, sideM: 15, aboveM: 0 };
  const { skyPercent, viewLeft } = light(long);
  // The edge stands 0.6 m out at the head: on the glass it hides what lies above this height, from either height of eye.
  const cut = (eye: number) => eye + ((2 - eye) * 4) / 4.6;
  const under = component(-1, 1, 1 - WORKING_PLANE_M, cut(WORKING_PLANE_M) - WORKING_PLANE_M, 4);
  expect(Math.abs(skyPercent.shaded - under)).toBeLessThan(0.01);
  const solid = (z0: number, z1: number) => {
    let sum = 0;
    for (let i = 0; i < 400; i++)
      for (let k = 0; k < 400; k++) {
        const [x, z] = [-1 + (i + 0.5) / 200, z0 + ((k + 0.5) / 400) * (z1 - z0)];
        sum += (4 * (z1 - z0)) / (x * x + z * z + 16) ** 1.5;
      }
    return sum;
  };
  const expected = solid(1 - EYE_M, cut(EYE_M) - EYE_M) / solid(1 - EYE_M, 2 - EYE_M);
  expect(Math.abs(viewLeft! - expected)).toBeLessThan(0.03);
});
