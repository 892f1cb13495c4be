import { usedIds } from '../../document';
import { InputError } from '../../errors';
import { flatParts, meshFace, targetOfFace } from '../../form';
import { type Mesh, type Point2, ringProblem } from '../../geometry';
import { openingsIn } from '../../openings';
import { type Area, type Becomes, type Model, type Project, TODAY } from '../../project';
import { standingProblems } from '../../scene';
import { type SpaceOutline, spacesIntoMasses } from './import-spaces';
import { meshHash } from '../mesh-bytes';
import { weldMesh } from '../mesh-gather';
import { type HeightChoices, outlineHeights } from '../heights/heights-taken';
import {
  addTarget,
  cleanRing,
  idFor,
  type Importing,
  type ImportOutcome,
  inOption,
  notingPart,
  round,
} from './importing';
import { remember, type RememberChoices } from './again/remember';
import { outlineParts } from './again/source-of';
import { bringOutline, type OutlineWays } from './import-outlines';
import { counted, type ModelFile, type ModelFootprint } from '../model-file';
import {
  groupMesh,
  likelyFor,
  type ModelRow,
  modelRows,
  outlineRow,
  rowMesh,
  rowThings,
} from '../model-rows';
import { levelOutline, terrainPoints } from '../model-surfaces';
import { metresOf, modelInMetres } from '../model-units';
import { type PlaceChoices, type Placing, placing } from './placing';
import { bringThing, pointsOfMesh } from './things';
import { siteTaken, type ZoneAt, zoneTaken } from './take-site';

/** What was decided about a model file. */
export interface ImportChoices extends PlaceChoices, HeightChoices, RememberChoices {
  /** What each row becomes, by its key; rows that are not named become what they most likely are. */
  becomes: Readonly<Record<string, Becomes>>;
  /** The option that takes what becomes part of one. */
  optionId: string;
  /** Whether rings within outlines are courts; else they are outlines of their own. Left out: they are. */
  courts?: boolean;
  /** Outlines that are left out whatever their row becomes, by their place among the outlines of the file. */
  leftOut?: readonly number[];
  /** Take place, elevation and true north over from the file where it states them. */
  takeSite: boolean;
  /** Name for a part that has none of its own. */
  name: string;
  /** Draw ids at random, for a page that may not be the only one at work; else they come from the names. */
  randomIds?: boolean;
}

/**
 * Brings a model file into a project by what was decided. Throws InputError when nothing would come in.
 * @param zoneAt gives the project the time zone of a place that it takes from the file
 */
export function importModel(
  project: Project,
  model: ModelFile,
  choices: ImportChoices,
  zoneAt?: ZoneAt,
): ImportOutcome {
  const into: Importing = {
    project,
    meshes: new Map(),
    ids: [],
    notes: [],
    randomIds: choices.randomIds ?? false,
    taken: new Set(usedIds(project)),
    terrain: { names: [], corners: [] },
    changed: [],
    parts: [],
    leftOut: new Set(),
  };
  if (choices.takeSite) into.project = siteTaken(project, model);
  const placed = placing(into.project, model, choices);
  if (placed.site !== into.project.site) into.project = { ...into.project, site: placed.site };
  into.notes.push(...placed.notes);
  if (zoneAt) {
    const zoned = zoneTaken(into.project, project.site.place, zoneAt);
    into.project = zoned.project;
    into.notes.push(...zoned.notes);
  }
  const [before, said] = [into.project, into.notes.length];
  const heights = outlineHeights(model, choices);
  const ways: OutlineWays = { ...choices, place: placed.place, heights, isChosen: choices.heights !== null };
  const nameOf = outlineParts(model);
  const left = new Set((choices.leftOut ?? []).map((i) => model.footprints[i]!));
  const source = into.project.sources.find(({ id }) => id === choices.again) ?? null;
  for (const { row, becomes } of decidedRows(model, choices)) {
    if (becomes === 'leave') continue;
    if (row.kind === 'mesh') bringMesh(into, model, row, becomes, choices, placed.place);
    else if (row.kind === 'outline')
      for (const footprint of model.footprints) {
        if (outlineRow(footprint, choices.outlinesBy) !== row.key) continue;
        const from = into.parts.length;
        const isOut = left.has(footprint);
        if (isOut && (!choices.file || becomes === 'boundary')) continue;
        notingPart(into, nameOf(footprint), () => bringOutline(into, model, footprint, becomes, ways));
        if (isOut) for (const { owner } of into.parts.slice(from)) into.leftOut.add(owner);
      }
    else if (row.kind === 'spot') bringSpots(into, model, row, choices, placed.place);
    else if (becomes === 'rooms' && source) into.notes.push(ROOMS_STAY);
    else bringRooms(into, model, becomes, choices, placed.place);
  }
  into.notes.push(...heightsInWords(model, choices));
  if (into.changed.length > 0 && !ways.isChosen)
    into.notes.push(
      `${counted(into.changed.length, 'building has', 'buildings have')} not the height, or the corners, of the storeys and roof that the file says; ${into.changed.length === 1 ? 'it is' : 'they are'} taken with equal storeys and a flat roof: ${into.changed
        .slice(0, TOLD)
        .map((name) => `“${name}”`)
        .join(', ')}.`,
    );
  bringTerrain(into);
  const isNothing = into.ids.every((id) => into.leftOut.has(id)) && into.project.site === before.site;
  if (isNothing && !source)
    throw new InputError('nothing', into.notes[said] ?? 'Nothing was chosen to be brought in.');
  const decided = new Map(decidedRows(model, choices).map(({ row, becomes }) => [row.key, becomes]));
  const known = { before: project, source, decided, pinned: placed.pinned ?? null };
  const difference = remember(into, model, choices, known);
  into.notes.push(...standingInWords(into, choices.optionId));
  const { meshes, ids, notes } = into;
  return { project: into.project, meshes, ids, notes, ...(difference && { difference }) };
}

const ROOMS_STAY =
  'Rooms stay as they were brought in before; to have those of the file, take them out and bring it in beside.';

/** Bodies told one by one. */
const TOLD = 5;

/** Which of what was brought in floats in the air, or lies under the ground. */
function standingInWords({ project, meshes, ids }: Importing, optionId: string): string[] {
  if (!project.options.some(({ id }) => id === optionId)) return [];
  const fresh = new Set(ids);
  const { all } = openingsIn(project, optionId, meshes);
  const found = standingProblems(all, project.site.ground, meshes).filter(({ owner }) => fresh.has(owner.id));
  const more = found.length - TOLD;
  return [
    ...found.slice(0, TOLD).map(({ sentence }) => sentence),
    ...(more > 0 ? [`${counted(more, 'more stands', 'more stand')} so; “check” tells all.`] : []),
  ];
}

/** The parts of a file with what each becomes. */
function decidedRows(model: ModelFile, { becomes, outlinesBy }: ImportChoices) {
  return modelRows(model, outlinesBy).map((row) => ({
    row,
    becomes: becomes[row.key] ?? likelyFor(row, becomes),
  }));
}

/** The outlines of a part that are wanted. */
function outlinesOf(model: ModelFile, key: string, { outlinesBy, leftOut }: ImportChoices): ModelFootprint[] {
  return model.footprints.filter(
    (footprint, i) => outlineRow(footprint, outlinesBy) === key && !leftOut?.includes(i),
  );
}

/** How high the outlines that become buildings are taken, and from what, in sentences. */
export function heightsInWords(model: ModelFile, choices: ImportChoices): string[] {
  const buildings = decidedRows(model, choices).flatMap(({ row, becomes }) =>
    row.kind === 'outline' && ['neighbour', 'today', 'option'].includes(becomes)
      ? outlinesOf(model, row.key, choices).filter(({ thing }) => !thing || thing.kind === 'building')
      : [],
  );
  return outlineHeights(model, choices).inWords(buildings);
}

function bringMesh(
  into: Importing,
  model: ModelFile,
  row: ModelRow,
  becomes: Becomes,
  choices: ImportChoices,
  place: Placing['place'],
): void {
  const placed = (mesh: Mesh): Mesh => {
    const part = weldMesh(modelInMetres(mesh, choices.unit, choices.up));
    const { positions } = part;
    for (let i = 0; i < positions.length; i += 3)
      positions.set(place([positions[i]!, positions[i + 1]!, positions[i + 2]!]), i);
    return part;
  };
  const taken = new Set<number>();
  if (becomes === 'neighbour')
    for (const { group, index } of rowThings(model, row.key)) {
      const points = pointsOfMesh(group.thing, placed(groupMesh(model, index)));
      if (!points) continue;
      notingPart(into, `name:${group.name}`, () => {
        if (bringThing(into, group.name, group.thing, points)) taken.add(index);
      });
    }
  const rest = rowMesh(model, row.key, taken);
  if (!rest) return;
  notingPart(into, `name:${row.name}`, () => bringRest(into, row, becomes, choices, placed(rest)));
}

/** Triangles that say nothing of themselves, placed. */
function bringRest(
  into: Importing,
  row: ModelRow,
  becomes: Becomes,
  choices: ImportChoices,
  part: Mesh,
): void {
  const name = row.name === 'Everything' || row.name === 'Model' ? choices.name : row.name;
  if (becomes === 'terrain') {
    into.terrain.names.push(name);
    for (const v of part.positions) into.terrain.corners.push(v);
    return;
  }
  if (becomes === 'target') {
    bringTarget(into, name, part);
    return;
  }
  const hash = meshHash(part);
  into.meshes.set(hash, part);
  const id = idFor(into, name);
  const mesh: Model = {
    id,
    name,
    mesh: hash,
    triangles: part.triangles.length / 3,
    move: [0, 0, 0],
    turnDeg: 0,
    openness: /^kind:glass(\/|$)/.test(row.key) ? 0.7 : 0,
    openings: [],
    demolished: false,
  };
  into.ids.push(id);
  if (becomes === 'neighbour')
    into.project = { ...into.project, neighbours: [...into.project.neighbours, { kind: 'mesh', ...mesh }] };
  else {
    const optionId = becomes === 'today' ? TODAY : choices.optionId;
    into.project = inOption(into.project, optionId, (option) => ({
      ...option,
      models: [...option.models, becomes === 'device' ? { ...mesh, device: true } : mesh],
    }));
  }
}

/** Heights are corners of the terrain. */
function bringSpots(
  into: Importing,
  model: ModelFile,
  row: ModelRow,
  choices: ImportChoices,
  place: Placing['place'],
): void {
  const k = model.geographic ? 1 : metresOf(choices.unit);
  into.terrain.names.push(row.name === 'Heights' ? choices.name : row.name);
  for (const { name, positions } of model.spots) {
    if (`spots:${name}` !== row.key) continue;
    for (let i = 0; i < positions.length; i += 3)
      into.terrain.corners.push(...place([positions[i]! * k, positions[i + 1]! * k, positions[i + 2]! * k]));
  }
}

/** A terrain reaches no further than this, metres, and no height on earth is more. */
const MAX_TERRAIN_M = 50_000;
const MAX_HEIGHT_M = 9000;

/** Throws InputError `heights` for heights that cannot be in metres. */
function requireTerrain(corners: readonly number[]): void {
  for (let i = 0; i < corners.length; i++) {
    const value = Math.abs(corners[i]!);
    if (i % 3 === 2 && value > MAX_HEIGHT_M)
      throw new InputError(
        'heights',
        `A height of ${Math.round(value).toLocaleString('en')} m is none on this earth; is the file in metres?`,
      );
    if (i % 3 < 2 && value > MAX_TERRAIN_M)
      throw new InputError(
        'heights',
        `The terrain reaches ${Math.round(value / 1000).toLocaleString('en')} km from the origin of the project; leave out what is far from the site.`,
      );
  }
}

/** All parts that become the terrain make one ground, in place of the one that was there. */
function bringTerrain(into: Importing): void {
  const { names, corners } = into.terrain;
  if (names.length === 0) return;
  requireTerrain(corners);
  const points = terrainPoints(Float64Array.from(corners), into.notes);
  const was = into.project.site.ground.kind === 'terrain' ? ', in place of the terrain that was there' : '';
  into.notes.push(
    `The ground follows ${points.length.toLocaleString('en')} spot heights of ${names
      .slice(0, 5)
      .map((name) => `“${name}”`)
      .join(', ')}${was}.`,
  );
  into.project = { ...into.project, site: { ...into.project.site, ground: { kind: 'terrain', points } } };
}

/** A flat part becomes a target with its outline: at its level when it lies level, else in its plane. */
function bringTarget(into: Importing, name: string, mesh: Mesh): void {
  const outline = levelOutline(mesh);
  if (outline) {
    addTarget(into, name, outline.ring, outline.levelM);
    return;
  }
  const [part, ...others] = flatParts(mesh, 0.01);
  const face =
    part && others.length === 0 ? meshFace({ move: [0, 0, 0], turnDeg: 0 }, mesh, part.number) : null;
  if (!face || part!.triangles.length * 3 < mesh.triangles.length) {
    into.notes.push(`“${name}” is not one flat surface; it cannot become a target.`);
    return;
  }
  const id = idFor(into, name);
  into.ids.push(id);
  into.project = {
    ...into.project,
    targets: [...into.project.targets, targetOfFace(face, id, name, null)],
  };
}

function bringRooms(
  into: Importing,
  model: ModelFile,
  becomes: Becomes,
  choices: ImportChoices,
  place: Placing['place'],
): void {
  const k = metresOf(choices.unit);
  const spaces = model.rooms.flatMap(({ name, outline, holes = [], level }): SpaceOutline[] => {
    const at = (x: number, y: number) => place([x * k, y * k, level * k]);
    const ringOf = (ring: readonly Point2[]) =>
      cleanRing(
        ring.map(([x, y]): Point2 => {
          const [px, py] = at(x, y);
          return [round(px), round(py)];
        }),
      ).map(([x, y]): [number, number] => [x, y]);
    const ring = ringOf(outline);
    if (ringProblem(ring)) return [];
    const within = holes.map(ringOf).filter((hole) => !ringProblem(hole));
    return [{ name, outline: ring, holes: within, levelM: at(0, 0)[2] }];
  });
  const rest = becomes === 'rooms' ? intoMasses(into, spaces, choices.optionId) : spaces;
  const holed = rest.filter(({ holes }) => holes.length > 0).length;
  if (holed > 0)
    into.notes.push(
      `${holed} ${holed === 1 ? 'room has' : 'rooms have'} columns or courts within; ${becomes === 'target' ? 'targets' : 'areas'} have none, so they are filled.`,
    );
  for (const { name, outline, levelM } of rest)
    if (becomes === 'target') notingPart(into, `name:${name}`, () => addTarget(into, name, outline, levelM));
    else {
      const id = idFor(into, name);
      const area: Area = { id, name, use: 'room', outline, on: { kind: 'level', levelM } };
      notingPart(into, `name:${name}`, () => into.ids.push(id));
      into.project = { ...into.project, areas: [...into.project.areas, area] };
    }
}

/** Puts rooms into the masses of an option that they lie in; gives those that lie in none. */
function intoMasses(into: Importing, spaces: SpaceOutline[], optionId: string): SpaceOutline[] {
  const { project, ids, rest } = spacesIntoMasses(into.project, spaces, optionId, into.randomIds);
  into.project = project;
  into.ids.push(...ids);
  for (const id of ids) into.taken.add(id);
  if (rest.length === 1)
    into.notes.push(`“${rest[0]!.name}” lies in no mass of the option; it became an area.`);
  else if (rest.length)
    into.notes.push(`${rest.length} rooms lie in no mass of the option; they became areas.`);
  return rest;
}
