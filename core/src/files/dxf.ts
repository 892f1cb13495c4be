import { InputError } from '../errors';
import type { Point2 } from '../geometry';
import { MAX_FOOTPRINTS } from './geojson';
import { blankModel, checkSize, cleanName, type ModelFile } from './model-file';
import type { ModelUnit } from './model-units';

/** Units that the header variable $INSUNITS may name. */
const UNITS: Record<number, ModelUnit> = { 1: 'in', 2: 'ft', 4: 'mm', 5: 'cm', 6: 'm' };
/** Straight pieces for a full circle. */
const CIRCLE = 32;

interface DxfVertex {
  x: number;
  y: number;
  bulge: number;
}

interface DxfEntity {
  type: string;
  layer: string;
  closed: boolean;
  vertices: DxfVertex[];
  radius: number;
}

/** A line with a group code and the line with its value. */
type Pair = readonly [code: number, value: string];

/**
 * Reads the closed outlines of a DXF text file: closed polylines (with arcs) and circles, one outline each, by layer.
 * Throws InputError `dxf`, `too-large` or `empty`.
 */
export function readDxf(bytes: Uint8Array): ModelFile {
  checkSize(bytes);
  if (bytes.subarray(0, 64).includes(0))
    throw new InputError('dxf', 'This is a binary DXF file; export it as text.');
  const text = new TextDecoder().decode(bytes);
  const pairs = readPairs(text);
  const model = blankModel('dxf');
  const unit = pairs.findIndex(([code, value]) => code === 9 && value === '$INSUNITS');
  model.unit = unit < 0 ? null : (UNITS[Number(pairs[unit + 1]?.[1])] ?? null);
  model.up = 'z';
  let open = 0;
  for (const entity of readEntities(pairs)) {
    const outer = outlineOf(entity);
    if (outer === 'open') open++;
    if (!Array.isArray(outer)) continue;
    if (model.footprints.length >= MAX_FOOTPRINTS)
      throw new InputError(
        'dxf',
        `The file holds more than ${MAX_FOOTPRINTS.toLocaleString('en')} outlines.`,
      );
    const { layer } = entity;
    const number = model.footprints.filter((other) => other.layer === layer).length + 1;
    model.footprints.push({
      name: cleanName(`${layer} ${number}`, 'Outline'),
      layer,
      outer,
      holes: [],
      height: null,
      properties: { layer },
    });
  }
  if (model.footprints.length === 0)
    throw new InputError(
      'dxf',
      open
        ? `The file holds ${open} open lines but no closed outline; close them before exporting.`
        : 'The file holds no closed outlines.',
    );
  if (open) model.notes.push(`${open} open lines are left out; only closed outlines can become buildings.`);
  return model;
}

/** The file as pairs of lines. Throws InputError `dxf` when group codes are not numbers. */
function readPairs(text: string): Pair[] {
  const lines = text.split(/\r\n|\r|\n/);
  const pairs: Pair[] = [];
  for (let i = 0; i + 1 < lines.length; i += 2) {
    const code = lines[i]!.trim();
    if (!/^-?\d{1,4}$/.test(code)) {
      if (pairs.length === 0) throw new InputError('dxf', 'This is not a DXF text file.');
      throw new InputError(
        'dxf',
        `Line ${i + 1}: “${cleanName(code, ' ')}” is no group code; export the file again.`,
      );
    }
    pairs.push([Number(code), lines[i + 1]!.trim()]);
  }
  return pairs;
}

/** The entities of the drawing with what outlines need of them. Corners of old polylines are entities of their own. */
function readEntities(pairs: readonly Pair[]): DxfEntity[] {
  const entities: DxfEntity[] = [];
  let inEntities = false;
  let entity: DxfEntity | null = null;
  let isCorner = false;
  pairs.forEach(([code, value], i) => {
    if (code === 0) {
      isCorner = value === 'VERTEX' && entity?.type === 'POLYLINE';
      if (value === 'ENDSEC') inEntities = false;
      if (isCorner) entity!.vertices.push({ x: NaN, y: NaN, bulge: 0 });
      else if (value !== 'SEQEND') {
        entity = { type: value, layer: '0', closed: false, vertices: [], radius: 0 };
        if (inEntities) entities.push(entity);
      }
    } else if (code === 2 && value === 'ENTITIES' && pairs[i - 1]?.[1] === 'SECTION') inEntities = true;
    else if (entity) readField(entity, isCorner, code, value);
  });
  return entities;
}

function readField(entity: DxfEntity, isCorner: boolean, code: number, value: string): void {
  const number = Number(value);
  const last = entity.vertices.at(-1);
  if (code === 8 && !isCorner) entity.layer = cleanName(value, '0');
  else if (code === 70 && !isCorner) entity.closed = (number & 1) === 1;
  else if (code === 40 && entity.type === 'CIRCLE') entity.radius = number;
  else if (code === 10 && isCorner) last!.x = number;
  else if (code === 10 && entity.type !== 'POLYLINE') entity.vertices.push({ x: number, y: NaN, bulge: 0 });
  else if (code === 20 && last) last.y = number;
  else if (code === 42 && last) last.bulge = Number.isFinite(number) ? number : 0;
}

function outlineOf(entity: DxfEntity): Point2[] | 'open' | null {
  if (entity.type === 'CIRCLE') {
    const { radius } = entity;
    const centre = entity.vertices[0];
    if (!centre || !isSound(centre) || !(radius > 0 && radius < 1e9)) return null;
    return Array.from({ length: CIRCLE }, (_, i): Point2 => {
      const a = (i / CIRCLE) * 2 * Math.PI;
      return [centre.x + radius * Math.cos(a), centre.y + radius * Math.sin(a)];
    });
  }
  if (entity.type === 'LINE') return 'open';
  if (entity.type !== 'LWPOLYLINE' && entity.type !== 'POLYLINE') return null;
  const vertices = entity.vertices.filter(isSound);
  if (vertices.length > 20_000)
    throw new InputError('dxf', 'An outline has more than 20,000 corners; simplify it.');
  const [first, last] = [vertices[0], vertices.at(-1)];
  if (!first || !last || vertices.length < 2) return null;
  const meets = vertices.length > 3 && first.x === last.x && first.y === last.y;
  if (!entity.closed && !meets) return 'open';
  const corners = meets ? vertices.slice(0, -1) : vertices;
  const ring = corners.flatMap((v, i) => arcPoints(v, corners[(i + 1) % corners.length]!));
  return ring.length >= 3 ? ring : null;
}

function isSound({ x, y }: { x: number; y: number }): boolean {
  return Math.abs(x) <= 1e9 && Math.abs(y) <= 1e9;
}

/** The start of a stretch and, where it is an arc, points along it. The bulge is the tangent of a quarter of its angle. */
function arcPoints(from: DxfVertex, to: DxfVertex): Point2[] {
  const { bulge } = from;
  const start: Point2 = [from.x, from.y];
  if (!bulge || Math.abs(bulge) > 1e3) return [start];
  const angle = 4 * Math.atan(bulge);
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const pieces = Math.min(64, Math.max(2, Math.ceil((Math.abs(angle) / (2 * Math.PI)) * CIRCLE)));
  // The centre lies on the middle line of the chord, (1 − b²) / 4b of its length to the left of the way there.
  const k = (1 - bulge * bulge) / (4 * bulge);
  const centre: Point2 = [(from.x + to.x) / 2 - dy * k, (from.y + to.y) / 2 + dx * k];
  const [rx, ry] = [from.x - centre[0], from.y - centre[1]];
  return Array.from({ length: pieces }, (_, i): Point2 => {
    const turn = (angle * i) / pieces;
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    return i === 0 ? start : [centre[0] + rx * c - ry * s, centre[1] + rx * s + ry * c];
  });
}
