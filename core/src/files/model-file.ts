import { cutText, decodedText } from '../civil';
import { InputError } from '../errors';
import type { Mesh, Point2 } from '../geometry';
import type { Thing } from '../project';
import type { ModelUnit, UpAxis } from './model-units';

/** Bytes that a model file may have. */
export const MAX_MODEL_BYTES = 200 * 1024 * 1024;

/** An open format that can be read. */
export type ModelFormat =
  | 'obj'
  | 'stl'
  | 'glb'
  | 'geojson'
  | 'cityjson'
  | 'ifc'
  | 'dxf'
  | 'heights'
  | 'geotiff'
  | 'landxml';

/** Triangles of a model that belong together, from `firstTriangle` up to the next group's. */
export interface ModelGroup {
  name: string;
  firstTriangle: number;
  /** What the file says that it is, in words: wall, window, slab, building … */
  kind?: string;
  /** Name of the storey that it belongs to. */
  storey?: string;
  /** What the file says that it is, where this program wrote it. */
  thing?: Exclude<Thing, { kind: 'building' }>;
}

/** An outline that may become a building, an area or a boundary. */
export interface ModelFootprint {
  name: string;
  /** Layer or class in the file. */
  layer: string;
  outer: Point2[];
  holes: Point2[][];
  /** Height above its foot, in the file's units, where the file gives one. */
  height: number | null;
  /** How many storeys it has, where the file says so. */
  storeys?: number | null;
  /** Of its foot above the ground, in the file's units. */
  base?: number | null;
  /** Of its foot in the coordinates of the file, where it does not lie on the ground. */
  level?: number;
  /** Whether its layer is frozen or off in the drawing. */
  layerState?: 'frozen' | 'off';
  /** Whether it is a line round others, as that of a plot is. */
  isRound?: boolean;
  /** What the file says that it is, where this program wrote it. Of a fence or a wall `outer` is its line. */
  thing?: Thing;
  /** Everything else that the file says of it. */
  properties: Record<string, string | number>;
}

/** Heights at points: x, y and z one after another, in the coordinates of the file. */
export interface ModelSpots {
  /** Layer, or what they are. */
  name: string;
  positions: Float64Array;
  /** Too few to be a terrain: marks in a drawing. */
  isFew?: boolean;
}

/** What a model file holds, in its own units and axes. */
export interface ModelFile {
  format: ModelFormat;
  mesh: Mesh | null;
  groups: ModelGroup[];
  footprints: ModelFootprint[];
  /** Heights that may become the terrain. */
  spots: ModelSpots[];
  /** Unit and axis that the format or the file states, or null where it must be asked. */
  unit: ModelUnit | null;
  up: UpAxis | null;
  /** `true` when outlines are in longitude and latitude, degrees. */
  geographic: boolean;
  /** Whether latitude stood first in the file and was put behind; left out where that is no question. */
  latitudeFirst?: boolean;
  /** The map system of its coordinates as the file names it, `EPSG:25832`; null where it says nothing. */
  system: string | null;
  /** What the file says of the site. */
  site: { latitudeDeg: number; longitudeDeg: number; elevationM: number | null } | null;
  trueNorthDeg: number | null;
  /** Rooms of the file, in its own units and axes. */
  rooms: { name: string; storey: string; outline: Point2[]; level: number; holes?: Point2[][] }[];
  /** What was left out or mended, one sentence each. */
  notes: string[];
}

/** Called now and then with the share read; return false to stop. */
export type ReadProgress = (share: number) => boolean | void;

/** A model file with nothing in it yet. */
export function blankModel(format: ModelFormat): ModelFile {
  return {
    format,
    mesh: null,
    groups: [],
    footprints: [],
    spots: [],
    unit: null,
    up: null,
    geographic: false,
    system: null,
    site: null,
    trueNorthDeg: null,
    rooms: [],
    notes: [],
  };
}

/** Throws InputError `too-large` or `empty`. */
export function checkSize(bytes: Uint8Array): void {
  if (bytes.length > MAX_MODEL_BYTES)
    throw new InputError(
      'too-large',
      `The file has ${Math.round(bytes.length / 1048576)} MB; at most ${MAX_MODEL_BYTES / 1048576} MB can be read. Leave out what is far from the site.`,
    );
  if (bytes.length === 0) throw new InputError('empty', 'The file is empty.');
}

/** Text of a file, see `decodedText`; that it is Latin-1 is said. */
export function textOfFile(bytes: Uint8Array, notes: string[]): string {
  const { text, isLatin1 } = decodedText(bytes);
  if (isLatin1) notes.push('The file is not UTF-8; it is read as Latin-1.');
  return text;
}

/**
 * JSON of a file: one value, or a sequence of them (a line each, or each behind a record separator).
 * Throws InputError with the given code when it is none.
 */
export function parseJson(bytes: Uint8Array, code: string, what: string, notes: string[]): unknown[] {
  const text = textOfFile(bytes, notes).trim();
  try {
    if (!text.startsWith('\u001e')) return [JSON.parse(text) as unknown];
  } catch {
    // A sequence, or none at all.
  }
  try {
    const values = text
      .split(text.startsWith('\u001e') ? '\u001e' : /\r\n|\r|\n/)
      .map((part) => part.trim())
      .filter((part) => part !== '')
      .map((part) => JSON.parse(part) as unknown);
    if (values.length > 0) return values;
  } catch {
    // Said below.
  }
  throw new InputError(code, `This is not ${what}: it does not hold sound JSON.`);
}

/** A name out of a file, shortened and without control characters. */
export function cleanName(raw: unknown, fallback: string): string {
  const text = typeof raw === 'string' || typeof raw === 'number' ? String(raw) : '';
  // oxlint-disable-next-line no-control-regex -- names out of files may hold anything
  const plain = text.replace(/[\u0000-\u001f\u007f]+/g, ' ').trim();
  return cutText(plain, 80) || fallback;
}

/** A name that none of the names before has: with a number behind it where needed. */
export function freshName(name: string, taken: Set<string>): string {
  let fresh = name;
  for (let n = 2; taken.has(fresh); n++) fresh = `${cutText(name, 74)} ${n}`;
  taken.add(fresh);
  return fresh;
}

/** A count with what is counted, in the number that it needs: `1 line is`, `2,000 lines are`. */
export const counted = (count: number, one: string, many: string): string =>
  `${count.toLocaleString('en')} ${count === 1 ? one : many}`;

/** That some things are left out, in the number that it needs; nothing where there are none. */
export const leftOut = (count: number, one: string, many: string): string[] =>
  count > 0 ? [`${counted(count, `${one} is`, `${many} are`)} left out.`] : [];
