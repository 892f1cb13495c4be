import { anglesAt, at, house, NONE, OVERHANG } from '../../testing/shaded-house';
import { RAD } from '../civil';
import type { DeviceMake } from '../project';
import { leastSize } from './least-size';
import { type RoomGoal, sizeForRoom } from './room-size';
import { roomsIn } from './room-surfaces';

const LONG = { ...OVERHANG, sideM: 15, aboveM: 0 } as DeviceMake;
const RANGE = { number: 'depthM', from: 0.05, to: 3 };

function sized(moments: number[], goal: RoomGoal) {
  const project = house(LONG);
  const option = project.options.find(({ id }) => id === 'a')!;
  const [mass] = option.masses;
  // A desk a metre behind the window.
  mass!.furniture = [
    {
      id: 'desk',
      name: 'Desk',
      storey: 0,
      at: [5, 1.5],
      widthM: 1.6,
      depthM: 0.8,
      heightM: 0.75,
      turnDeg: 0,
    },
  ];
  const room = roomsIn(project, 'a', NONE).find(({ openings }) => openings.length > 0)!;
  const [device] = option.schemes[0]!.devices;
  return sizeForRoom(project, 'a', NONE, room.key, device!, moments, RANGE, goal);
}

test('no sun deeper than so much: D = head/tan VSA − depth, of the sun that asks most', () => {
  const moments = [at(12, '2026-04-10'), at(12, '2026-05-10')];
  const tan = (ms: number) => Math.tan(anglesAt(ms, house(null)).vsaDeg! * RAD);
  // The head is 2 m over the floor; the later sun stands higher and reaches less deep.
  const found = sized(moments, { by: 'depth', atMostM: 1.2 });
  expect(found.isMet).toBe(true);
  expect(found.bare!.value).toBeCloseTo(2 / tan(moments[0]!), 2);
  expect(found.value).toBeCloseTo(2 / tan(moments[0]!) - 1.2, 2);
  expect(found.worst).toMatchObject({ atMs: moments[0] });
  expect(found.worst!.value).toBeLessThanOrEqual(1.2 + 1e-5);
  expect(found.worst!.value).toBeGreaterThan(1.195);
});

test('no sun on the desk; a low sun comes in under any depth, told as not met', () => {
  const summer = [11, 12, 13].map((hour) => at(hour));
  const desk = sized(summer, { by: 'furniture' });
  expect(desk.isMet).toBe(true);
  expect(desk.bare!.value).toBeGreaterThanOrEqual(desk.worst!.value);
  expect(desk.worst!.value).toBeLessThan(1e-3);
  const low = sized([at(9.2, '2026-12-20')], { by: 'depth', atMostM: 0.1 });
  expect(low.isMet).toBe(false);
  expect(low.moments).toBe(1);
  expect(sized([at(1)], { by: 'depth', atMostM: 1 })).toMatchObject({ moments: 0, worst: null, isMet: true });
});

test('the least size: by halves where more is better, by looking where it is not', () => {
  const asked = { from: 0, to: 10 };
  expect(leastSize(asked, (v) => v, 3.14159)).toEqual({ value: 3.142, isMet: true });
  expect(leastSize(asked, () => 1, 0.5)).toEqual({ value: 0, isMet: true });
  const hump = (v: number) => 1 - Math.abs(v - 4) / 4;
  const found = leastSize(asked, hump, 0.9);
  expect(found.isMet).toBe(true);
  expect(hump(found.value)).toBeGreaterThanOrEqual(0.9 - 1e-9);
  expect(found.value).toBeCloseTo(3.6, 2);
  expect(leastSize(asked, hump, 1.5)).toEqual({ value: expect.closeTo(4, 0), isMet: false });
});
