import { block } from '../../testing/blocks';
import type { Point2 } from '../geometry';
import { type RoomOutline, roomsFromOutlines } from './outline-rooms';
import { roomsOf } from './rooms';

const box = (x0: number, y0: number, x1: number, y1: number): Point2[] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
];

function put(rooms: RoomOutline[], body = block('m', 0, 0, 12, 8, 2)) {
  let n = 0;
  return roomsFromOutlines(body, rooms, (stem) => `${stem}-${n++}`);
}

// Outer walls of 30 cm, walls between rooms of 12 cm.
const WEST = { name: 'West', storey: 0, outline: box(0.3, 0.3, 5.94, 7.7) };
const NORTH = { name: 'North', storey: 0, outline: box(6.06, 4.06, 11.7, 7.7) };
const SOUTH = { name: 'South', storey: 0, outline: box(6.06, 0.3, 11.7, 3.94) };

test('rooms outlined by the inner faces of their walls fill the storey without gaps', () => {
  const { body, left } = put([WEST, NORTH, SOUTH]);
  expect(left).toEqual([]);
  const rooms = roomsOf(body).filter(({ storey }) => storey === 0);
  expect(rooms.map(({ name }) => name).sort()).toEqual(['North', 'South', 'West']);
  const area = (name: string) => rooms.find((room) => room.name === name)!.areaM2;
  // The wall stands where the room that came first has its face; all of the 12 × 8 m belongs to a room.
  expect(area('West')).toBeCloseTo(5.94 * 8, 6);
  expect(area('North') + area('South')).toBeCloseTo(6.06 * 8, 6);
  expect(area('North')).toBeCloseTo(6.06 * (8 - 4.06), 6);
  expect(roomsOf(body).filter(({ storey }) => storey === 1)).toHaveLength(1);
});

test('each room knows its facades, the other storey stays whole', () => {
  const { body } = put([WEST, NORTH, SOUTH]);
  const north = roomsOf(body).find(({ name }) => name === 'North')!;
  // East and north walls, whatever their numbers: 3.94 m and 6.06 m.
  expect(north.facades.map(({ lengthM }) => lengthM).sort()).toEqual([
    expect.closeTo(3.94, 6),
    expect.closeTo(6.06, 6),
  ]);
});

test('a room in the middle of a storey is closed by its own partitions', () => {
  const { body } = put([{ name: 'Core', storey: 1, outline: box(4, 3, 8, 5) }]);
  const upper = roomsOf(body).filter(({ storey }) => storey === 1);
  expect(upper.map(({ name, areaM2 }) => [name, Math.round(areaM2)]).sort()).toEqual([
    ['Core', 8],
    ['Room 2.1', 88],
  ]);
});

test('a column within a room is walls round what is not of it, and a court that its middle lies in too', () => {
  const column = box(2, 2, 2.3, 2.3);
  const court = box(3.5, 2, 8.5, 6);
  const { body, left } = put([
    { name: 'Hall', storey: 0, outline: box(0.3, 0.3, 11.7, 7.7), holes: [column, court] },
  ]);
  expect(left).toEqual([]);
  const hall = roomsOf(body).find(({ name }) => name === 'Hall')!;
  expect(hall.areaM2).toBeCloseTo(12 * 8 - 0.09 - 20, 6);
  expect(hall.holes).toHaveLength(2);
  const others = roomsOf(body).filter(({ storey, name }) => storey === 0 && name !== 'Hall');
  expect(others.map(({ areaM2 }) => Number(areaM2.toFixed(2))).sort()).toEqual([0.09, 20]);
});

test('what lies outside, on no storey or has no sound outline is left, by itself even among namesakes', () => {
  const outside = { name: 'Room', storey: 0, outline: box(20, 0, 24, 4) };
  const aloft = { name: 'Room', storey: 7, outline: box(1, 1, 4, 4) };
  const sliver = {
    name: 'Room',
    storey: 0,
    outline: [
      [1, 1],
      [4, 1],
      [2, 1],
    ] as Point2[],
  };
  const sound = { name: 'Room', storey: 0, outline: box(0.3, 0.3, 6, 7.7) };
  const { body, left } = put([outside, aloft, sliver, sound]);
  expect(left).toEqual([outside, aloft, sliver]);
  expect(body.rooms).toHaveLength(1);
});
