import { block, opening, rect } from '../../testing/blocks';
import { addMass } from '../document';
import { emptyProject, type Mass, type Project } from '../project';
import { roomsIn } from '../shade';
import { ROOM_PRESETS } from './assumptions';
import { roomEnvelope, zoneOf } from './room-envelope';

const NONE = new Map();
const onWall = { on: 'wall', ring: 0, edge: 0, storey: 0 } as const;

/** A storey of 10 × 8 × 3 m about a court of 2 × 2 m, a window, a door, a rooflight; a shed stands against its east wall. */
function ring(): Mass {
  const mass = block('m', 0, 0, 10, 8, 1);
  mass.footprint.holes = [
    [
      [4, 3],
      [4, 5],
      [6, 5],
      [6, 3],
    ],
  ];
  return {
    ...mass,
    openings: [
      opening('window', rect(2, 1, 2, 1.5), { host: onWall }),
      opening('door', rect(6, 0, 1, 2), { host: onWall, kind: 'door', glazing: null }),
      opening('light', rect(1, 1, 1, 1.4), { host: { on: 'roof', face: 0 }, revealM: 0 }),
    ],
  };
}
const shed = () => block('shed', 10, 2, 3, 4, 1);

const roomOf = (project: Project, option: string, mass = 'm', storey = 0) =>
  roomsIn(project, option, NONE).find((room) => room.mass === mass && room.shape.storey === storey)!;

test('a court, a wall that another body covers, a door, and a light in the roof, by hand', () => {
  const project = addMass('a', ring())(addMass('a', shed())(emptyProject('P', 2026)));
  const found = roomEnvelope(project, 'a', NONE, roomOf(project, 'a'));
  expect(found.glazed.map(({ opening: { id } }) => id).sort()).toEqual(['light', 'window']);
  expect(found.floorM2).toBeCloseTo(80 - 4, 6);
  expect(found.volumeM3).toBeCloseTo(76 * 3, 6);
  expect(found.windowsM2).toBeCloseTo(3 + 1.4, 6);
  // 36 m about it and 8 m about the court, less 4 m of shed; the window is none of it, the door is.
  expect(found.wallsM2).toBeCloseTo((36 + 8 - 4) * 3 - 3, 6);
  expect(found.roofM2).toBeCloseTo(76 - 1.4, 6);
  expect(found.groundM2).toBeCloseTo(76, 6);
  const assumed = { ...ROOM_PRESETS.old, wallU: 1, roofU: 0.5, floorU: 0.25 };
  expect(zoneOf(found, assumed).hOpaque).toBeCloseTo(found.wallsM2 + 74.6 / 2 + 76 / 4, 6);
});

test('what covers a wall only in part leaves the rest of it, whichever way the wall runs', () => {
  const turned = ring();
  const angle = Math.PI / 7;
  const turn = ([x, y]: [number, number]): [number, number] => [
    x * Math.cos(angle) - y * Math.sin(angle),
    x * Math.sin(angle) + y * Math.cos(angle),
  ];
  const low = shed();
  low.storeys = [{ ...low.storeys[0]!, heightM: 2 }];
  for (const mass of [turned, low]) {
    mass.footprint.outer = mass.footprint.outer.map(turn);
    mass.footprint.holes = mass.footprint.holes.map((hole) => hole.map(turn));
  }
  const project = addMass('a', turned)(addMass('a', low)(emptyProject('P', 2026)));
  const { wallsM2 } = roomEnvelope(project, 'a', NONE, roomOf(project, 'a'));
  // 4 m of it are covered up to 2 m.
  expect(wallsM2).toBeCloseTo((36 + 8) * 3 - 4 * 2 - 3, 4);
});

test('of options that have a mass of the same name each has its own', () => {
  const wide = { ...block('m', 0, 0, 20, 8), openings: [opening('o', rect(2, 1, 2, 1.5), { host: onWall })] };
  const narrow = { ...block('m', 0, 0, 10, 8), openings: [opening('o', rect(2, 1, 1, 1), { host: onWall })] };
  const beside = { ...block('n', 30, 0, 5, 5), openings: [opening('o', rect(1, 1, 1, 1), { host: onWall })] };
  const made = emptyProject('P', 2026);
  made.options.push({ ...made.options.find(({ id }) => id === 'a')!, id: 'b', letter: 'B', name: 'Second' });
  const project = addMass('b', wide)(addMass('a', narrow)(addMass('a', beside)(made)));
  const walls = (option: string, mass: string) =>
    roomEnvelope(project, option, NONE, roomOf(project, option, mass)).wallsM2;
  expect(walls('a', 'm')).toBeCloseTo(36 * 3 - 1, 6);
  expect(walls('a', 'n')).toBeCloseTo(20 * 3 - 1, 6);
  expect(walls('b', 'm')).toBeCloseTo(56 * 3 - 3, 6);
});
