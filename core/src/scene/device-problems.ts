import { polygonHull } from 'd3-polygon';
import {
  type DeviceBox,
  deviceBoxes,
  type DevicePlace,
  deviceStations,
  type DeviceStation,
  glazedPlaces,
  placesOfDevice,
  standingScheme,
  tooManyBoxes,
} from '../devices';
import { massLevels, onFace } from '../form';
import {
  cross,
  dot,
  intersectPolygons,
  type MeshStore,
  minus,
  polygonsArea,
  type Point2,
  type Point3,
  type Polygon,
  subtractPolygons,
} from '../geometry';
import { type Device, type Project, standingBodies, standingNeighbours } from '../project';

/** A box of a device as it stands: corners in the project frame, and the box round them. */
interface Standing {
  corners: Point3[];
  min: Point3;
  max: Point3;
}

/** A device at one station. */
interface Hung {
  device: Device;
  /** Body that it hangs on. */
  host: string;
  station: DeviceStation;
  boxes: Standing[];
  min: Point3;
  max: Point3;
}

/** Less than this two things only touch, metres, and metres² in plan. */
const TOUCH_M = 0.002;
const TOUCH_M2 = 1e-3;
/** A device covers an opening of its wall where it comes nearer to the wall than this, metres. */
const NEAR_WALL_M = 0.03;
/** Boxes from which on nothing is looked at: banks of slats by the thousand. */
const MAX_LOOKED = 12_000;

/**
 * What is worth knowing of the devices that stand in an option, one sentence each: devices that run into one another, into
 * bodies that stand there, over the boundary, or across other openings of their wall. All of it is allowed.
 */
export function deviceProblems(project: Project, optionId: string, meshes: MeshStore): string[] {
  const scheme = standingScheme(project, optionId);
  if (!scheme) return [];
  const { trueNorthDeg } = project.site.north;
  const bodies = glazedPlaces(project, optionId, meshes);
  if (tooManyBoxes(scheme, bodies, trueNorthDeg) !== null) return [];
  const hung: Hung[] = [];
  const covered = new Map<string, number>();
  const hosts = new Map(bodies.flatMap((body) => body.places).map(({ face, owner }) => [face, owner.id]));
  for (const device of scheme.devices) {
    const places = placesOfDevice(device, bodies, trueNorthDeg);
    const own = new Set(places.map(keyOf));
    const onWalls = bodies.flatMap((body) => body.places).filter((place) => !own.has(keyOf(place)));
    for (const station of deviceStations(device, places)) {
      const framed = deviceBoxes(device.make, station.box);
      const boxes = framed.map((box) => standing(station, box));
      if (boxes.length === 0) continue;
      const min = [0, 1, 2].map((k) => Math.min(...boxes.map((box) => box.min[k]!))) as unknown as Point3;
      const max = [0, 1, 2].map((k) => Math.max(...boxes.map((box) => box.max[k]!))) as unknown as Point3;
      hung.push({ device, host: hosts.get(station.face)!, station, boxes, min, max });
      const others = onWalls
        .filter(({ face }) => face === station.face)
        .filter((place) => covers(framed, place));
      if (others.length > 0) covered.set(device.name, (covered.get(device.name) ?? 0) + others.length);
    }
  }
  if (hung.reduce((sum, { boxes }) => sum + boxes.length, 0) > MAX_LOOKED) return [];
  return [
    ...devicesThatMeet(hung),
    ...bodiesMet(project, optionId, hung),
    ...overBoundary(project, hung),
    ...[...covered].map(
      ([name, count]) => `“${name}” stands before ${openings(count)} of its wall that it does not hang on.`,
    ),
  ];
}

const keyOf = ({ owner, opening }: DevicePlace) => `${owner.id}/${opening.id}`;
const openings = (count: number) => (count === 1 ? 'another opening' : `${count} other openings`);
const places = (count: number) => (count === 1 ? 'one place' : `${count} places`);

function standing({ face }: DeviceStation, box: DeviceBox): Standing {
  const corners = box.map(([u, v, w]) => onFace(face, [u, v], -w));
  const extreme = (pick: (...values: number[]) => number) =>
    [0, 1, 2].map((k) => pick(...corners.map((p) => p[k]!))) as unknown as Point3;
  return { corners, min: extreme(Math.min), max: extreme(Math.max) };
}

/** Whether a device stands right before an opening of its own wall, in the frame of the face. */
function covers(framed: readonly DeviceBox[], { box }: DevicePlace): boolean {
  return framed.some((solid) => {
    const near = solid.filter(([, , w]) => w < NEAR_WALL_M);
    if (near.length === 0 || solid.every(([, , w]) => w < -TOUCH_M)) return false;
    const [us, vs] = [near.map(([u]) => u), near.map(([, v]) => v)];
    return (
      Math.min(...us) < box.u1 - TOUCH_M &&
      Math.max(...us) > box.u0 + TOUCH_M &&
      Math.min(...vs) < box.v1 - TOUCH_M &&
      Math.max(...vs) > box.v0 + TOUCH_M
    );
  });
}

interface Extent {
  min: Point3;
  max: Point3;
}

const apart = (a: Extent, b: Extent) =>
  [0, 1, 2].some((k) => a.min[k]! > b.max[k]! - TOUCH_M || b.min[k]! > a.max[k]! - TOUCH_M);

/** Devices of different kinds, or at different openings, that run into one another. */
function devicesThatMeet(hung: readonly Hung[]): string[] {
  const meet = new Map<string, number>();
  for (let i = 0; i < hung.length; i++)
    for (let k = i + 1; k < hung.length; k++) {
      const [a, b] = [hung[i]!, hung[k]!];
      if (apart(a, b)) continue;
      if (
        !a.boxes.some(
          (one) => !apart(one, b) && b.boxes.some((two) => !apart(one, two) && boxesMeet(one, two)),
        )
      )
        continue;
      const names =
        a.device === b.device
          ? `“${a.device.name}” runs into itself`
          : `“${a.device.name}” and “${b.device.name}” run into one another`;
      meet.set(names, (meet.get(names) ?? 0) + 1);
    }
  return [...meet].map(([names, count]) => `${names} at ${places(count)}.`);
}

/** Whether two boxes of six parallelograms share more than a surface: no axis of either, or across both, parts them. */
function boxesMeet({ corners: a }: Standing, { corners: b }: Standing): boolean {
  const edges = (p: readonly Point3[]) => [minus(p[1]!, p[0]!), minus(p[3]!, p[0]!), minus(p[4]!, p[0]!)];
  const [ea, eb] = [edges(a), edges(b)];
  const normals = ([x, y, z]: Point3[]) => [cross(x!, y!), cross(y!, z!), cross(z!, x!)];
  const axes = [...normals(ea), ...normals(eb), ...ea.flatMap((one) => eb.map((two) => cross(one, two)))];
  return axes.every((axis) => {
    const length = Math.hypot(...axis);
    if (length < 1e-12) return true;
    const along = (p: readonly Point3[]) => p.map((q) => dot(q, axis) / length);
    const [pa, pb] = [along(a), along(b)];
    return Math.min(...pa) < Math.max(...pb) - TOUCH_M && Math.min(...pb) < Math.max(...pa) - TOUCH_M;
  });
}

/** The plan of a box: the hull of its corners. */
function planOf({ corners }: Standing): Polygon {
  const hull = polygonHull(corners.map(([x, y]): [number, number] => [x, y]));
  return { outer: hull ?? [], holes: [] };
}

/** Masses and buildings that devices stand in, by their plan and their levels; what the device hangs on is none of them. */
function bodiesMet(project: Project, optionId: string, hung: readonly Hung[]): string[] {
  const { ground } = project.site;
  const solids = [
    ...standingBodies(project, optionId).map((body) => {
      const { floorM, eavesM } = massLevels(body, ground);
      return { id: body.id, name: body.name, footprint: body.footprint, low: floorM, high: eavesM };
    }),
  ];
  const trees = standingNeighbours(project, optionId).flatMap((one) => (one.kind === 'tree' ? [one] : []));
  const met = new Map<string, number>();
  const note = (device: Device, what: string) => {
    const name = `“${device.name}” runs into “${what}”`;
    met.set(name, (met.get(name) ?? 0) + 1);
  };
  for (const { device, host, boxes, min, max, station } of hung) {
    const front = frontOf(station);
    for (const { id, name, footprint, low, high } of solids) {
      if (min[2] > high - TOUCH_M || max[2] < low + TOUCH_M) continue;
      const stands = boxes.some((box) => {
        if (box.min[2] > high - TOUCH_M || box.max[2] < low + TOUCH_M) return false;
        const within = intersectPolygons([planOf(box)], [footprint]);
        // What is built in (a shelf) stands in its own body too: only what lies before the face that it hangs on counts.
        return polygonsArea(id === host ? intersectPolygons(within, [front]) : within) > TOUCH_M2;
      });
      if (stands) note(device, name);
    }
    for (const {
      name,
      at: [x, y],
      crownM,
    } of trees) {
      const reach = crownM / 2;
      if (
        boxes.some(
          (box) =>
            box.min[0] < x + reach &&
            box.max[0] > x - reach &&
            box.min[1] < y + reach &&
            box.max[1] > y - reach &&
            polygonsArea(intersectPolygons([planOf(box)], [roundOf(x, y, reach)])) > TOUCH_M2,
        )
      )
        note(device, name);
    }
  }
  return [...met].map(([names, count]) => `${names} at ${places(count)}.`);
}

/** The plan of what lies before a face, as far as devices reach; of what lies level, nothing. */
function frontOf({ face: { origin, normal, u } }: DeviceStation): Polygon {
  const at = (along: number, out: number): Point2 => [
    origin[0] + along * u[0] + out * normal[0],
    origin[1] + along * u[1] + out * normal[1],
  ];
  const far = 500;
  return { outer: [at(-far, TOUCH_M), at(far, TOUCH_M), at(far, far), at(-far, far)], holes: [] };
}

function roundOf(x: number, y: number, reach: number): Polygon {
  const outer = Array.from({ length: 24 }, (_, i): Point2 => {
    const turn = (i * Math.PI) / 12;
    return [x + reach * Math.cos(turn), y + reach * Math.sin(turn)];
  });
  return { outer, holes: [] };
}

function overBoundary({ site }: Project, hung: readonly Hung[]): string[] {
  const { boundary } = site;
  if (!boundary || boundary.length < 3) return [];
  const own: Polygon = { outer: boundary, holes: [] };
  const over = new Map<string, number>();
  for (const { device, boxes } of hung)
    if (boxes.some((box) => polygonsArea(subtractPolygons([planOf(box)], [own])) > TOUCH_M2))
      over.set(device.name, (over.get(device.name) ?? 0) + 1);
  return [...over].map(([name, count]) => `“${name}” reaches over the boundary at ${places(count)}.`);
}
