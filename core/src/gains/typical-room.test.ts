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
