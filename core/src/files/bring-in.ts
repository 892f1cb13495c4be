import { InputError } from '../errors';
import { type Point2, type Ring, ringProblem, signedArea } from '../geometry/ring';
import { plainMass } from '../project/defaults';
import { freshId } from '../project/edits';
import {
  type Area,
  type Mass,
  MAX_TERRAIN_POINTS,
  type Model,
  type Project,
  type Target,
  TODAY,
} from '../project/schema';
import type { Mesh } from '../scene/scene';
import { localFrame } from '../site/local-frame';
import { numberIn } from './geojson';
import { meshHash } from './mesh-bytes';
import { meshPart, weldMesh } from './mesh-gather';
import type { ModelFile, ModelFootprint } from './model-file';
import { MODEL_UNITS, type ModelUnit, modelInMetres, type UpAxis } from './model-units';

/** What a part of a model file may become. */
export const BECOMES = [
  'neighbour',
  'today',
  'option',
  'terrain',
  'target',
  'area',
  'boundary',
  'leave',
] as const;
export type Becomes = (typeof BECOMES)[number];

/** Parts of a model that are decided on together. */
export interface ModelRow {
  key: string;
  name: string;
  /** `mesh`: triangles; `outline`: footprints; `room`: rooms. */
  kind: 'mesh' | 'outline' | 'room';
  count: number;
  /** What it most likely is. */
  likely: Becomes;
  /** What it may become. */
  may: Becomes[];
}

/** Groups up to which each is decided on by itself. */
const FEW = 40;

/** The parts of a model on which the user decides: groups by what they are, outlines by layer, rooms. */
export function modelRows(model: ModelFile): ModelRow[] {
  const rows = new Map<string, ModelRow>();
  const note = (row: Omit<ModelRow, 'count'>, count: number) => {
    const known = rows.get(row.key);
    if (known) known.count += count;
    else rows.set(row.key, { ...row, count });
  };
  model.groups.forEach((group, i) => {
    const key = groupKey(model, i);
    const end = model.groups[i + 1]?.firstTriangle ?? model.mesh!.triangles.length / 3;
    const ground = /terrain|tin ?relief|^site$|ground|topo/i.test(`${group.kind ?? ''} ${group.name}`);
    note(
      {
        key,
        name: rowName(model, i),
        kind: 'mesh',
        likely: ground ? 'terrain' : 'neighbour',
        may: ['neighbour', 'today', 'option', 'terrain', 'target', 'leave'],
      },
      end - group.firstTriangle,
    );
  });
  for (const { layer } of model.footprints)
    note(
      {
        key: `outline:${layer}`,
        name: layer,
        kind: 'outline',
        likely: /boundary|plot|parcel/i.test(layer)
          ? 'boundary'
          : /garden|amenity|green/i.test(layer)
            ? 'area'
            : 'neighbour',
        may: ['neighbour', 'today', 'option', 'area', 'target', 'boundary', 'leave'],
      },
      1,
    );
  if (model.rooms.length)
    note(
      { key: 'rooms', name: 'Rooms', kind: 'room', likely: 'leave', may: ['area', 'target', 'leave'] },
      model.rooms.length,
    );
  return [...rows.values()];
}

function byKind(model: ModelFile): boolean {
  return model.groups.length > FEW || model.format === 'ifc';
}

function groupKey(model: ModelFile, i: number): string {
  const { kind } = model.groups[i]!;
  return byKind(model) ? `kind:${kind ?? 'everything'}` : `group:${i}`;
}

function rowName(model: ModelFile, i: number): string {
  const { kind, name } = model.groups[i]!;
  if (!byKind(model)) return name;
  const text = kind ?? 'everything';
  return text[0]!.toUpperCase() + text.slice(1);
}

/** What was decided about a model file. */
export interface BringInChoices {
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
}

/** The project with the model in it, the meshes it now names, and what could not be brought in, one sentence each. */
export interface BroughtIn {
  project: Project;
  meshes: Map<string, Mesh>;
  /** Ids of what is new. */
  ids: string[];
  notes: string[];
}

/** Brings a model file into a project by what was decided. Throws InputError when nothing would come in. */
export function bringIn(project: Project, model: ModelFile, choices: BringInChoices): BroughtIn {
  const into: BroughtIn = { project, meshes: new Map(), ids: [], notes: [] };
  if (choices.takeSite) takeSite(into, model);
  const shift = shiftOf(into.project, model, choices);
  for (const row of modelRows(model)) {
    const becomes = choices.becomes[row.key] ?? row.likely;
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
function planOf(project: Project, model: ModelFile, choices: BringInChoices): (p: Point2) => Point2 {
  if (model.geographic) {
    const frame = localFrame(project.site);
    return (p) => frame.toProject(p);
  }
  const k = metresOf(choices.unit);
  return ([x, y]) => [x * k, y * k];
}

function shiftOf(project: Project, model: ModelFile, choices: BringInChoices): [number, number] {
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

function takeSite(into: BroughtIn, model: ModelFile): void {
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
  into: BroughtIn,
  model: ModelFile,
  row: ModelRow,
  becomes: Becomes,
  choices: BringInChoices,
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
  const hash = meshHash(part);
  into.meshes.set(hash, part);
  const id = freshId(into.project, slug(name));
  const mesh: Model = {
    id,
    name,
    mesh: hash,
    triangles: part.triangles.length / 3,
    move: [0, 0, 0],
    turnDeg: 0,
    openness: row.key === 'kind:glass' ? 0.7 : 0,
    demolished: false,
  };
  into.ids.push(id);
  if (becomes === 'neighbour')
    into.project = { ...into.project, neighbours: [...into.project.neighbours, { kind: 'mesh', ...mesh }] };
  else {
    const optionId = becomes === 'today' ? TODAY : choices.optionId;
    into.project = inOption(into.project, optionId, (option) => ({
      ...option,
      models: [...option.models, mesh],
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

/** All triangles of the groups of a row. */
export function rowMesh(model: ModelFile, key: string): Mesh {
  const mesh = model.mesh!;
  const spans = model.groups.flatMap((group, i) =>
    groupKey(model, i) === key
      ? [[group.firstTriangle, model.groups[i + 1]?.firstTriangle ?? mesh.triangles.length / 3] as const]
      : [],
  );
  const triangles = new Uint32Array(spans.reduce((sum, [from, to]) => sum + (to - from) * 3, 0));
  let at = 0;
  for (const [from, to] of spans) {
    triangles.set(mesh.triangles.subarray(from * 3, to * 3), at);
    at += (to - from) * 3;
  }
  return meshPart({ positions: mesh.positions, triangles }, 0, triangles.length / 3);
}

function slug(name: string): string {
  const plain = name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');
  return plain.slice(0, 40) || 'part';
}

/** Spot heights of a surface: its corners, thinned evenly where there are too many, the highest of each place. */
export function terrainPoints(positions: Float64Array, notes: string[] = []): [number, number, number][] {
  const thin = (cell: number) => {
    const kept = new Map<string, [number, number, number]>();
    for (let i = 0; i < positions.length; i += 3) {
      const [x, y, z] = [positions[i]!, positions[i + 1]!, positions[i + 2]!];
      const key = `${Math.round(x / cell)},${Math.round(y / cell)}`;
      const known = kept.get(key);
      if (!known || z > known[2]) kept.set(key, [x, y, z]);
    }
    return [...kept.values()];
  };
  let cell = 0.01;
  let points = thin(cell);
  const all = points.length;
  if (all > MAX_TERRAIN_POINTS) cell = 0.25;
  while (points.length > MAX_TERRAIN_POINTS) {
    points = thin(cell);
    cell *= 1.3;
  }
  if (points.length < all)
    notes.push(
      `The terrain is thinned from ${all.toLocaleString('en')} to ${points.length.toLocaleString('en')} points.`,
    );
  if (points.length < 3) throw new InputError('terrain', 'The terrain has fewer than three points.');
  return points;
}

/** A flat, level part becomes a target with its outline. */
function bringTarget(into: BroughtIn, name: string, mesh: Mesh): void {
  const outline = levelOutline(mesh);
  if (!outline) {
    into.notes.push(`“${name}” is not one flat level surface; it cannot become a target.`);
    return;
  }
  addTarget(into, name, outline.ring, outline.levelM);
}

function addTarget(into: BroughtIn, name: string, ring: Ring, levelM: number | null): void {
  const area = Math.abs(signedArea(ring));
  const spacingM = [0.25, 0.5, 1, 2, 5, 10].find((s) => area / s / s <= 2500) ?? 20;
  const id = freshId(into.project, slug(name));
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

/** The outer outline of a mesh that lies in one level plane, or null. */
export function levelOutline({ positions: p, triangles }: Mesh): { ring: Point2[]; levelM: number } | null {
  const level = p[2]!;
  for (let i = 2; i < p.length; i += 3) if (Math.abs(p[i]! - level) > 0.01) return null;
  const edges = new Map<string, [number, number]>();
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t]!, triangles[t + 1]!, triangles[t + 2]!];
    const up =
      (p[b * 3]! - p[a * 3]!) * (p[c * 3 + 1]! - p[a * 3 + 1]!) -
      (p[b * 3 + 1]! - p[a * 3 + 1]!) * (p[c * 3]! - p[a * 3]!);
    const around = up > 0 ? [a, b, c] : [a, c, b];
    around.forEach((from, k) => {
      const to = around[(k + 1) % 3]!;
      if (!edges.delete(`${to}>${from}`)) edges.set(`${from}>${to}`, [from, to]);
    });
  }
  const next = new Map(edges.values());
  let best: Point2[] | null = null;
  while (next.size) {
    const start = next.keys().next().value!;
    const loop: Point2[] = [];
    let here: number | undefined = start;
    while (here !== undefined && next.has(here)) {
      loop.push([p[here * 3]!, p[here * 3 + 1]!]);
      const to: number = next.get(here)!;
      next.delete(here);
      here = to;
    }
    if (here === start && (!best || signedArea(loop) > signedArea(best))) best = loop;
  }
  return best && !ringProblem(best) ? { ring: best, levelM: level } : null;
}

function cleanRing(ring: Ring): Point2[] {
  return ring.filter((p, i) => {
    const q = ring[(i + 1) % ring.length]!;
    return Math.hypot(p[0] - q[0], p[1] - q[1]) >= 1e-3;
  });
}

function bringOutline(
  into: BroughtIn,
  model: ModelFile,
  footprint: ModelFootprint,
  becomes: Becomes,
  choices: BringInChoices,
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
  const id = freshId(into.project, slug(name));
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
    ...storeyed(plainMass(id, name, outer, 1), heightM),
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
  into: BroughtIn,
  model: ModelFile,
  becomes: Becomes,
  choices: BringInChoices,
  [dx, dy]: [number, number],
): void {
  const k = metresOf(choices.unit);
  for (const { name, outline, level } of model.rooms) {
    const ring = cleanRing(outline.map(([x, y]): Point2 => [round(x * k + dx), round(y * k + dy)]));
    if (ringProblem(ring)) continue;
    if (becomes === 'target') addTarget(into, name, ring, level * k);
    else {
      const id = freshId(into.project, slug(name));
      const area: Area = {
        id,
        name,
        use: 'room',
        outline: ring.map(([x, y]): [number, number] => [x, y]),
        on: { kind: 'level', levelM: level * k },
      };
      into.ids.push(id);
      into.project = { ...into.project, areas: [...into.project.areas, area] };
    }
  }
}
