import { InputError } from '../../errors';
import type { Point2, Point3 } from '../../geometry';
import { MAX_COORDINATE_M, type Project, type Site } from '../../project';
import { isGeographic, localFrame, type MapSystem, mapSystem } from '../../site';
import type { ModelFile } from '../model-file';
import { metresOf, type ModelUnit, type UpAxis, upwards } from '../model-units';

/** How a file is placed where it is not to place itself. */
export interface PlaceChoices {
  unit: ModelUnit;
  up: UpAxis;
  /** Set the middle of the model at the project origin. */
  centre: boolean;
  /** The point of the file, metres with z up, that becomes the project origin. */
  origin?: readonly [number, number, number] | null;
  /**
   * A point of the file, metres, comes onto a point of the board; the file is turned about it, degrees anticlockwise, and its
   * heights are told from a level.
   */
  pinned?: Pinned | null;
}

/** A point of a file that is set on a point of the board. */
export interface Pinned {
  file: readonly [number, number];
  board: readonly [number, number];
  turnDeg: number;
  lowM?: number;
}

/** Where the parts of a file stand in the project. */
export interface Placing {
  /** A point of the file, metres with z up (longitude and latitude of a geographic file), in the project. */
  place: (p: Point3) => Point3;
  /** Place and survey origin of the project afterwards. */
  site: Site;
  /** What was moved, one sentence each. */
  notes: string[];
  /** The point that was chosen to be set on a point of the board; left out where the file says itself where it stands. */
  pinned?: Pinned;
}

/** Files whose lowest level lies further than this from nothing are brought down to it, metres. */
const HIGH_M = 50;
/** What names a place by longitude and latitude must lie so near to that of the project, metres. */
const NEAR_M = 50_000;

/** A mean radius of the earth, metres, for telling far from near. */
const EARTH_M = 6_371_000;

/** Places a file by what is chosen, by its map system, by the survey of the project, or as it stands. Throws InputError `far`. */
export function placing(project: Project, model: ModelFile, choices: PlaceChoices): Placing {
  const { site } = project;
  const k = metresOf(choices.unit);
  const extent = extentOfAll(model, choices, k);
  const middle: Point2 = [(extent.min[0] + extent.max[0]) / 2, (extent.min[1] + extent.max[1]) / 2];
  const [x, y] = middle;
  if (!Number.isFinite(x)) return { place: (p) => p, site, notes: [] };
  if (model.geographic) {
    const told = Number.isFinite(extent.min[2]) ? levelOf(site.survey?.z ?? 0, extent.min[2]) : 0;
    return byPlace(project, middle, (p) => [p[0], p[1]], told, null, toldFrom(told)) as Placing;
  }
  if (choices.pinned) return { place: pinned(choices.pinned), site, notes: [], pinned: choices.pinned };
  if (choices.centre) {
    const low = lowestOf(extent.min[2]);
    const middleAt = { file: middle, board: [0, 0] as const, turnDeg: 0, lowM: low };
    return { place: moved([x, y, low]), site, notes: toldFrom(low), pinned: middleAt };
  }
  if (choices.origin) {
    const [ox, oy, oz] = choices.origin;
    const survey = { x: ox, y: oy, z: oz, system: model.system };
    return {
      place: moved([ox, oy, oz]),
      site: { ...site, survey },
      notes: [`The point ${inWords(survey)} of the file is the project origin now.`],
    };
  }
  const { survey } = site;
  const isNearSurvey =
    survey !== null && Math.hypot(x - survey.x, y - survey.y) <= Math.min(MAX_COORDINATE_M, Math.hypot(x, y));
  const z = isNearSurvey ? levelOf(survey.z, extent.min[2]) : lowestOf(extent.min[2]);
  const named = model.system ?? (isNearSurvey ? survey.system : null);
  const system = named === null ? null : mapSystem(named);
  const notes = toldFrom(z);
  if (system && !isGeographic(system)) {
    // The system has a unit of its own, whatever that of the file is.
    const unitM = system.metres;
    const geographic = (p: readonly number[]) => system.toGeographic([p[0]! / unitM, p[1]! / unitM]);
    const found = byPlace(project, geographic(middle), geographic, z, system, notes);
    if (typeof found !== 'string') return found;
    notes.push(found);
  } else if (named !== null && !system)
    notes.push(`The map system “${named}” is not known here; the file is placed by its coordinates alone.`);
  if (isNearSurvey) {
    notes.push(`It stands where the survey origin ${inWords(survey)} has it.`);
    return {
      place: moved([survey.x, survey.y, z]),
      site: { ...site, survey: { ...survey, z: survey.z || z } },
      notes,
    };
  }
  // Outlines have no height: theirs is without end.
  const reach = [...extent.min, ...extent.max].filter(Number.isFinite).map(Math.abs);
  if (Math.max(...reach) <= MAX_COORDINATE_M)
    // Further files that are as high stay in relation.
    return {
      place: moved([0, 0, z]),
      site: z === 0 || survey ? site : { ...site, survey: { x: 0, y: 0, z, system: null } },
      notes,
    };
  if (survey)
    throw new InputError(
      'far',
      `The file lies near (${metres(x)}, ${metres(y)}) m, ${Math.round(Math.hypot(x - survey.x, y - survey.y) / 1000).toLocaleString('en')} km from the survey origin ${inWords(survey)} of the project: it is of another survey. ` +
        'Set its middle at the origin (--centre), or say which of its points is (--origin X,Y,Z).',
    );
  const first = { x: Math.round(x), y: Math.round(y), z, system: model.system };
  notes.push(
    `It lies near (${metres(x)}, ${metres(y)}) m, in the coordinates of a survey: the point ${inWords(first)} of it is the project origin now, for later files of that survey too.`,
  );
  return { place: moved([first.x, first.y, z]), site: { ...site, survey: first }, notes };
}

const metres = (value: number) => Number(value.toFixed(2)).toLocaleString('en');
const inWords = ({ x, y, z }: { x: number; y: number; z: number }) =>
  `(${metres(x)}, ${metres(y)}, ${metres(z)})`;
const moved =
  ([x, y, z]: Point3) =>
  (p: Point3): Point3 => [p[0] - x, p[1] - y, p[2] - z];

const toldFrom = (z: number) => (z === 0 ? [] : [`Heights are told from ${metres(z)} m of the file on.`]);

function lowestOf(lowM: number): number {
  return Number.isFinite(lowM) && Math.abs(lowM) > HIGH_M ? Math.round(lowM * 100) / 100 : 0;
}

/** The level that heights of a further file of a survey are told from: heights over the ground stay as they are. */
function levelOf(surveyM: number, lowM: number): number {
  if (surveyM === 0) return lowestOf(lowM);
  return Math.abs(lowM) <= HIGH_M && Math.abs(surveyM) > 2 * HIGH_M ? 0 : surveyM;
}

function pinned({ file, board, turnDeg, lowM = 0 }: Pinned): Placing['place'] {
  const [c, s] = [Math.cos((turnDeg * Math.PI) / 180), Math.sin((turnDeg * Math.PI) / 180)];
  return ([x, y, z]) => {
    const [dx, dy] = [x - file[0], y - file[1]];
    return [board[0] + dx * c - dy * s, board[1] + dx * s + dy * c, z - lowM];
  };
}

/**
 * By longitude and latitude; a project that has no place of its own yet takes that of the file. A sentence where what a map
 * system names lies far from the project’s place.
 */
function byPlace(
  project: Project,
  [longitudeDeg, latitudeDeg]: Point2,
  geographic: (p: Point3) => Point2,
  z: number,
  system: MapSystem | null,
  notes: string[],
): Placing | string {
  const { site } = project;
  const { place } = site;
  const off = angleBetween([longitudeDeg, latitudeDeg], [place.longitudeDeg, place.latitudeDeg]) * EARTH_M;
  const isFree = !place.confirmed && isBare(project);
  if (off > NEAR_M && !isFree && system)
    return `By its map system (${system.code}) it lies ${Math.round(off / 1000).toLocaleString('en')} km from the project’s place.`;
  const taken = off > NEAR_M && isFree;
  const here: Site = taken ? { ...site, place: { ...place, longitudeDeg, latitudeDeg } } : site;
  const said = [...notes];
  if (taken)
    said.unshift(
      `The project’s place is that of the file now: ${latitudeDeg.toFixed(5)}, ${longitudeDeg.toFixed(5)}. Confirm it, and look at its time zone.`,
    );
  else if (system)
    said.unshift(`It stands where its map system (${system.code}) and the project’s place have it.`);
  const frame = localFrame(here);
  const at = system?.fromGeographic([here.place.longitudeDeg, here.place.latitudeDeg]);
  return {
    place: (p) => [...frame.toProject(geographic(p)), p[2] - z],
    site: at
      ? {
          ...here,
          survey: {
            ...{ x: at[0] * system!.metres, y: at[1] * system!.metres, system: system!.code },
            // A file with heights over the ground does not undo what others are told from.
            z: site.survey?.z || z,
          },
        }
      : here,
    notes: said,
  };
}

/** Whether nothing stands in a project yet. */
function isBare({ options, neighbours, areas, targets, site }: Project): boolean {
  return (
    neighbours.length + areas.length + targets.length === 0 &&
    site.boundary === null &&
    options.every(({ masses, models }) => masses.length + models.length === 0)
  );
}

/** The angle between two places as seen from the middle of the earth, radians. */
function angleBetween([lon1, lat1]: Point2, [lon2, lat2]: Point2): number {
  const [a, b, d] = [lat1, lat2, lon2 - lon1].map((deg) => (deg * Math.PI) / 180) as [number, number, number];
  const half = Math.sin((b - a) / 2) ** 2 + Math.cos(a) * Math.cos(b) * Math.sin(d / 2) ** 2;
  return 2 * Math.asin(Math.min(1, Math.sqrt(half)));
}

/** Of all that a file holds, in metres with z up; of a geographic file as it is. */
export function extentOfAll(
  model: ModelFile,
  { up }: Pick<PlaceChoices, 'up'>,
  k: number,
): { min: [number, number, number]; max: [number, number, number] } {
  const [min, max]: [number, number, number][] = [
    [Infinity, Infinity, Infinity],
    [-Infinity, -Infinity, -Infinity],
  ];
  const note = (p: readonly number[]) => {
    for (let axis = 0; axis < p.length; axis++) {
      if (p[axis]! < min![axis]!) min![axis] = p[axis]!;
      if (p[axis]! > max![axis]!) max![axis] = p[axis]!;
    }
  };
  const scale = model.geographic ? 1 : k;
  for (const { outer, level } of model.footprints) {
    for (const [x, y] of outer) note([x * scale, y * scale]);
    // What lies on the ground has no level of its own.
    if (level !== undefined) note([outer[0]![0] * scale, outer[0]![1] * scale, level * scale]);
  }
  for (const { positions } of model.spots)
    for (let i = 0; i < positions.length; i += 3)
      note([positions[i]! * scale, positions[i + 1]! * scale, positions[i + 2]! * scale]);
  for (const { outline, level } of model.rooms)
    for (const [x, y] of outline) note([x * scale, y * scale, level * scale]);
  if (model.mesh) {
    const { positions, triangles } = model.mesh;
    for (const i of triangles) note(upwards(positions, i * 3, k, up));
  }
  return { min: min!, max: max! };
}
