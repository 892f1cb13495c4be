import { InputError } from '../../../errors';
import { longSide, type Point2, type Point3, signedArea } from '../../../geometry';
import { MeshGather } from '../../mesh-gather';
import {
  blankModel,
  checkSize,
  cleanName,
  counted,
  freshName,
  leftOut,
  type ModelFile,
} from '../../model-file';
import { farthestLeftOut, MAX_FOOTPRINTS, median, nearestOf } from '../nearest';
import { canBeIn, likelyOutlineUnit, likelyUnitOf } from '../../likely-unit';
import { metresOf, MODEL_UNITS, type ModelUnit } from '../../model-units';
import { modelRows, outlineRow, SMALL_M } from '../../model-rows';
import { takeContours } from './dxf-contours';
import { type Expanded, expander } from './dxf-blocks';
import { type Drawing, readDrawing } from './dxf-entities';
import {
  type DrawnRing,
  joinPaths,
  type NestedRing,
  nestRings,
  type OpenPath,
  perLayer,
  ringIn,
} from './dxf-rings';
import { dxfText } from './dxf-text';

/** Units of the header variable $INSUNITS. */
const UNITS: Readonly<Record<number, ModelUnit>> = {
  ...{ 1: 'in', 2: 'ft', 3: 'mi', 4: 'mm', 5: 'cm', 6: 'm', 7: 'km', 8: 'uin', 9: 'mil', 10: 'yd', 12: 'nm' },
  ...{ 13: 'um', 14: 'dm', 15: 'dam', 16: 'hm', 21: 'us-ft', 22: 'us-in', 23: 'us-yd', 24: 'us-mi' },
};
/** Others, in which nothing can be a building. */
const OTHER_UNITS: Readonly<Record<number, string>> = {
  ...{ 11: 'ångströms', 17: 'gigametres', 18: 'astronomical units', 19: 'light years', 20: 'parsecs' },
};

/** How far apart ends of lines may lie to be one, metres, where nobody says otherwise. */
export const JOIN_M = 0.005;

/** How a drawing is read. */
export interface DrawingOptions {
  /** How far apart ends of lines may lie to be one, metres. */
  joinM?: number;
  /** Whatever lies in a ring is a court of it, also in what looks like the line of a plot. */
  isCourts?: boolean;
  /** The point of a survey that is the project origin, metres: of too many outlines those nearest to it are read. */
  survey?: { x: number; y: number } | null;
}

/**
 * Reads a DXF text file: closed lines (polylines with arcs, circles, ellipses, splines, boundaries of hatches, and open lines
 * whose ends meet) as outlines by layer, with courts, the level that they lie at and the height that they are drawn with;
 * faces and meshes as surfaces by layer; contour lines and points with heights as heights; blocks where they are placed.
 * Throws InputError `dxf`, `too-large` or `empty`.
 */
export function readDxf(
  bytes: Uint8Array,
  { joinM = JOIN_M, isCourts, survey }: DrawingOptions = {},
): ModelFile {
  checkSize(bytes);
  if (bytes.subarray(0, 64).includes(0))
    throw new InputError('dxf', 'This is a binary DXF file; export it as text.');
  const expand = expander();
  const drawing = readDrawing(dxfText(bytes), expand.take);
  const model = blankModel('dxf');
  model.up = 'z';
  const expanded = expand.done(drawing);
  const rings: DrawnRing[] = [];
  const open: OpenPath[] = [];
  const shapes = takeContours(model, expanded.shapes);
  // Shapes fill the memory: each is let go when it is taken.
  expanded.shapes = [];
  addSurfaces(model, shapes);
  for (const [i, shape] of shapes.entries()) {
    const { layer, colour, type } = shape;
    shapes[i] = NO_SHAPE;
    if (shape.kind !== 'path') continue;
    const points = withoutRepeats(shape.points);
    const [first, last] = [points[0], points.at(-1)];
    const meets =
      points.length > 3 && first!.every((v, k) => Math.abs(v - last![k]!) <= 1e-9 * Math.max(1, Math.abs(v)));
    if (shape.isClosed || meets) {
      const corners = meets ? points.slice(0, -1) : points;
      if (corners.length > 20_000)
        throw new InputError('dxf', 'An outline has more than 20,000 corners; simplify it.');
      if (corners.length >= 3)
        rings.push({
          ...{ ...ringIn(corners), thickness: shape.thickness, layer, colour },
          ...(type === 'HATCH' && { isFilled: true }),
        });
    } else if (points.length >= 2) open.push({ points, layer, colour });
  }
  const drawn =
    rings.length > 0 ? rings.map(({ ring }) => ring) : open.map(({ points }) => ringIn(points).ring);
  const unit = takeUnit(model, drawing, drawn);
  const joined = joinPaths(open, joinM / metresOf(unit));
  const all = [...rings, ...joined.rings];
  const flat = all.filter(hasArea);
  addOutlines(model, drawing, flat, { metres: metresOf(unit), isCourts, survey });
  // With the outlines that came of joining, and without courts, the size is known better.
  takeUnit(
    model,
    drawing,
    model.footprints.map(({ outer }) => outer),
  );
  if (isEmpty(model) && expanded.drawings.size > 0 && joined.open === 0)
    throw new InputError(
      'dxf',
      `The file holds nothing but references to other drawings: ${quoted(expanded.drawings)}. Bind them before exporting, or bring those drawings in.`,
    );
  if (isEmpty(model))
    throw new InputError(
      'dxf',
      joined.open
        ? `The file holds ${joined.open} open lines but no closed outline; close them before exporting.`
        : `The file holds no closed outlines${unreadInWords(expanded, ' that can be read; not read: ')}.`,
    );
  say(model, drawing, expanded, joined, all.length - flat.length);
  return model;
}

const NO_SHAPE: Expanded['shapes'][number] = { kind: 'spot', points: [], layer: '', type: '', colour: 0 };

function withoutRepeats(points: readonly Point3[]): Point3[] {
  const isRepeat = (p: Point3, i: number) => i > 0 && p.every((v, k) => v === points[i - 1]![k]);
  return points.some(isRepeat) ? points.filter((p, i) => !isRepeat(p, i)) : [...points];
}

/** Whether a ring encloses anything beyond rounding: not those that stand upright, or turn back over themselves. */
function hasArea({ ring }: DrawnRing): boolean {
  return Math.abs(signedArea(ring)) > 1e-9 * longSide(ring) ** 2;
}

/** Takes the unit of the header, unless nothing of the drawing could be a building in it. Gives it, or the likely one. */
function takeUnit(
  model: ModelFile,
  { header }: Drawing,
  outlines: readonly (readonly Point2[])[],
): ModelUnit {
  const code = Number(header.get('$INSUNITS') ?? 0);
  const isMetric = header.get('$MEASUREMENT') === '1';
  const other = OTHER_UNITS[code];
  // Drawn with feet and inches, a drawing is in inches, whatever else it leaves open.
  const hasInches = code === 0 && !isMetric && ['3', '4'].includes(header.get('$LUNITS') ?? '');
  const isInInches = hasInches && canBeIn('in', outlines, model.mesh);
  model.unit = UNITS[code] ?? (isInInches ? 'in' : null);
  model.notes = model.notes.filter((note) => !note.startsWith('The drawing is'));
  const named = (unit: ModelUnit) => MODEL_UNITS.find(({ id }) => id === unit)!.name;
  const likely =
    outlines.length > 0 ? likelyOutlineUnit(outlines) : likelyUnitOf({ ...model, footprints: [] }, 'z');
  if (other)
    model.notes.push(
      `The drawing is in ${other} by its header; it is taken as ${named(likely)} by its size.`,
    );
  else if (
    model.unit &&
    !canBeIn(model.unit, outlines, model.mesh, isMetric) &&
    canBeIn(likely, outlines, model.mesh)
  ) {
    model.notes.push(
      `The drawing is in ${named(model.unit)} by its header, in which its outlines would be no buildings; by their size it is taken as ${named(likely)}.`,
    );
    model.unit = null;
  } else if (isInInches)
    model.notes.push(
      'The drawing is in no stated unit; its header says that it is drawn in feet and inches, so it is taken as inches.',
    );
  else if (!model.unit)
    model.notes.push(`The drawing is in no stated unit; by its size it is taken as ${named(likely)}.`);
  return model.unit ?? likely;
}

/** How far from a survey origin a drawing may lie to be of that survey, metres. */
const SAME_SURVEY_M = 100_000;

/** Where the site lies in a drawing, in its unit: at the survey origin, at its own origin where it is drawn round that, or in its middle. */
function siteIn(rings: readonly DrawnRing[], { metres, survey }: Taking): { at: Point2; isSite: boolean } {
  const middle = [0, 1].map((k) => median(rings.map(({ ring }) => ring[0]![k]!))) as unknown as Point2;
  const away = (p: Point2) => Math.hypot(p[0] - middle[0], p[1] - middle[1]) * metres;
  if (survey) {
    const at: Point2 = [survey.x / metres, survey.y / metres];
    if (away(at) <= SAME_SURVEY_M) return { at, isSite: true };
  }
  const reaches = (k: 0 | 1, side: 1 | -1) => rings.some(({ ring }) => ring.some((p) => p[k] * side >= 0));
  const isRoundOrigin = reaches(0, 1) && reaches(0, -1) && reaches(1, 1) && reaches(1, -1);
  return isRoundOrigin ? { at: [0, 0], isSite: true } : { at: middle, isSite: false };
}

type Taking = Pick<DrawingOptions, 'isCourts' | 'survey'> & { metres: number };

function addOutlines(model: ModelFile, { layers }: Drawing, all: readonly DrawnRing[], taking: Taking): void {
  const nested = nestRings(all, taking.isCourts ? null : taking.metres);
  const { at, isSite } = siteIn(all, taking);
  const away = ({ outer: { ring } }: NestedRing) =>
    Math.hypot(ring[0]![0] - at[0], ring[0]![1] - at[1]) * taking.metres;
  const { kept, reachM } = nearestOf(nested, away, MAX_FOOTPRINTS);
  if (kept.length < nested.length)
    model.notes.push(
      farthestLeftOut(nested.length - kept.length, isSite ? 'the site' : 'the middle of the drawing', reachM),
    );
  const taken = new Set<string>();
  const counts = new Map<string, number>();
  for (const { outer, courts, isRound } of kept) {
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
      ...(isRound && { isRound }),
      properties: { layer, colour },
    });
  }
}

/** Faces by layer, as surfaces. */
function addSurfaces(model: ModelFile, shapes: Expanded['shapes']): void {
  const byLayer = perLayer(shapes.filter((shape) => shape.kind === 'face'));
  if (byLayer.size === 0) return;
  const gather = new MeshGather();
  for (const [layer, faces] of byLayer) {
    gather.group(layer);
    for (const { points } of faces) gather.polygon(points);
  }
  if (gather.count === 0) return;
  model.mesh = gather.mesh('dxf', 'The file holds no surfaces.');
  model.groups = gather.groups.filter(({ firstTriangle }) => firstTriangle < gather.count);
  model.notes.push(...leftOut(gather.flat, 'face without area', 'faces without area'));
}

const isEmpty = ({ footprints, mesh, spots }: ModelFile) =>
  footprints.length === 0 && !mesh && spots.length === 0;

const quoted = (names: Iterable<string>) => [...names].map((name) => `“${name}”`).join(', ');

function unreadInWords({ unread }: Expanded, before: string): string {
  const kinds = [...unread].sort(([, a], [, b]) => b - a).map(([type, count]) => `${count} ${type}`);
  return kinds.length > 0 ? `${before}${kinds.slice(0, 20).join(', ')}` : '';
}

function say(
  model: ModelFile,
  { isWhole }: Drawing,
  expanded: Expanded,
  { open, rings, twice }: { open: number; rings: readonly DrawnRing[]; twice: number },
  areaLess: number,
): void {
  const { notes, footprints } = model;
  const small = modelRows(model).filter(
    ({ kind, key, likely }) =>
      kind === 'outline' &&
      likely === 'leave' &&
      !footprints.some((one) => one.layerState && outlineRow(one) === key),
  );
  const smallOnes = small.reduce((sum, { count }) => sum + count, 0);
  const courts = footprints.reduce((sum, { holes }) => sum + holes.length, 0);
  const hidden = footprints.filter(({ layerState }) => layerState).length;
  const missing = [...expanded.missing];
  const round = footprints.filter(({ isRound }) => isRound).length;
  const sentences = [
    rings.length > 0 &&
      `${counted(rings.length, 'outline is', 'outlines are')} joined from lines whose ends meet.`,
    courts > 0 &&
      `${counted(courts, 'ring within another of its layer is taken as a court', 'rings within others of their layer are taken as courts')}.`,
    round > 0 &&
      `${counted(round, 'line goes', 'lines go')} round others as lines of plots do; what lies within stands for itself. As buildings with courts: “--courts” on the command line, or the choice beside the plan.`,
    hidden > 0 &&
      `${counted(hidden, 'outline lies', 'outlines lie')} on layers that are frozen or off; they are left out unless they are chosen.`,
    small.length > 0 &&
      `${counted(smallOnes, 'outline', 'outlines')} under ${SMALL_M} m (${small
        .slice(0, 5)
        .map(({ name }) => name)
        .join(
          ', ',
        )}${small.length > 5 ? ' …' : ''}) ${smallOnes === 1 ? 'is' : 'are'} left out unless they are chosen.`,
    areaLess > 0 &&
      `${counted(areaLess, 'closed line is', 'closed lines are')} left out: standing upright, or turning back over itself, without an area in plan.`,
    twice > 0 && `${counted(twice, 'line is', 'lines are')} drawn twice and taken once.`,
    open > 0 &&
      `${counted(open, 'open line is', 'open lines are')} left out; only closed outlines can become buildings.`,
    expanded.onPaper > 0 &&
      `${counted(expanded.onPaper, 'thing', 'things')} on sheets of paper space left out.`,
    missing.length > 0 &&
      `${counted(missing.length, 'block that is placed is', 'blocks that are placed are')} not in the file: ${missing.slice(0, 50).join(', ')}.`,
    ...[...expanded.drawings].map(
      (name) =>
        `The drawing “${name}” is only referred to and is missing: bind it before exporting, or bring it in by itself.`,
    ),
    expanded.tooDeep > 0 &&
      `${counted(expanded.tooDeep, 'block is', 'blocks are')} left out: nested too deeply, or too many.`,
    expanded.unread.size > 0 && `${unreadInWords(expanded, 'Not read: ')}.`,
    !isWhole && 'The file does not end as it should: it may be cut off. What there is of it is read.',
  ];
  for (const sentence of sentences) if (sentence) notes.push(sentence);
}
