import { InputError } from '../../errors';
import { type Point3, signedArea } from '../../geometry';
import { MAX_FOOTPRINTS } from '../geojson';
import { MeshGather } from '../mesh-gather';
import { blankModel, checkSize, cleanName, freshName, type ModelFile } from '../model-file';
import {
  isLikelyOutlineUnit,
  likelyOutlineUnit,
  metresOf,
  MODEL_UNITS,
  type ModelUnit,
} from '../model-units';
import { expandDrawing, type Expanded } from './dxf-blocks';
import { type Drawing, readDrawing } from './dxf-entities';
import { type DrawnRing, joinPaths, nestRings, type OpenPath, ringIn } from './dxf-rings';
import { dxfText } from './dxf-text';

/** Units of the header variable $INSUNITS that this program has; others by their length in metres. */
const UNITS: Readonly<Record<number, ModelUnit>> = {
  ...{ 1: 'in', 2: 'ft', 3: 'mi', 4: 'mm', 5: 'cm', 6: 'm', 7: 'km', 10: 'yd', 14: 'dm', 21: 'us-ft' },
};
const OTHER_UNITS: Readonly<Record<number, readonly [string, number]>> = {
  8: ['microinches', 2.54e-8],
  9: ['mils', 2.54e-5],
  11: ['ångströms', 1e-10],
  12: ['nanometres', 1e-9],
  13: ['microns', 1e-6],
  15: ['decametres', 10],
  16: ['hectometres', 100],
  17: ['gigametres', 1e9],
  18: ['astronomical units', 1.495978707e11],
  19: ['light years', 9.4607304725808e15],
  20: ['parsecs', 3.085677581491367e16],
  22: ['US survey inches', 100 / 3937],
  23: ['US survey yards', 3600 / 3937],
  24: ['US survey miles', 6336000 / 3937],
};

/** How far apart ends of lines may lie to be one, metres, where nobody says otherwise. */
export const JOIN_M = 0.005;

/**
 * Reads a DXF text file: closed lines (polylines with arcs, circles, ellipses, splines, boundaries of hatches, and open lines
 * whose ends meet) as outlines by layer, with courts, the level that they lie at and the height that they are drawn with;
 * faces and meshes as surfaces by layer; blocks where they are placed.
 * @param joinM how far apart ends of lines may lie to be one, metres
 * Throws InputError `dxf`, `too-large` or `empty`.
 */
export function readDxf(bytes: Uint8Array, joinM = JOIN_M): ModelFile {
  checkSize(bytes);
  if (bytes.subarray(0, 64).includes(0))
    throw new InputError('dxf', 'This is a binary DXF file; export it as text.');
  const drawing = readDrawing(dxfText(bytes));
  const model = blankModel('dxf');
  model.up = 'z';
  const expanded = expandDrawing(drawing);
  const rings: DrawnRing[] = [];
  const open: OpenPath[] = [];
  for (const { layer, colour, ...shape } of expanded.shapes) {
    if (shape.kind !== 'path') continue;
    const points = withoutRepeats(shape.points);
    const [first, last] = [points[0], points.at(-1)];
    const meets =
      points.length > 3 && first!.every((v, k) => Math.abs(v - last![k]!) <= 1e-9 * Math.max(1, Math.abs(v)));
    if (shape.isClosed || meets) {
      const corners = meets ? points.slice(0, -1) : points;
      if (corners.length > 20_000)
        throw new InputError('dxf', 'An outline has more than 20,000 corners; simplify it.');
      if (corners.length >= 3) rings.push({ ...ringIn(corners), thickness: shape.thickness, layer, colour });
    } else if (points.length >= 2) open.push({ points, layer, colour });
  }
  takeUnit(model, drawing, rings);
  const join = joinM / metresOf(model.unit ?? likelyOutlineUnit(rings.map(({ ring }) => ring)));
  const joined = joinPaths(open, join);
  const flat = [...rings, ...joined.rings].filter(({ ring }) => Math.abs(signedArea(ring)) > 0);
  if (rings.length === 0 && joined.rings.length > 0) takeUnit(model, drawing, joined.rings);
  addOutlines(model, drawing, flat);
  addSurfaces(model, expanded);
  if (model.footprints.length === 0 && !model.mesh)
    throw new InputError(
      'dxf',
      joined.open
        ? `The file holds ${joined.open} open lines but no closed outline; close them before exporting.`
        : `The file holds no closed outlines${unreadInWords(expanded, ' that can be read; not read: ')}.`,
    );
  say(model, drawing, expanded, joined);
  return model;
}

function withoutRepeats(points: readonly Point3[]): Point3[] {
  return points.filter((p, i) => i === 0 || p.some((v, k) => v !== points[i - 1]![k]));
}

/** The unit of the header, unless nothing of the drawing could be a building in it. */
function takeUnit(model: ModelFile, { header }: Drawing, rings: readonly DrawnRing[]): void {
  const code = Number(header.get('$INSUNITS') ?? 0);
  const outlines = rings.map(({ ring }) => ring);
  const other = OTHER_UNITS[code];
  model.unit = UNITS[code] ?? null;
  model.notes = model.notes.filter((note) => !note.startsWith('The drawing is'));
  const named = (unit: ModelUnit) => MODEL_UNITS.find(({ id }) => id === unit)!.name;
  const likely = likelyOutlineUnit(outlines);
  if (other)
    model.notes.push(
      `The drawing is in ${other[0]} by its header; it is taken as ${named(likely)} by its size.`,
    );
  else if (
    model.unit &&
    !isLikelyOutlineUnit(outlines, model.unit) &&
    isLikelyOutlineUnit(outlines, likely)
  ) {
    model.notes.push(
      `The drawing is in ${named(model.unit)} by its header, in which its outlines would be no buildings; by their size it is taken as ${named(likely)}.`,
    );
    model.unit = null;
  } else if (!model.unit)
    model.notes.push(`The drawing is in no stated unit; by its size it is taken as ${named(likely)}.`);
}

/** The largest of some rings, in the order of the drawing: furniture and hatches make thousands of small ones. */
function largest(rings: readonly DrawnRing[], most: number): readonly DrawnRing[] {
  if (rings.length <= most) return rings;
  const areas = new Map(rings.map((one) => [one, Math.abs(signedArea(one.ring))]));
  const least = [...areas.values()].sort((a, b) => b - a)[most]!;
  return rings.filter((one) => areas.get(one)! > least);
}

function addOutlines(model: ModelFile, { layers }: Drawing, all: readonly DrawnRing[]): void {
  const rings = largest(all, MAX_FOOTPRINTS);
  if (rings.length < all.length)
    model.notes.push(
      `The ${(all.length - rings.length).toLocaleString('en')} smallest outlines are left out: at most ${MAX_FOOTPRINTS.toLocaleString('en')} are read. Freeze layers that are not needed, or export fewer.`,
    );
  const taken = new Set<string>();
  const counts = new Map<string, number>();
  for (const { outer, courts } of nestRings(rings)) {
    const { layer, colour, ring, level, thickness } = outer;
    const number = (counts.get(layer) ?? 0) + 1;
    counts.set(layer, number);
    const state = layers.get(layer)?.state ?? null;
    const low = level === null ? null : level + Math.min(0, thickness);
    model.footprints.push({
      name: freshName(cleanName(`${layer} ${number}`, 'Outline'), taken),
      layer,
      outer: ring,
      holes: courts,
      height: thickness !== 0 ? Math.abs(thickness) : null,
      // On the ground, unless it is drawn at a level of its own.
      ...(low !== null && low !== 0 && { level: low }),
      ...(state && { layerState: state }),
      properties: { layer, colour },
    });
  }
}

/** Faces by layer, as surfaces. */
function addSurfaces(model: ModelFile, { shapes }: Expanded): void {
  const byLayer = new Map<string, Point3[][]>();
  for (const shape of shapes)
    if (shape.kind === 'face') byLayer.set(shape.layer, [...(byLayer.get(shape.layer) ?? []), shape.points]);
  if (byLayer.size === 0) return;
  const gather = new MeshGather();
  for (const [layer, faces] of byLayer) {
    gather.group(layer);
    for (const face of faces) gather.polygon(face);
  }
  if (gather.count === 0) return;
  model.mesh = gather.mesh('dxf', 'The file holds no surfaces.');
  model.groups = gather.groups.filter(({ firstTriangle }) => firstTriangle < gather.count);
  if (gather.flat) model.notes.push(`${gather.flat} faces without area are left out.`);
}

function unreadInWords({ unread }: Expanded, before: string): string {
  const kinds = [...unread].sort(([, a], [, b]) => b - a).map(([type, count]) => `${count} ${type}`);
  return kinds.length > 0 ? `${before}${kinds.slice(0, 20).join(', ')}` : '';
}

function say(
  { notes, footprints }: ModelFile,
  { isWhole }: Drawing,
  expanded: Expanded,
  { open, rings }: { open: number; rings: readonly DrawnRing[] },
): void {
  const courts = footprints.reduce((sum, { holes }) => sum + holes.length, 0);
  const hidden = footprints.filter(({ layerState }) => layerState).length;
  const missing = [...expanded.missing];
  const sentences = [
    rings.length > 0 && `${rings.length} outlines are joined from lines whose ends meet.`,
    courts > 0 && `${courts} rings within others of their layer are taken as courts.`,
    hidden > 0 &&
      `${hidden} outlines lie on layers that are frozen or off; they are left out unless they are chosen.`,
    open > 0 && `${open} open lines are left out; only closed outlines can become buildings.`,
    expanded.onPaper > 0 && `${expanded.onPaper} things on sheets of paper space are left out.`,
    missing.length > 0 &&
      `${missing.length} blocks that are placed are not in the file: ${missing.slice(0, 5).join(', ')}.`,
    expanded.tooDeep > 0 &&
      `${expanded.tooDeep} blocks are left out: they are nested too deeply, or there are too many.`,
    expanded.unread.size > 0 && `${unreadInWords(expanded, 'Not read: ')}.`,
    !isWhole && 'The file does not end as it should: it may be cut off. What there is of it is read.',
  ];
  for (const sentence of sentences) if (sentence) notes.push(sentence);
}
