import {
  InputError,
  momentName,
  type Project,
  type RaysAsked,
  type ReflectingWall,
  roomRays,
  roomsIn,
  type Strip,
  TODAY,
} from '@dial-shade/core';
import { Command } from 'commander';
import { askedMoments, type MomentOptions, withMoments } from './asked-moments';
import { ownerNamed } from './named-body';
import { optionId, readProject } from './project-file';
import { roomKeys } from './rooms-command';
import { number } from './typed-options';

interface Options extends MomentOptions {
  option?: string;
  room: string;
  opening?: string;
  spacing: number;
  bounces: number;
  reflectance: number;
  mirror: number;
  strip?: string;
  wall?: string;
  json?: boolean;
}

/** A strip written `x,y,z,x,y,z,width[,reflectance[,mirror]]`. Throws InputError `strip`. */
function stripOf(text: string): Strip {
  const n = text.split(',').map(Number);
  if (n.length < 7 || n.length > 9 || !n.every(Number.isFinite))
    throw new InputError(
      'strip',
      `“${text}” is not a strip; write its two ends and its width, and if you like reflectance and mirror-like share: x,y,z,x,y,z,width[,0.8[,1]].`,
    );
  return {
    from: [n[0]!, n[1]!, n[2]!],
    to: [n[3]!, n[4]!, n[5]!],
    widthM: n[6]!,
    reflectance: n[7] ?? 0.8,
    mirror: n[8] ?? 1,
  };
}

/**
 * A wall written `OWNER/RING/EDGE/STOREY[,reflectance[,mirror]]`, of the option or of what stands around it.
 * Throws InputError `wall`.
 */
function wallOf(text: string, project: Project, optionId: string): ReflectingWall {
  const [name, ...shares] = text.split(',');
  const [id, ...place] = name!.split('/');
  const [reflectance = 0.5, mirror = 0] = shares.map(Number);
  if (place.length !== 3 || shares.length > 2 || !Number.isFinite(reflectance + mirror))
    throw new InputError(
      'wall',
      `“${text}” is not a wall; write OWNER/RING/EDGE/STOREY and, if you like, reflectance and mirror-like share: bar/0/2/0[,0.5[,0]].`,
    );
  return {
    owner: ownerNamed(project, optionId, id!) ?? { optionId, id: id! },
    face: `wall/${place.join('/')}`,
    reflectance,
    mirror,
  };
}

const percent = (part: number, whole: number) => `${((100 * part) / whole).toFixed(1)} %`;

/** `rays`: where the sun that comes in by openings lands in a room, with reflections. */
export function raysCommand(): Command {
  return withMoments(
    new Command('rays')
      .description('where the sun that enters a room lands, reflection by reflection')
      .argument('<project>', 'project file'),
  )
    .requiredOption('--room <room>', 'name or key of the room')
    .option('--option <option>', 'letter, name or id of the option; Today when left out')
    .option('--opening <id>', 'id of one opening; all of the room when left out')
    .option('--spacing <metres>', 'distance between rays', number('The spacing'), 0.2)
    .option('--bounces <n>', 'reflections that are followed, 0 to 3', number('The reflections'), 2)
    .option('--reflectance <share>', 'of all surfaces, 0 to 1', number('The reflectance'), 0.5)
    .option(
      '--mirror <share>',
      'mirror-like share of what is reflected, 0 to 1',
      number('The mirror-like share'),
      0,
    )
    .option('--strip <strip>', 'a strip to try: x,y,z,x,y,z,width[,reflectance[,mirror]]')
    .option(
      '--wall <wall>',
      'a wall that reflects sun into the room: OWNER/RING/EDGE/STOREY[,reflectance[,mirror]]',
    )
    .option('--json', 'print JSON')
    .action(async (path: string, options: Options) => {
      const { project, meshes } = await readProject(path);
      const id = optionId(project, options.option ?? TODAY);
      const keys = roomKeys(roomsIn(project, id, meshes), options.room);
      if (keys.size > 1)
        throw new InputError(
          'room',
          `There are ${keys.size} rooms “${options.room}”; name one by its key: ${[...keys].join(', ')}.`,
        );
      const asked: RaysAsked = {
        room: [...keys][0]!,
        opening: options.opening ?? null,
        spacingM: options.spacing,
        bounces: options.bounces,
        surfaces: { reflectance: options.reflectance, mirror: options.mirror },
        strip: options.strip === undefined ? null : stripOf(options.strip),
        wall: options.wall === undefined ? null : wallOf(options.wall, project, id),
      };
      const moments = askedMoments(project, options).map((atMs) => {
        const found = roomRays(project, id, meshes, atMs, asked);
        const moment = momentName(atMs, project.site.place.zone);
        if (!found) return { moment, rays: 0, enters: 0, counts: [], leaves: [], unfollowed: 0, misses: 0 };
        const { stretches: _, ...figures } = found;
        return { moment, ...figures };
      });
      if (options.json) {
        console.log(JSON.stringify({ option: id, room: asked.room, moments }, null, 1));
        return;
      }
      for (const { moment, rays, enters, counts, leaves } of moments) {
        console.log(`${moment}  ${rays} rays, ${enters.toFixed(4)} m² of beam enter`);
        if (enters <= 0) continue;
        const line = (name: string, by: readonly number[]) =>
          console.log(`  ${name.padEnd(12)} ${by.map((part) => percent(part, enters).padStart(8)).join('')}`);
        for (const { surface, lands } of counts) if (lands.some((part) => part > 0)) line(surface, lands);
        line('leaves', leaves);
      }
    });
}
