import type { FlatMesh, IfcAPI } from 'web-ifc';
import { InputError } from '../../errors';
import { contains, type Point2, signedArea } from '../../geometry';
import { isGeographic, mapSystem } from '../../site';
import { MAX_TRIANGLES, tooMany } from '../mesh-bytes';
import { MeshGather } from '../mesh-gather';
import { blankModel, checkSize, cleanName, type ModelFile, type ReadProgress, leftOut } from '../model-file';
import { checkStep } from './step-check';

/** Codes of the entities that are asked for, as the reading library numbers them. */
interface Codes {
  IFCSITE: number;
  IFCSPACE: number;
  IFCOPENINGELEMENT: number;
  IFCRELCONTAINEDINSPATIALSTRUCTURE: number;
  IFCRELAGGREGATES: number;
  IFCBUILDINGSTOREY: number;
  IFCGEOMETRICREPRESENTATIONCONTEXT: number;
  IFCSIUNIT: number;
  IFCCONVERSIONBASEDUNIT: number;
  IFCMAPCONVERSION: number;
}

/** The reading library, started, with its codes. Who calls gives it, since its bytes lie elsewhere in every surrounding. */
export interface IfcReader {
  api: IfcAPI;
  codes: Codes;
}

type Line = Record<string, unknown> & { value?: unknown };

/**
 * Reads an IFC file through web-ifc (metres, z up): the elements of the building, one group an element with its kind and
 * storey; spaces as rooms; latitude, longitude and elevation of the site; true north.
 * Throws InputError `ifc`, `too-large`, `empty` or `too-many-triangles`.
 */
export function readIfc(bytes: Uint8Array, { api, codes }: IfcReader, progress?: ReadProgress): ModelFile {
  checkSize(bytes);
  const head = String.fromCharCode(...bytes.subarray(0, 64));
  if (!head.trimStart().startsWith('ISO-10303-21'))
    throw new InputError('ifc', 'This is not an IFC file: it does not begin with ISO-10303-21.');
  refuseSchema(bytes);
  checkStep(bytes);
  const id = open(bytes, api);
  try {
    return gatherModel(id, api, codes, progress);
  } catch (error) {
    if (error instanceof InputError) throw error;
    throw new InputError(
      'ifc',
      'The IFC file is not sound: its elements cannot be resolved; export it again.',
    );
  } finally {
    if (api.IsModelOpen(id)) api.CloseModel(id);
  }
}

/** Schemas of before and after those that can be read are named. Throws InputError `ifc`. */
function refuseSchema(bytes: Uint8Array): void {
  const head = new TextDecoder('latin1').decode(bytes.subarray(0, 16_384));
  const named = /FILE_SCHEMA\s*\(\s*\(\s*'([^']*)'/i.exec(head)?.[1];
  if (named !== undefined && !/^(IFC2X3|IFC4)/i.test(named))
    throw new InputError(
      'ifc',
      `The file is of schema ${cleanName(named, 'unknown')}; IFC2X3, IFC4 and IFC4X3 can be read. Export it as one of these.`,
    );
}

function open(bytes: Uint8Array, api: IfcAPI): number {
  try {
    const id = api.OpenModel(bytes, { COORDINATE_TO_ORIGIN: false });
    if (id >= 0) return id;
  } catch {
    // Said below.
  }
  throw new InputError('ifc', 'The IFC file is cut off or not sound; export it again.');
}

function gatherModel(id: number, api: IfcAPI, codes: Codes, progress?: ReadProgress): ModelFile {
  const model = blankModel('ifc');
  model.unit = 'm';
  model.up = 'z';
  readSite(id, api, codes, model);
  const storeyOf = storeys(id, api, codes);
  const gather = new MeshGather();
  const spaces: { element: number; points: number[] }[] = [];
  let done = 0;
  const line = (element: number): Line => (api.GetLine(id, element) ?? {}) as Line;
  const take = (flat: FlatMesh): void => {
    if ((done++ & 63) === 0 && progress?.(Math.min(0.95, done / (done + 500))) === false)
      throw new InputError('stopped', 'Reading was stopped.');
    const code = api.GetLineType(id, flat.expressID) as number;
    if (code === codes.IFCOPENINGELEMENT) return;
    const kind = plainKind(api.GetNameFromTypeCode(code));
    const isSpace = code === codes.IFCSPACE;
    const storey = storeyOf.has(flat.expressID) ? { storey: storeyOf.get(flat.expressID)! } : {};
    const name = cleanName(textOf(line(flat.expressID).Name), `${kind} ${flat.expressID}`);
    let glass: boolean | null = null;
    const low: number[] = [];
    for (let g = 0; g < flat.geometries.size(); g++) {
      const placed = flat.geometries.get(g);
      const geometry = api.GetGeometry(id, placed.geometryExpressID);
      const vertices = api.GetVertexArray(geometry.GetVertexData(), geometry.GetVertexDataSize());
      const indices = api.GetIndexArray(geometry.GetIndexData(), geometry.GetIndexDataSize());
      if (indices.length / 3 + gather.count > MAX_TRIANGLES) throw tooMany(gather.count + indices.length / 3);
      const isGlass = placed.color.w < 0.95;
      if (!isSpace && isGlass !== glass) {
        glass = isGlass;
        gather.group(`${name}${isGlass ? ' glass' : ''}`, { kind: isGlass ? 'glass' : kind, ...storey });
      }
      addGeometry(vertices, indices, placed.flatTransformation, isSpace ? null : gather, low);
      geometry.delete();
    }
    if (isSpace) spaces.push({ element: flat.expressID, points: low });
  };
  api.StreamAllMeshes(id, take);
  // Spaces are left out of all meshes; they are asked for by their type.
  api.StreamAllMeshesWithTypes(id, [codes.IFCSPACE], take);
  // A file of spaces only gives rooms.
  if (gather.count > 0 || spaces.length === 0)
    model.mesh = gather.mesh('ifc', 'The IFC file holds no building elements with a shape.');
  model.groups = gather.groups.filter(({ firstTriangle }) => firstTriangle < gather.count);
  model.rooms = spaces.flatMap(({ element, points }) => {
    const [outline, ...holes] = floorOutlines(points);
    const entry = line(element);
    const name = cleanName(textOf(entry.LongName) ?? textOf(entry.Name), 'Room');
    const level = points.reduce((low, v, i) => (i % 3 === 2 ? Math.min(low, v) : low), Infinity);
    if (!outline) return [];
    return [
      { name, storey: storeyOf.get(element) ?? '', outline, level, ...(holes.length > 0 && { holes }) },
    ];
  });
  const missing = spaces.length - model.rooms.length;
  model.notes.push(...leftOut(missing, 'space without a level floor', 'spaces without a level floor'));
  toMap(id, api, codes, model);
  model.notes.push(...leftOut(gather.flat, 'triangle without area', 'triangles without area'));
  return model;
}

/** Triangles in the project's axes: the library gives y up, which is turned back. Six numbers a vertex: place, normal. */
function addGeometry(
  vertices: Float32Array,
  indices: Uint32Array,
  m: readonly number[],
  gather: MeshGather | null,
  points: number[],
): void {
  const place = (i: number): [number, number, number] => {
    const [x, y, z] = [vertices[i * 6]!, vertices[i * 6 + 1]!, vertices[i * 6 + 2]!];
    const at = (row: number) => m[row]! * x + m[row + 4]! * y + m[row + 8]! * z + m[row + 12]!;
    return [round(at(0)), round(-at(2)), round(at(1))];
  };
  if (!gather) {
    for (const i of indices) points.push(...place(i));
    return;
  }
  for (let i = 0; i + 2 < indices.length; i += 3) {
    const corner = (k: number) => gather.corner(place(indices[i + k]!));
    gather.triangle(corner(0), corner(1), corner(2));
  }
}

/** To the hundredth of a millimetre, so that corners that meet are one in spite of single precision. */
function round(metres: number): number {
  return Math.round(metres * 1e5) / 1e5;
}

/** The outlines of the lowest flat face of a space: the largest, and those within it. Nine numbers a triangle. */
function floorOutlines(points: number[]): Point2[][] {
  let low = Infinity;
  for (let i = 2; i < points.length; i += 3) low = Math.min(low, points[i]!);
  const edges = new Map<string, [Point2, Point2]>();
  const key = (p: Point2) => `${p[0]},${p[1]}`;
  for (let t = 0; t < points.length; t += 9) {
    if ([2, 5, 8].some((k) => Math.abs(points[t + k]! - low) > 1e-3)) continue;
    const corners = [0, 3, 6].map((k): Point2 => [points[t + k]!, points[t + k + 1]!]);
    corners.forEach((a, k) => {
      const b = corners[(k + 1) % 3]!;
      if (!edges.delete(`${key(b)}>${key(a)}`)) edges.set(`${key(a)}>${key(b)}`, [a, b]);
    });
  }
  const next = new Map([...edges.values()].map(([a, b]) => [key(a), { a, b }]));
  const rings: Point2[][] = [];
  for (let first = next.values().next().value; first; first = next.values().next().value) {
    const ring: Point2[] = [];
    let here: { a: Point2; b: Point2 } | undefined = first;
    while (here) {
      next.delete(key(here.a));
      ring.push(here.a);
      if (key(here.b) === key(first.a)) {
        if (ring.length >= 3) rings.push(ring);
        break;
      }
      here = next.get(key(here.b));
    }
  }
  const area = (ring: Point2[]) => Math.abs(signedArea(ring));
  const [outer, ...others] = rings.sort((a, b) => area(b) - area(a));
  return outer ? [outer, ...others.filter((ring) => contains(outer, ring[0]!))] : [];
}

/** Metres of the length unit of a file. */
function lengthUnit(id: number, api: IfcAPI, codes: Codes): number {
  const prefixes: Record<string, number> = {
    MILLI: 1e-3,
    CENTI: 1e-2,
    DECI: 0.1,
    KILO: 1e3,
    HECTO: 100,
    DECA: 10,
    MICRO: 1e-6,
  };
  const isLength = (unit: Line) => (unit.UnitType as Line | null)?.value === 'LENGTHUNIT';
  // Where a unit is made of another, as the foot is, that one is gone by.
  for (const element of api.GetLineIDsWithType(id, codes.IFCCONVERSIONBASEDUNIT)) {
    const unit = api.GetLine(id, element, true) as Line;
    if (!isLength(unit)) continue;
    const factor = unit.ConversionFactor as Line | null;
    const value = Number((factor?.ValueComponent as Line | null)?.value);
    const of = factor?.UnitComponent as Line | null;
    const prefix = String((of?.Prefix as Line | null)?.value ?? '');
    if (value > 0) return value * (prefixes[prefix] ?? 1);
  }
  for (const element of api.GetLineIDsWithType(id, codes.IFCSIUNIT)) {
    const unit = api.GetLine(id, element) as Line;
    if (isLength(unit)) return prefixes[String((unit.Prefix as Line | null)?.value ?? '')] ?? 1;
  }
  return 1;
}

/** Moves a model onto the map where the file says how: shift, turn and the system that they are in. */
function toMap(id: number, api: IfcAPI, codes: Codes, model: ModelFile): void {
  const [element] = api.GetLineIDsWithType(id, codes.IFCMAPCONVERSION);
  if (element === undefined) return;
  const map = api.GetLine(id, element, true) as Line;
  const number = (key: string, otherwise: number) => {
    const value = Number((map[key] as Line | null)?.value);
    return map[key] && Number.isFinite(value) ? value : otherwise;
  };
  const [east, north, height] = [
    number('Eastings', 0),
    number('Northings', 0),
    number('OrthogonalHeight', 0),
  ];
  if (east === 0 && north === 0) return;
  const named = textOf((map.TargetCRS as Line | null)?.Name);
  // Where the map is in feet, so are these.
  const known = named === undefined ? null : mapSystem(named);
  const unitM = known && !isGeographic(known) ? known.metres : 1;
  const [x, y] = [number('XAxisAbscissa', 1), number('XAxisOrdinate', 0)];
  const length = Math.hypot(x, y) || 1;
  const [c, s] = [x / length, y / length];
  // Of the map here; what lies far from 1 stands for a unit, and lengths are in metres already.
  const told = number('Scale', 1);
  const scale = Math.abs(told - 1) < 0.01 ? told : 1;
  const place = (px: number, py: number): Point2 => [
    east * unitM + (px * c - py * s) * scale,
    north * unitM + (px * s + py * c) * scale,
  ];
  if (model.mesh) {
    const { positions: p } = model.mesh;
    for (let i = 0; i < p.length; i += 3) {
      [p[i], p[i + 1]] = place(p[i]!, p[i + 1]!) as [number, number];
      p[i + 2]! += height * unitM;
    }
  }
  model.rooms = model.rooms.map((room) => ({
    ...room,
    level: room.level + height * unitM,
    outline: room.outline.map(([px, py]) => place(px, py)),
    ...(room.holes && { holes: room.holes.map((ring) => ring.map(([px, py]) => place(px, py))) }),
  }));
  model.system = named === undefined ? null : cleanName(named, 'unknown');
  // True north of the plan is what the map says now.
  model.trueNorthDeg = null;
  model.notes.push(
    `The file says where it stands on the map${model.system ? ` (${model.system})` : ''}: turned by ${((Math.atan2(s, c) * 180) / Math.PI).toFixed(2)}°, at ${east}, ${north}.`,
  );
}

function plainKind(name: string): string {
  return cleanName(name, 'element')
    .replace(/^IFC/i, '')
    .replace(/STANDARDCASE$|ELEMENTEDCASE$/i, '')
    .toLowerCase();
}

function textOf(value: unknown): string | undefined {
  const inner = (value as Line | null | undefined)?.value;
  return typeof inner === 'string' && inner.trim() ? inner : undefined;
}

function numbersOf(value: unknown): number[] {
  const list: unknown = Array.isArray(value) ? value : (value as Line | null | undefined)?.value;
  if (!Array.isArray(list)) return [];
  return list.map((item) => Number(typeof item === 'object' && item !== null ? (item as Line).value : item));
}

/** Degrees, minutes, seconds and millionths of a second, all of one sign. */
function degreesOf(value: unknown): number | null {
  const [d, m = 0, s = 0, u = 0] = numbersOf(value);
  return d === undefined || !Number.isFinite(d) ? null : d + m / 60 + s / 3600 + u / 3.6e9;
}

function readSite(id: number, api: IfcAPI, codes: Codes, model: ModelFile): void {
  for (const element of api.GetLineIDsWithType(id, codes.IFCSITE)) {
    const site = api.GetLine(id, element) as Line;
    const latitudeDeg = degreesOf(site.RefLatitude);
    const longitudeDeg = degreesOf(site.RefLongitude);
    if (latitudeDeg === null || longitudeDeg === null) continue;
    if (Math.abs(latitudeDeg) > 90 || Math.abs(longitudeDeg) > 180) continue;
    const elevation = Number((site.RefElevation as Line | null)?.value);
    model.site = {
      latitudeDeg,
      longitudeDeg,
      elevationM:
        site.RefElevation && Number.isFinite(elevation) ? elevation * lengthUnit(id, api, codes) : null,
    };
    break;
  }
  for (const element of api.GetLineIDsWithType(id, codes.IFCGEOMETRICREPRESENTATIONCONTEXT)) {
    const context = api.GetLine(id, element, true) as Line;
    const [x, y] = numbersOf((context.TrueNorth as Line | null)?.DirectionRatios);
    // The direction of true north in the model's plan; 0, 1 is drawing north.
    if (x !== undefined && y !== undefined && Math.hypot(x, y) > 1e-9)
      model.trueNorthDeg = Math.round(((Math.atan2(x, y) * 180) / Math.PI) * 1e6) / 1e6;
  }
}

/** The storey of every element and space that the file places in one. */
function storeys(id: number, api: IfcAPI, codes: Codes): Map<number, string> {
  const names = new Map<number, string>();
  for (const element of api.GetLineIDsWithType(id, codes.IFCBUILDINGSTOREY))
    names.set(element, cleanName(textOf((api.GetLine(id, element) as Line).Name), 'Storey'));
  const found = new Map<number, string>();
  const note = (line: Line, whole: string, parts: string) => {
    const storey = names.get(Number((line[whole] as Line | null)?.value));
    const list = line[parts];
    if (storey !== undefined && Array.isArray(list))
      for (const part of list as Line[]) found.set(Number(part?.value), storey);
  };
  for (const element of api.GetLineIDsWithType(id, codes.IFCRELCONTAINEDINSPATIALSTRUCTURE))
    note(api.GetLine(id, element) as Line, 'RelatingStructure', 'RelatedElements');
  for (const element of api.GetLineIDsWithType(id, codes.IFCRELAGGREGATES))
    note(api.GetLine(id, element) as Line, 'RelatingObject', 'RelatedObjects');
  return found;
}
