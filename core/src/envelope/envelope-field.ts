import { methodOf } from '../method';
import { InputError } from '../errors';
import { bounds, contains, insetRing, type MeshStore, type Point2, type Ring, signedArea } from '../geometry';
import type { Envelope, Project } from '../project';
import { groundLevel } from '../site';
import { boundOf, type KeptFace, keptFaces } from './kept-face';
import { StandingShade } from './standing-shade';
import { MAX_SUNS, sunCount } from './sun-hull';

/** The method of envelopes: goes up when heights change. */
export const ENVELOPE_METHOD = methodOf();

/** Points that a field may have, and outlines that keep their sun. */
const MAX_POINTS = 200_000;
const MAX_FACES = 5000;
/** So little over a height that is known, it is still the highest. */
const HAIR_M = 1e-9;

/** How tall may be built, point by point: middles of the cells of a grid over what may be built on. */
export interface EnvelopeField {
  columns: number;
  rows: number;
  /** Lower left corner of the first cell, and the side of a cell, metres. */
  x0: number;
  y0: number;
  cellM: number;
  /** Highest level, project frame; infinite where nothing limits it, NaN where nothing may be built. Rows go north. */
  levelM: Float64Array;
  /** Level of the ground there. */
  groundM: Float64Array;
  /** Which of `reasons` decides; −1 where none does. */
  decidedBy: Int16Array;
  /** The sun that decides, epoch ms; NaN where none does. */
  atMs: Float64Array;
  reasons: string[];
  /** Which of what the envelope keeps each reason is of; −1: a height limit or a slope. */
  keptOf: number[];
  /** What may be built on. */
  outline: Point2[];
  notes: string[];
}

/** The envelope with this id or name. Throws InputError `envelope`, naming those that exist. */
export function requireEnvelope({ envelopes }: Project, typed: string): Envelope {
  const found =
    envelopes.find(({ id }) => id === typed) ??
    envelopes.find(({ name }) => name.toLowerCase() === typed.toLowerCase());
  if (found) return found;
  const known = envelopes.map(({ name }) => `“${name}”`).join(', ');
  throw new InputError(
    'envelope',
    `There is no envelope “${typed}”; ${known ? `there is ${known}` : 'the project has none'}.`,
  );
}

/** How far each edge of an outline stands back: as given for each, or for all. */
export function edgeSetbacks({ setbacksM }: Pick<Envelope, 'setbacksM'>, edges: number): number[] {
  return Array.from({ length: edges }, (_, i) =>
    setbacksM.length === edges ? setbacksM[i]! : (setbacksM[0] ?? 0),
  );
}

/** The outline that may be built on: drawn or the boundary, less its setbacks. Throws InputError `envelope`. */
export function buildOutline({ site }: Project, envelope: Envelope): Point2[] {
  const { build, setbacksM, name } = envelope;
  const outline = build ?? site.boundary;
  if (!outline)
    throw new InputError(
      'envelope',
      `“${name}” has nothing to build on: the site has no boundary; draw one, or give the envelope an outline.`,
    );
  const ring = outline.map(([x, y]): Point2 => [x, y]);
  if (setbacksM.length === 0) return ring;
  if (setbacksM.length !== 1 && setbacksM.length !== ring.length)
    throw new InputError(
      'envelope',
      `“${name}” has ${setbacksM.length} setbacks for ${ring.length} edges; give one for all, or one for each.`,
    );
  // Edges of a ring that runs clockwise move inwards the other way.
  const way = signedArea(ring) < 0 ? -1 : 1;
  const inset = insetRing(
    ring,
    edgeSetbacks(envelope, ring.length).map((d) => way * d),
  );
  if (!inset)
    throw new InputError(
      'envelope',
      `The setbacks of “${name}” leave nothing to build on; make them smaller.`,
    );
  return inset;
}

/** Distance from a place to an outline. */
function distanceTo(outline: Ring, [x, y]: Point2): number {
  let least = Infinity;
  outline.forEach(([ax, ay], i) => {
    const [bx, by] = outline[(i + 1) % outline.length]!;
    const [ex, ey] = [bx - ax, by - ay];
    const length2 = ex * ex + ey * ey;
    const t = length2 > 0 ? Math.max(0, Math.min(1, ((x - ax) * ex + (y - ay) * ey) / length2)) : 0;
    least = Math.min(least, Math.hypot(x - ax - t * ex, y - ay - t * ey));
  });
  return least;
}

/** What is kept, by its name; null where it is gone. */
function keptName(project: Project, { on, id }: Envelope['keep'][number]): string | null {
  const among: readonly { id: string; name: string }[] = on === 'area' ? project.areas : project.targets;
  return among.find((one) => one.id === id)?.name ?? null;
}

/** What limits heights at a place. */
export class EnvelopeSolver {
  readonly outline: Point2[];
  readonly reasons: string[];
  /** Which of what the envelope keeps each reason is of; −1: a height limit or a slope. */
  readonly keptOf: number[];
  readonly notes: string[] = [];
  private readonly faces: KeptFace[];
  /** The face that decided last. */
  private last = 0;
  private readonly site: Project['site'];
  private readonly whole: Point2[];

  /** Throws InputError `envelope` where there is nothing to build on, or suns are too many. */
  constructor(
    project: Project,
    private readonly envelope: Envelope,
    meshes: MeshStore = new Map(),
  ) {
    this.site = project.site;
    this.outline = buildOutline(project, envelope);
    this.whole = (envelope.build ?? project.site.boundary!).map(([x, y]): Point2 => [x, y]);
    const suns = envelope.keep.reduce((sum, { windows }) => sum + sunCount(windows), 0);
    if (suns > MAX_SUNS)
      throw new InputError(
        'envelope',
        `“${envelope.name}” asks for ${suns.toLocaleString('en')} suns, minute by minute; ${MAX_SUNS.toLocaleString('en')} are looked at most. Shorten its windows of time, or keep the sun on fewer things.`,
      );
    this.faces = [];
    const keptOf: number[] = [];
    const standing = envelope.lost === 'leave' ? new StandingShade(project, meshes) : undefined;
    envelope.keep.forEach((kept, k) => {
      const faces = keptFaces(project, kept, meshes, standing);
      const name = keptName(project, kept);
      if (faces.length === 0)
        this.notes.push(
          name === null
            ? `The ${kept.on} “${kept.id}” is gone: nothing is kept for it.`
            : `“${name}” means nothing that stands: nothing is kept for it.`,
        );
      else if (faces.every(({ hull }) => hull.count === 0))
        this.notes.push(
          standing
            ? `No sun reaches “${name}” in its windows of time past what stands: it limits nothing.`
            : `No sun stands before “${name}” in its windows of time: it limits nothing.`,
        );
      if (faces.some(({ isArea, corners }) => isArea && corners.some(([x, y]) => this.isOpen([x, y]))))
        this.notes.push(
          `“${name}” reaches into what may be built on: on it nothing may stand over its own level.`,
        );
      // One that sees none of its suns limits nothing.
      for (const face of faces) if (face.hull.count > 0) this.faces.push(face);
      while (keptOf.length < this.faces.length) keptOf.push(k);
    });
    if (this.faces.length > MAX_FACES)
      throw new InputError(
        'envelope',
        `“${envelope.name}” keeps the sun on ${this.faces.length.toLocaleString('en')} outlines; ${MAX_FACES.toLocaleString('en')} are looked at most. Narrow its targets.`,
      );
    this.keptOf = [...keptOf, -1, -1];
    this.reasons = [...this.faces.map(({ name }) => name), 'height limit', 'slope'];
    this.notes.push(
      standing
        ? 'Suns of which what stands and stays leaves nothing on an outline are not kept for it; of all others, all of it is kept.'
        : 'All sun of the windows of time is kept, whether or not something that stands takes it already.',
    );
  }

  /** Whether a place may be built on. */
  isOpen(place: Point2): boolean {
    return contains(this.outline, place) && !this.envelope.noBuild.some((strip) => contains(strip, place));
  }

  groundAt(place: Point2): number {
    return groundLevel(this.site.ground, place);
  }

  /** The highest level at a place, what decides it (an index into `reasons`, −1: nothing) and when. */
  at(place: Point2): { levelM: number; decidedBy: number; atMs: number } {
    // What decided at the place before is the best to begin with: it leaves little of the others to be looked at.
    const first = this.faces[this.last];
    const start = first ? boundOf(first, place, { z: Infinity, atMs: NaN }).z + HAIR_M : Infinity;
    let [best, decidedBy] = [{ z: start, atMs: NaN }, -1];
    this.faces.forEach((face, i) => {
      const found = boundOf(face, place, best);
      if (found !== best) [best, decidedBy] = [found, i];
    });
    if (decidedBy >= 0) this.last = decidedBy;
    else best = { z: Infinity, atMs: NaN };
    const { limit, slope } = this.envelope;
    const take = (z: number, reason: number) => {
      if (z < best.z) [best, decidedBy] = [{ z, atMs: NaN }, reason];
    };
    if (limit) take(limit.heightM + (limit.over === 'ground' ? this.groundAt(place) : 0), this.faces.length);
    if (slope)
      take(
        this.groundAt(place) + slope.fromM + slope.rise * distanceTo(this.whole, place),
        this.faces.length + 1,
      );
    return { levelM: best.z, decidedBy, atMs: best.atMs };
  }
}

/** How tall may be built, over all of what may be built on. Throws InputError `envelope`. */
export function envelopeField(
  project: Project,
  envelope: Envelope,
  cellM = envelope.spacingM,
  meshes: MeshStore = new Map(),
): EnvelopeField {
  const solver = new EnvelopeSolver(project, envelope, meshes);
  const { minX, minY, maxX, maxY } = bounds(solver.outline);
  const [columns, rows] = [maxX - minX, maxY - minY].map((span) =>
    Math.max(1, Math.ceil(span / cellM - 1e-9)),
  ) as [number, number];
  if (columns * rows > MAX_POINTS) {
    const fits = cellM * Math.sqrt((columns * rows) / MAX_POINTS) * 1.02;
    throw new InputError(
      'envelope',
      `This field would have ${(columns * rows).toLocaleString('en')} points; ${MAX_POINTS.toLocaleString('en')} fit. A spacing of ${Number(fits.toPrecision(2))} m does.`,
    );
  }
  const count = columns * rows;
  const field: EnvelopeField = {
    ...{ columns, rows, x0: minX, y0: minY, cellM },
    levelM: new Float64Array(count).fill(NaN),
    groundM: new Float64Array(count).fill(NaN),
    decidedBy: new Int16Array(count).fill(-1),
    atMs: new Float64Array(count).fill(NaN),
    reasons: solver.reasons,
    keptOf: solver.keptOf,
    outline: solver.outline,
    notes: solver.notes,
  };
  for (let i = 0; i < count; i++) {
    const place = placeOf(field, i);
    if (!solver.isOpen(place)) continue;
    const { levelM, decidedBy, atMs } = solver.at(place);
    field.levelM[i] = levelM;
    field.groundM[i] = solver.groundAt(place);
    field.decidedBy[i] = decidedBy;
    field.atMs[i] = atMs;
  }
  return field;
}

/** The middle of a cell of a field. */
export function placeOf({ columns, x0, y0, cellM }: EnvelopeField, i: number): Point2 {
  return [x0 + ((i % columns) + 0.5) * cellM, y0 + (Math.floor(i / columns) + 0.5) * cellM];
}

/** What a field comes to. */
export interface EnvelopeFigures {
  points: number;
  /** Of what may be built on, by cells, m². */
  areaM2: number;
  /** Where nothing limits the height. */
  unlimitedM2: number;
  /** Between the ground and the field where it is limited, m³. */
  volumeM3: number;
  /** Whole storeys of the height that the envelope has, m². */
  floorAreaM2: number;
  highest: { at: Point2; levelM: number; heightM: number } | null;
  lowest: { at: Point2; levelM: number; heightM: number } | null;
  /** How much of the area each reason decides. */
  reasons: { name: string; areaM2: number }[];
}

/** Figures of a field; heights over the ground, nothing below it. */
export function envelopeFigures(
  field: EnvelopeField,
  { storeyM }: Pick<Envelope, 'storeyM'>,
): EnvelopeFigures {
  const { levelM, groundM, decidedBy, reasons, cellM } = field;
  const cell = cellM * cellM;
  const found: EnvelopeFigures = {
    ...{ points: 0, areaM2: 0, unlimitedM2: 0, volumeM3: 0, floorAreaM2: 0, highest: null, lowest: null },
    reasons: reasons.map((name) => ({ name, areaM2: 0 })),
  };
  levelM.forEach((level, i) => {
    if (Number.isNaN(level)) return;
    found.points++;
    found.areaM2 += cell;
    if (decidedBy[i]! >= 0) found.reasons[decidedBy[i]!]!.areaM2 += cell;
    if (level === Infinity) {
      found.unlimitedM2 += cell;
      return;
    }
    const heightM = Math.max(0, level - groundM[i]!);
    found.volumeM3 += heightM * cell;
    found.floorAreaM2 += Math.floor(heightM / storeyM + 1e-9) * cell;
    const one = { at: placeOf(field, i), levelM: level, heightM };
    if (!found.highest || heightM > found.highest.heightM) found.highest = one;
    if (!found.lowest || heightM < found.lowest.heightM) found.lowest = one;
  });
  found.reasons = found.reasons.filter(({ areaM2 }) => areaM2 > 0);
  return found;
}
