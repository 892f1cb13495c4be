import {
  deepestSun,
  depthReading,
  InputError,
  momentName,
  nameOfRoom,
  type Room,
  type RoomRow,
  roomRows,
  roomsIn,
  sunInRooms,
  TODAY,
} from '@dial-shade/core';
import { Command } from 'commander';
import { askedMoments, type MomentOptions, withMoments } from './asked-moments';
import { optionId, readProject } from './project-file';

interface Options extends MomentOptions {
  option?: string;
  room?: string;
  deepest?: boolean;
  json?: boolean;
}

/** Keys of the rooms of a name or key. Throws InputError `room`. */
export function roomKeys(rooms: readonly Room[], typed: string): Set<string> {
  const found = rooms.filter(({ key, name }) => key === typed || name.toLowerCase() === typed.toLowerCase());
  if (found.length) return new Set(found.map(({ key }) => key));
  const names = rooms.slice(0, 12).map(({ name, key }) => `“${name}” (${key})`);
  throw new InputError(
    'room',
    `There is no room “${typed}” in this option; ${names.length ? `it has ${names.join(', ')}${rooms.length > 12 ? ' …' : ''}` : 'nothing in it is hollow'}.`,
  );
}

const line = ({ massName, storey, room, floor, walls, furniture, depth }: RoomRow) =>
  `  ${massName}, storey ${storey}, ${room}: floor ${floor.sunlitM2.toFixed(2)} of ${floor.areaM2.toFixed(2)} m²` +
  `, walls ${walls.sunlitM2.toFixed(2)} m²` +
  (furniture.areaM2 ? `, furniture ${furniture.sunlitM2.toFixed(2)} m²` : '') +
  (depth ? `, ${depth.depthM.toFixed(2)} m deep${depth.reachesWall ? ' (to the wall)' : ''}` : '');

/** `rooms`: the sun in rooms at moments, exact, and the deepest over them. */
export function roomsCommand(): Command {
  return withMoments(
    new Command('rooms')
      .description('sunlit floor, walls and furniture of rooms at moments, and how far in the sun reaches')
      .argument('<project>', 'project file'),
  )
    .option('--option <option>', 'letter, name or id of the option; Today when left out')
    .option('--room <room>', 'name or key of a room; all when left out')
    .option('--deepest', 'the deepest sun in each room over the moments, and when')
    .option('--json', 'print JSON')
    .action(async (path: string, options: Options) => {
      const { project, meshes } = await readProject(path);
      const { place, north } = project.site;
      const moments = askedMoments(project, options);
      const id = optionId(project, options.option ?? TODAY);
      const only = options.room ? roomKeys(roomsIn(project, id, meshes), options.room) : null;
      const at = (moment: number) => momentName(moments[moment]!, place.zone);
      if (options.deepest) {
        const rooms = deepestSun(project, id, meshes, moments, only).map(({ room, best, most }) => ({
          ...nameOfRoom(room),
          deepest: best && { moment: at(best.moment), ...depthReading(best.ray, north.trueNorthDeg) },
          most: most && { moment: at(most.moment), sunlitM2: most.litM2 },
        }));
        if (options.json) console.log(JSON.stringify({ option: id, rooms }, null, 1));
        else
          for (const { massName, storey, room, deepest } of rooms)
            console.log(
              `${massName}, storey ${storey}, ${room}: ${deepest ? `${deepest.depthM.toFixed(2)} m, ${deepest.moment}` : 'no sun on the floor'}`,
            );
        return;
      }
      const found = moments.map((atMs, i) => ({
        moment: at(i),
        rooms: roomRows(sunInRooms(project, id, meshes, atMs, { only }), north.trueNorthDeg),
      }));
      if (options.json) console.log(JSON.stringify({ option: id, moments: found }, null, 1));
      else
        for (const { moment, rooms } of found) {
          console.log(moment);
          if (rooms.length === 0) console.log('  no sun, or nothing hollow');
          for (const row of rooms) console.log(line(row));
        }
    });
}
