import {
  contentHash,
  cutText,
  type Difference,
  BECOMES,
  type Becomes,
  type HeightsBy,
  importModel,
  InputError,
  likelyUnitOf,
  MODEL_UNITS,
  modelRows,
  rememberedBecomes,
  type Source,
  sourceOf,
  type ModelUnit,
  type ModelFile,
  type ModelRow,
  TODAY,
  type UpAxis,
} from '@dial-shade/core';
import { Command } from 'commander';
import tzLookup from 'tz-lookup';
import { readFile } from 'node:fs/promises';
import { basename } from 'node:path';
import { readModel, sizeInWords } from './model-command';
import { checkedText, optionId, readProject, writeOut } from './project-file';

interface Options {
  out: string;
  as?: string;
  part: string[];
  option?: string;
  unit?: string;
  up?: string;
  height: string;
  heightProperty?: string;
  storeysProperty?: string;
  roofProperty?: string;
  groundProperty?: string;
  centre?: boolean;
  origin?: string;
  storeyHeight: string;
  join: string;
  courts?: boolean;
  latitudeFirst?: boolean;
  takeSite?: boolean;
  again?: boolean;
  beside?: boolean;
  keepGone?: boolean;
}

/** `bring-in`: a model file into a project. */
export function importCommand(): Command {
  return new Command('bring-in')
    .description('bring a model file into a project')
    .argument('<project>', 'project file')
    .argument('<file>', 'model file')
    .requiredOption('--out <file>', 'project file to write')
    .option('--as <becomes>', `what every part becomes: ${BECOMES.join(', ')}`)
    .option(
      '--part <key=becomes>',
      'what one part becomes, by its key from `model`; may be repeated',
      collect,
      [],
    )
    .option('--option <option>', 'the option that takes what becomes part of one')
    .option(
      '--unit <unit>',
      `${MODEL_UNITS.map(({ id }) => id).join(', ')}; what the file states, else the likely one`,
    )
    .option('--up <axis>', 'z or y; what the file states, else z')
    .option('--height <metres>', 'height of outlines that have none', '6')
    .option('--height-property <name>', 'property that holds heights')
    .option('--storeys-property <name>', 'property that holds numbers of storeys')
    .option('--roof-property <name>', 'property that holds the level of the roof, with --ground-property')
    .option('--ground-property <name>', 'property that holds the level of the ground')
    .option('--centre', 'set the middle of the model at the origin')
    .option('--origin <x,y,z>', 'the point of the file, metres, that becomes the project origin')
    .option('--storey-height <metres>', 'of outlines that say only how many storeys they have', '3')
    .option('--join <metres>', 'how far apart ends of lines of a drawing may lie to be one', '0.005')
    .option('--courts', 'whatever lies within an outline of a drawing is a court of it')
    .option('--no-courts', 'rings within outlines of a drawing are outlines of their own')
    .option('--latitude-first', 'latitude stands before longitude in the file')
    .option('--no-latitude-first', 'longitude stands first, as the standard has it')
    .option(
      '--beside',
      'a file that was brought in before comes in beside what it brought in, not in its place',
    )
    .option('--again', 'takes the place of what it brought in even where nothing of that is in it')
    .option('--keep-gone', 'read again: what the file no longer holds stays')
    .option('--take-site', 'take place and true north over from the file')
    .action(bringIn);
}

/** A number of metres as it is typed. Throws InputError of this code outside the bounds. */
function metres(text: string, code: string, what: string, min: number, max: number): number {
  const value = Number(text);
  if (!(value >= min && value <= max))
    throw new InputError(code, `“${text}” is no ${what} between ${min} and ${max} m.`);
  return value;
}

/** How the file is to be read: its axis up and its unit. Throws InputError `up`, `unit`. */
function frameOf(model: ModelFile, options: Options, before: Source | null): { up: UpAxis; unit: ModelUnit } {
  const up = (options.up ?? model.up ?? before?.up ?? 'z') as UpAxis;
  if (up !== 'z' && up !== 'y') throw new InputError('up', `“${options.up}” is no axis; use z or y.`);
  const unit = (options.unit ?? model.unit ?? before?.unit ?? likelyUnitOf(model, up)) as ModelUnit;
  const units = MODEL_UNITS.map(({ id }) => id);
  if (!units.includes(unit)) throw new InputError('unit', `“${unit}” is no unit; use ${units.join(', ')}.`);
  return { up, unit };
}

/** What each part becomes, by what was asked for; and the parts that cannot become what all are to. */
function becomesOf(model: ModelFile, options: Options) {
  const rows = modelRows(model);
  const becomes: Record<string, Becomes> = {};
  for (const text of options.part) {
    const at = text.lastIndexOf('=');
    becomes[text.slice(0, at)] = known(text.slice(at + 1));
  }
  refuseBecomes(rows, becomes);
  if (options.as === undefined) return { becomes, as: null, others: [] };
  const as = known(options.as);
  const isBuilt = as === 'neighbour' || as === 'today' || as === 'option';
  const able = rows.filter(({ may, isRound }) => may.includes(as) && !(isBuilt && isRound));
  if (able.length === 0) refuseBecomes(rows, { [rows[0]!.key]: as });
  const all = Object.fromEntries(
    able.map(({ key, likely }) => [key, as === 'option' && likely === 'device' ? likely : as]),
  );
  return { becomes: { ...all, ...becomes }, as, others: rows.filter((row) => !able.includes(row)) };
}

async function bringIn(path: string, file: string, options: Options): Promise<void> {
  const { project, meshes, pictures } = await readProject(path);
  const joinM = metres(options.join, 'join', 'distance', 0, 10);
  const { place, survey } = project.site;
  const model = await readModel(file, {
    joinM,
    near: place,
    survey,
    isCourts: options.courts === true,
    latitudeFirst: options.latitudeFirst ?? null,
  });
  const name = basename(file);
  const hash = contentHash(new Uint8Array(await readFile(file)));
  const source = sourceOf(project, model, name, hash);
  const again = options.beside ? null : source;
  const { up, unit } = frameOf(model, options, source);
  const heightM = metres(options.height, 'height', 'height', 0.1, 1000);
  const storeyM = metres(options.storeyHeight, 'height', 'height of a storey', 2, 20);
  const heights = heightsBy(model, options);
  const { becomes, as, others } = becomesOf(model, options);
  const remembered = rememberedBecomes(project, modelRows(model), source);
  const brought = importModel(
    project,
    model,
    {
      unit,
      up,
      becomes: options.as === undefined ? { ...remembered, ...becomes } : becomes,
      file: { name, hash },
      again: again?.id ?? null,
      keepGone: options.keepGone ?? false,
      known: meshes,
      optionId: optionId(project, options.option ?? project.options.find((o) => o.id !== TODAY)?.id ?? TODAY),
      heights,
      heightM,
      storeyM,
      courts: options.courts ?? true,
      takeSite: options.takeSite ?? false,
      name: cutText(basename(file).replace(/\.[a-z]+$/i, ''), 80) || 'Model',
      centre: options.centre ?? false,
      origin: options.origin === undefined ? null : originOf(options.origin),
      pinned: options.centre || options.origin !== undefined ? null : (again?.place ?? null),
    },
    tzLookup,
  );
  if (again && !options.again) refuseAnother(brought.difference, again);
  // What is written can be read again.
  const held = { meshes: new Map([...meshes, ...brought.meshes]), pictures };
  await writeOut(options.out, checkedText({ project: brought.project, ...held }));
  for (const note of [
    ...(again
      ? [
          `“${name}” is read again: “${again.file}” was brought in before (--beside brings it in beside that).`,
        ]
      : source
        ? [`“${source.file}” was brought in before; this comes in beside it.`]
        : []),
    ...(options.as === undefined ? rememberedInWords(modelRows(model), remembered, becomes) : []),
    sizeInWords(model, unit, up, options.unit !== undefined),
    ...others.map(
      ({ name, likely, isRound }) =>
        `“${name}” ${isRound ? 'goes round what becomes' : 'cannot become'} ${as}; it becomes ${likely === 'leave' ? 'nothing' : likely}.`,
    ),
    ...model.notes,
    ...brought.notes,
  ])
    console.log(note);
  const { ids } = brought;
  if (ids.length === 0) return;
  console.log(
    `${ids.length} ${ids.length === 1 ? 'thing' : 'things'} brought in: ${ids.slice(0, 20).join(', ')}`,
  );
}

/** Refuses what bears the name of a file of before and holds nothing of it. Throws InputError `again`. */
function refuseAnother(difference: Difference | undefined, { file }: Source): void {
  if (!difference) return;
  const { same, changed, leftOut, gone } = difference;
  if (same + changed.length + leftOut.length > 0 || gone.length === 0) return;
  throw new InputError(
    'again',
    `“${file}” was brought in before, and none of its ${gone.length} parts is in this file: bring it in beside that (--beside), or in its place (--again).`,
  );
}

/** What rows become because they did before, where it is not what they look like. */
function rememberedInWords(
  rows: readonly ModelRow[],
  remembered: Readonly<Record<string, Becomes>>,
  asked: Readonly<Record<string, Becomes>>,
): string[] {
  return rows.flatMap(({ key, name, likely }) => {
    const became = remembered[key];
    if (became === undefined || became === likely || asked[key] !== undefined) return [];
    return [`“${name}” becomes ${became === 'leave' ? 'nothing' : became}, as it did before.`];
  });
}

/** A point as it is typed, `X,Y,Z` or `X,Y`. Throws InputError `origin`. */
function originOf(text: string): [number, number, number] {
  const numbers = text
    .split(/[,;\s]+/)
    .filter(Boolean)
    .map(Number);
  if ((numbers.length !== 2 && numbers.length !== 3) || !numbers.every(Number.isFinite))
    throw new InputError('origin', `“${text}” is no point; write X,Y,Z in metres.`);
  return [numbers[0]!, numbers[1]!, numbers[2] ?? 0];
}

/** What was asked to say how high outlines are; null: what the reader takes for it. Throws InputError `height-property`. */
function heightsBy(model: ModelFile, options: Options): HeightsBy | null {
  const { heightProperty, storeysProperty, roofProperty, groundProperty } = options;
  for (const name of [heightProperty, storeysProperty, roofProperty, groundProperty])
    refuseProperty(model, name);
  const isByLevels = roofProperty !== undefined || groundProperty !== undefined;
  if ([heightProperty !== undefined, storeysProperty !== undefined, isByLevels].filter(Boolean).length > 1)
    throw new InputError(
      'height-property',
      'Heights come from one of --height-property, --storeys-property, and --roof-property with --ground-property.',
    );
  if (heightProperty !== undefined) return { as: 'height', property: heightProperty };
  if (storeysProperty !== undefined) return { as: 'storeys', property: storeysProperty };
  if (!isByLevels) return null;
  if (roofProperty === undefined || groundProperty === undefined)
    throw new InputError(
      'height-property',
      'A level of the roof needs one of the ground beside it, and the other way round.',
    );
  return { as: 'levels', roof: roofProperty, ground: groundProperty };
}

/** Throws InputError `height-property` with what there is. */
function refuseProperty({ footprints }: ModelFile, wanted: string | undefined): void {
  if (wanted === undefined) return;
  const all = [...new Set(footprints.flatMap(({ properties }) => Object.keys(properties)))];
  if (all.includes(wanted)) return;
  const known = all.length > 0 ? `there are ${all.slice(0, 30).join(', ')}` : 'its outlines have none';
  throw new InputError('height-property', `No outline has a property “${wanted}”; ${known}.`);
}

/** Throws InputError `becomes` for keys that there are not, and for what a row cannot become. */
function refuseBecomes(rows: readonly ModelRow[], becomes: Readonly<Record<string, Becomes>>): void {
  for (const [key, wanted] of Object.entries(becomes)) {
    const row = rows.find((one) => one.key === key);
    if (!row)
      throw new InputError(
        'becomes',
        `The file has no part “${key}”; there are ${rows
          .slice(0, 30)
          .map((one) => one.key)
          .join(', ')}.`,
      );
    if (!row.may.includes(wanted))
      throw new InputError(
        'becomes',
        `“${row.name}” (${key}) cannot become ${wanted}; it may become ${row.may.join(', ')}.`,
      );
  }
}

function collect(value: string, before: string[]): string[] {
  return [...before, value];
}

function known(text: string): Becomes {
  const found = BECOMES.find((becomes) => becomes === text);
  if (!found)
    throw new InputError(
      'becomes',
      `“${text}” is nothing that a part can become; use ${BECOMES.join(', ')}.`,
    );
  return found;
}
