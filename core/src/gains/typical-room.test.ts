import { block, opening, rect } from '../../testing/blocks';
import { addMass } from '../document';
import { emptyProject } from '../project';
import { roomsIn } from '../shade';
import { typicalRooms } from './typical-room';

const NONE = new Map();

/** Storeys of 10 × 8 m, each with a window of its own width to the south, the last with a wider one to the east. */
function rooms(widths: number[], trueNorthDeg = 0) {
  const project = emptyProject('P', 2026);
  project.site.north.trueNorthDeg = trueNorthDeg;
  const storeys = widths.map(() => ({ heightM: 3 }));
  const window = (edge: number, storey: number, width: number) =>
    opening(`${edge}-${storey}`, rect(2, 1, width, 1), { host: { on: 'wall', ring: 0, edge, storey } });
  const mass = {
    ...block('m', 0, 0, 10, 8),
    storeys,
    openings: [...widths.map((width, storey) => window(0, storey, width)), window(1, widths.length - 1, 5)],
  };
  return roomsIn(addMass('a', mass)(project), 'a', NONE);
}

test('of each way that rooms face, the one whose glass over floor is the middle one', () => {
  const found = typicalRooms(rooms([3, 1, 2, 4, 1]), 0);
  // The highest faces east by most of its glass; of four to the south (1, 2, 3, 4) the lesser of the middle two.
  expect(found.map(({ sector, room }) => [sector, room.shape.storey])).toEqual([
    ['east', 4],
    ['south', 2],
  ]);
  // A drawing that is turned by a quarter faces another way.
  expect(typicalRooms(rooms([1, 2, 3, 1], 90), 90).map(({ sector }) => sector)).toHaveLength(2);
  expect(typicalRooms(rooms([1, 2, 3, 1], 90), 90).map(({ sector }) => sector)).not.toContain('south');
});

test('rooms without glass in a wall are of no facade', () => {
  const project = addMass('a', { ...block('m', 0, 0, 10, 8), openings: [] })(emptyProject('P', 2026));
  expect(typicalRooms(roomsIn(project, 'a', NONE), 0)).toEqual([]);
});

test('glass in roofs is of no facade; the share goes by the floor, and of equal sides the first counts', () => {
  const project = emptyProject('P', 2026);
  const lights = (id: string, x: number, width: number, depth: number, glass: number) => ({
    ...block(id, x, 0, width, depth),
    storeys: [{ heightM: 3 }],
    openings: [
      opening(`${id}-w`, rect(1, 1, glass, 1), {
        host: { on: 'wall' as const, ring: 0, edge: 0, storey: 0 },
      }),
    ],
  });
  // By glass over floor 0.0125, 0.05 and 0.1; by glass times floor another would be the middle one.
  const bodies = [lights('hall', 0, 10, 8, 1), lights('nook', 40, 5, 4, 1), lights('room', 60, 8, 5, 4)];
  const made = bodies.reduce((all, mass) => addMass('a', mass)(all), project);
  const [south, ...others] = typicalRooms(roomsIn(made, 'a', NONE), 0);
  expect([south!.sector, south!.room.shape.areaM2, others.length]).toEqual(['south', 20, 0]);

  const lit = {
    ...block('m', 0, 0, 10, 8),
    storeys: [{ heightM: 3 }],
    openings: [opening('roof', rect(1, 1, 2, 2), { host: { on: 'roof' as const, face: 0 } })],
  };
  expect(roomsIn(addMass('a', lit)(project), 'a', NONE)[0]!.openings).toHaveLength(1);
  expect(typicalRooms(roomsIn(addMass('a', lit)(project), 'a', NONE), 0)).toEqual([]);
  const wall = (edge: number, width = 2) =>
    opening(`w${edge}`, rect(1, 1, width, 1), { host: { on: 'wall' as const, ring: 0, edge, storey: 0 } });
  const facing = (...openings: ReturnType<typeof wall>[]) => {
    const corner = { ...lit, openings: [...openings, ...lit.openings] };
    const found = typicalRooms(roomsIn(addMass('a', corner)(project), 'a', NONE), 0);
    return found.map(({ sector }) => sector);
  };
  expect(facing(wall(1), wall(0))).toEqual(['east']);
  expect(facing(wall(1), wall(0, 3))).toEqual(['south']);
});
