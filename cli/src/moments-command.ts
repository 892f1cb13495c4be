import {
  assembleScene,
  faceAzimuthDeg,
  findOpenable,
  InputError,
  type MomentSet,
  momentsCsv,
  momentsOf,
  openableFaces,
  ownersOf,
  type Project,
  readMomentsTable,
  type ReadPoint,
  sceneObstacles,
  TODAY,
  csvAs,
  type CsvForm,
} from '@dial-shade/core';
import { csvOption } from './csv-option';
import { Command } from 'commander';
import { ownerNamed } from './named-body';
import { optionId, readProject, writeOut } from './project-file';
import { number } from './typed-options';

interface Options {
  set: string;
  facade?: string;
  option?: string;
  point?: string;
  stick: number;
  csv?: string;
  csvAs: CsvForm;
  json?: boolean;
}

/** The set of this name or id. Throws InputError `set`. */
export function momentSet(sets: readonly MomentSet[], typed: string): MomentSet {
  const found =
    sets.find(({ id }) => id === typed) ??
    sets.find(({ name }) => name.toLowerCase() === typed.toLowerCase());
  if (found) return found;
  const names = sets.map(({ name }) => `“${name}”`).join(', ');
  throw new InputError(
    'set',
    `There is no moment set “${typed}” in the project; ${names ? `it has ${names}` : 'it has none'}.`,
  );
}

/** Azimuth from true north of the wall `OWNER/RING/EDGE`, the same names that openings have. Throws InputError `facade`. */
function facadeAzimuth(project: Project, option: string, typed: string): number {
  const [id, ring, edge] = typed.split('/');
  const owner = ownerNamed(project, option, id!);
  const body = owner && findOpenable(project, owner);
  if (!body || !('footprint' in body))
    throw new InputError('facade', `There is no mass or neighbouring building “${id}” in this option.`);
  const face = openableFaces(body, project.site.ground).find(
    ({ host }) => host.on === 'wall' && host.ring === Number(ring) && host.edge === Number(edge),
  );
  if (!face)
    throw new InputError(
      'facade',
      `“${body.name}” has no wall ${ring}/${edge}; a facade is written OWNER/RING/EDGE, as bar/0/2.`,
    );
  return faceAzimuthDeg(face.normal, project.site.north.trueNorthDeg)!;
}

function pointOf(text: string): [number, number, number] {
  const parts = text.split(',').map(Number);
  if (parts.length !== 3 || !parts.every(Number.isFinite))
    throw new InputError('point', `“${text}” is not a point; write x,y,z in metres, as 4.5,-2,0.1.`);
  return parts as [number, number, number];
}

/** `moments`: sun, shadow angles and shadow lengths at every moment of a set. */
export function momentsCommand(): Command {
  return new Command('moments')
    .description('sun, shadow angles and shadow lengths at the moments of a set')
    .argument('<project>', 'project file')
    .requiredOption('--set <name>', 'name or id of the moment set')
    .option('--facade <wall>', 'OWNER/RING/EDGE of the wall that shadow angles are for')
    .option('--option <option>', 'letter, name or id of the option; Today when left out')
    .option('--point <x,y,z>', 'a point whose sun is read, metres')
    .option('--stick <metres>', 'height of the stick whose shadow is measured', number('The height'), 1)
    .option('--csv <file>', 'write the table as CSV')
    .addOption(csvOption('--csv-as <form>'))
    .option('--json', 'print JSON')
    .action(async (path: string, options: Options) => {
      const { project, meshes } = await readProject(path);
      if (!(options.stick > 0)) throw new InputError('number', 'The stick must be higher than 0 m.');
      const set = momentSet(project.momentSets, options.set);
      const option = optionId(project, options.option ?? TODAY);
      const scene = options.point ? assembleScene(project, option, meshes) : null;
      const point: ReadPoint | null = scene && {
        at: pointOf(options.point!),
        normal: null,
        obstacles: sceneObstacles(scene),
        owners: ownersOf(scene),
      };
      const facadeAzimuthDeg = options.facade ? facadeAzimuth(project, option, options.facade) : null;
      const readings = readMomentsTable(project.site, momentsOf(set, project.site), {
        facadeAzimuthDeg,
        stickM: options.stick,
        point,
      });
      const nameOf = (owner: number) => scene!.owners[owner]!.name;
      if (options.csv) await writeOut(options.csv, csvAs(momentsCsv(readings, nameOf), options.csvAs));
      if (options.json) {
        const moments = readings.map(({ owner, ...reading }) => ({
          ...reading,
          shadedBy: owner === null ? null : nameOf(owner),
        }));
        console.log(
          JSON.stringify(
            { set: set.name, basis: set.basis, facadeAzimuthDeg, stickM: options.stick, moments },
            null,
            1,
          ),
        );
        return;
      }
      for (const r of readings)
        console.log(
          `${r.date} ${r.clock}  solar ${r.solar}  altitude ${r.altitudeDeg.toFixed(2)}°  azimuth ${r.azimuthDeg.toFixed(2)}°` +
            (r.hsaDeg === null ? '' : `  HSA ${r.hsaDeg.toFixed(2)}°`) +
            (r.vsaDeg === null ? '' : `  VSA ${r.vsaDeg.toFixed(2)}°`) +
            (r.shadowM === null ? '' : `  shadow ${r.shadowM.toFixed(2)} m`) +
            (r.sun === null
              ? ''
              : `  sun ${Math.round(r.sun * 100)} %${r.owner === null ? '' : ` (${nameOf(r.owner)})`}`) +
            (r.note ? `  ${r.note}` : ''),
        );
    });
}
