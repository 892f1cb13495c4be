import { freeId, newId } from '../document';
import { InputError } from '../errors';
import { defaultSpacing, flatParts, meshFace, targetOfFace } from '../form';
import { type Mesh, type Point2, type Ring, ringProblem, signedArea } from '../geometry';
import {
  type Area,
  defaultMass,
  type Mass,
  MAX_COORDINATE_M,
  type Model,
  type Project,
  type Target,
  TODAY,
} from '../project';
import { localFrame } from '../site';
import { numberIn } from './geojson';
import { type SpaceOutline, spacesIntoMasses } from './import-spaces';
import { meshHash } from './mesh-bytes';
import { weldMesh } from './mesh-gather';
import type { ModelFile, ModelFootprint } from './model-file';
import { type Becomes, likelyFor, type ModelRow, modelRows, rowMesh } from './model-rows';
import { levelOutline, terrainPoints } from './model-surfaces';
import { extentOf, MODEL_UNITS, modelInMetres, type ModelUnit, type UpAxis } from './model-units';

/** What was decided about a model file. */
export interface ImportChoices {
  unit: ModelUnit;
  up: UpAxis;
  /** What each row becomes, by its key; rows that are not named become what they most likely are. */
  becomes: Readonly<Record<string, Becomes>>;
  /** The option that takes what becomes part of one. */
  optionId: string;
  /** The property that holds heights, or null to use what the reader took for it. */
  heightProperty: string | null;
  /** Height of outlines that have none, metres. */
  heightM: number;
  /** Take place, elevation and true north over from the file where it states them. */
  takeSite: boolean;
  /** Name for a part that has none of its own. */
  name: string;
  /** Set the middle of the model at the project origin. */
  centre: boolean;
  /** Draw ids at random, for a page that may not be the only one at work; else they come from the names. */
  randomIds?: boolean;
}

/** The project with the model in it, the meshes it now names, and what could not be brought in, one sentence each. */
export interface ImportOutcome {
  project: Project;
  meshes: Map<string, Mesh>;
  /** Ids of what is new. */
  ids: string[];
  notes: string[];
}

type Importing = ImportOutcome & { randomIds: boolean };

function idFor({ project, randomIds }: Importing, name: string): string {
  return randomIds ? newId(slug(name)) : freeId(project, slug(name));
}

/** Brings a model file into a project by what was decided. Throws InputError when nothing would come in. */
export function importModel(project: Project, model: ModelFile, choices: ImportChoices): ImportOutcome {
  const into: Importing = {
    project,
    meshes: new Map(),
    ids: [],
    notes: [],
    randomIds: choices.randomIds ?? false,
  };
  if (choices.takeSite) takeSite(into, model);
  const shift = shiftOf(into.project, model, choices);
  for (const row of modelRows(model)) {
    const becomes = choices.becomes[row.key] ?? likelyFor(row, choices.becomes);
    if (becomes === 'leave') continue;
    if (row.kind === 'mesh') bringMesh(into, model, row, becomes, choices, shift);
    else if (row.kind === 'outline')
      for (const footprint of model.footprints.filter(({ layer }) => `outline:${layer}` === row.key))
        bringOutline(into, model, footprint, becomes, choices, shift);
    else bringRooms(into, model, becomes, choices, shift);
  }
  if (into.ids.length === 0 && into.project === project)
    throw new InputError('nothing', into.notes[0] ?? 'Nothing was chosen to be brought in.');
  return into;
}

function metresOf(unit: ModelUnit): number {
  return MODEL_UNITS.find((item) => item.id === unit)!.metres;
}

/** Plan coordinates of an outline in the project, before it is centred. */
function planOf(project: Project, model: ModelFile, choices: ImportChoices): (p: Point2) => Point2 {
  if (model.geographic) {
    const frame = localFrame(project.site);
    return (p) => frame.toProject(p);
  }
  const k = metresOf(choices.unit);
  return ([x, y]) => [x * k, y * k];
}

function shiftOf(project: Project, model: ModelFile, choices: ImportChoices): [number, number] {
  if (!choices.centre) return [0, 0];
  const plan = planOf(project, model, choices);
  const points: Point2[] = model.footprints.flatMap(({ outer }) => outer.map(plan));
  if (model.mesh) {
    const { positions } = modelInMetres(model.mesh, choices.unit, choices.up);
    for (let i = 0; i < positions.length; i += 3) points.push([positions[i]!, positions[i + 1]!]);
  }
  const low: [number, number] = [Infinity, Infinity];
  const high: [number, number] = [-Infinity, -Infinity];
  for (const p of points)
    for (const k of [0, 1] as const) {
      low[k] = Math.min(low[k], p[k]);
      high[k] = Math.max(high[k], p[k]);
    }
  return points.length ? [-(low[0] + high[0]) / 2, -(low[1] + high[1]) / 2] : [0, 0];
}

function takeSite(into: Importing, model: ModelFile): void {
  const { site } = into.project;
  const place = model.site && {
    ...site.place,
    latitudeDeg: model.site.latitudeDeg,
    longitudeDeg: model.site.longitudeDeg,
    elevationM: model.site.elevationM ?? site.place.elevationM,
    confirmed: false,
  };
  const north = model.trueNorthDeg === null ? null : { trueNorthDeg: model.trueNorthDeg, confirmed: false };
  if (place || north)
    into.project = {
      ...into.project,
      site: { ...site, ...(place && { place }), ...(north && { north }) },
    };
}

function bringMesh(
  into: Importing,
  model: ModelFile,
  row: ModelRow,
  becomes: Becomes,
  choices: ImportChoices,
  [dx, dy]: [number, number],
): void {
  const part = weldMesh(modelInMetres(rowMesh(model, row.key), choices.unit, choices.up));
  for (let i = 0; i < part.positions.length; i += 3) {
    part.positions[i]! += dx;
    part.positions[i + 1]! += dy;
  }
  if (becomes === 'terrain') {
    into.project = {
      ...into.project,
      site: {
        ...into.project.site,
        ground: { kind: 'terrain', points: terrainPoints(part.positions, into.notes) },
      },
    };
    return;
  }
  const name = row.name === 'Everything' || row.name === 'Model' ? choices.name : row.name;
  if (becomes === 'target') {
    bringTarget(into, name, part);
    return;
  }
  refuseFar(name, part);
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

function inOption(
  project: Project,
  optionId: string,
  change: (option: Project['options'][number]) => Project['options'][number],
): Project {
  return {
    ...project,
    options: project.options.map((option) => (option.id === optionId ? change(option) : option)),
  };
}

function slug(name: string): string {
  const plain = name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');
  return plain.slice(0, 40) || 'part';
}

/** Throws InputError `far` when a mesh lies where no project can hold it, as in the coordinates of a national grid. */
function refuseFar(name: string, { positions }: Mesh): void {
  const { min, max } = extentOf(positions);
  const reach = Math.max(...min.map(Math.abs), ...max.map(Math.abs));
  if (reach <= MAX_COORDINATE_M) return;
  const [x, y] = [0, 1].map((k) => Math.round((min[k]! + max[k]!) / 2).toLocaleString('en'));
  throw new InputError(
    'far',
    `“${name}” lies near (${x}, ${y}) m, more than ${MAX_COORDINATE_M / 1000} km from the project origin, as in the ` +
      'coordinates of a national grid. Set its middle at the origin: --centre, or in the page “Set its middle at the origin”.',
  );
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

function addTarget(into: Importing, name: string, ring: Ring, levelM: number | null): void {
  const spacingM = defaultSpacing(Math.abs(signedArea(ring)));
  const id = idFor(into, name);
  const target: Target = {
    id,
    name,
    kind: 'ground',
    outline: ring.map(([x, y]): [number, number] => [x, y]),
    spacingM,
    offsetM: 0.1,
    ...(levelM !== null && { levelM }),
  };
  into.ids.push(id);
  into.project = { ...into.project, targets: [...into.project.targets, target] };
}

function cleanRing(ring: Ring): Point2[] {
  return ring.filter((p, i) => {
    const q = ring[(i + 1) % ring.length]!;
    return Math.hypot(p[0] - q[0], p[1] - q[1]) >= 1e-3;
  });
}

function bringOutline(
  into: Importing,
  model: ModelFile,
  footprint: ModelFootprint,
  becomes: Becomes,
  choices: ImportChoices,
  [dx, dy]: [number, number],
): void {
  const plan = planOf(into.project, model, choices);
  const place = (ring: Ring) =>
    cleanRing(
      ring.map((p): Point2 => {
        const [x, y] = plan(p);
        return [round(x + dx), round(y + dy)];
      }),
    ).map(([x, y]): [number, number] => [x, y]);
  const outer = place(footprint.outer);
  const { name } = footprint;
  const wrong =
    outer.length > 2000
      ? 'has more than 2000 corners'
      : outer.some((p) => Math.max(Math.abs(p[0]), Math.abs(p[1])) > 50_000)
        ? 'lies more than 50 km from the place'
        : ringProblem(outer);
  if (wrong) {
    into.notes.push(`“${name}” is left out: it ${wrong}.`);
    return;
  }
  if (becomes === 'boundary') {
    into.project = { ...into.project, site: { ...into.project.site, boundary: outer } };
    into.ids.push('boundary');
    return;
  }
  if (becomes === 'target') {
    addTarget(into, name, outer, null);
    return;
  }
  const id = idFor(into, name);
  into.ids.push(id);
  if (becomes === 'area') {
    const area: Area = { id, name, use: 'garden', outline: outer, on: { kind: 'ground' } };
    into.project = { ...into.project, areas: [...into.project.areas, area] };
    return;
  }
  const stated =
    choices.heightProperty === null
      ? footprint.height
      : numberIn(footprint.properties[choices.heightProperty]);
  const unit = model.geographic ? 1 : metresOf(choices.unit);
  const heightM = stated !== null && stated > 0 ? stated * unit : choices.heightM;
  if (heightM < 0.1 || heightM > 1000) {
    into.notes.push(`“${name}” is left out: ${heightM} m is no height of a building.`);
    into.ids.pop();
    return;
  }
  const body = {
    ...storeyed(defaultMass(id, name, outer, 1), heightM),
    footprint: { outer, holes: footprint.holes.map(place).filter((hole) => !ringProblem(hole)) },
  };
  if (becomes === 'neighbour')
    into.project = {
      ...into.project,
      neighbours: [...into.project.neighbours, { kind: 'building', ...body }],
    };
  else
    into.project = inOption(into.project, becomes === 'today' ? TODAY : choices.optionId, (option) => ({
      ...option,
      masses: [...option.masses, body],
    }));
}

/** A mass of equal storeys of about three metres with this height in all. */
function storeyed(mass: Mass, heightM: number): Mass {
  const storeys = Math.max(1, Math.min(200, Math.round(heightM / 3)));
  return { ...mass, storeys: Array.from({ length: storeys }, () => ({ heightM: heightM / storeys })) };
}

function round(metres: number): number {
  return Math.round(metres * 1e4) / 1e4;
}

function bringRooms(
  into: Importing,
  model: ModelFile,
  becomes: Becomes,
  choices: ImportChoices,
  [dx, dy]: [number, number],
): void {
  const k = metresOf(choices.unit);
  const spaces = model.rooms.flatMap(({ name, outline, level }): SpaceOutline[] => {
    const ring = cleanRing(outline.map(([x, y]): Point2 => [round(x * k + dx), round(y * k + dy)]));
    if (ringProblem(ring)) return [];
    return [{ name, outline: ring.map(([x, y]): [number, number] => [x, y]), levelM: level * k }];
  });
  const rest = becomes === 'rooms' ? intoMasses(into, spaces, choices.optionId) : spaces;
  for (const { name, outline, levelM } of rest)
    if (becomes === 'target') addTarget(into, name, outline, levelM);
    else {
      const id = idFor(into, name);
      const area: Area = { id, name, use: 'room', outline, on: { kind: 'level', levelM } };
      into.ids.push(id);
      into.project = { ...into.project, areas: [...into.project.areas, area] };
    }
}

/** Puts rooms into the masses of an option that they lie in; gives those that lie in none. */
function intoMasses(into: Importing, spaces: SpaceOutline[], optionId: string): SpaceOutline[] {
  const { project, ids, rest } = spacesIntoMasses(into.project, spaces, optionId, into.randomIds);
  into.project = project;
  into.ids.push(...ids);
  if (rest.length === 1)
    into.notes.push(`“${rest[0]!.name}” lies in no mass of the option; it became an area.`);
  else if (rest.length)
    into.notes.push(`${rest.length} rooms lie in no mass of the option; they became areas.`);
  return rest;
}
