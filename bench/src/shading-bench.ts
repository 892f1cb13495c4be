import { fork } from 'node:child_process';
import {
  assembleScene,
  AT_REST,
  DEVICE_KINDS,
  deviceSolid,
  changeDevice,
  type DeviceMake,
  type DevicePlace,
  DeviceSweep,
  type GlassPrecision,
  GlassReader,
  GlassYear,
  glassInSun,
  glazedPlaces,
  IN_MOTION,
  onFace,
  type Project,
  roomsIn,
  shadeOfSuns,
  standScheme,
  sunPosition,
  sunVector,
  sweepMakes,
  withoutDevices,
} from '@dial-shade/core';
import { kelpLane } from '@dial-shade/samples';
import { BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';

const STEPS = 15;
const MESHES = new Map();
/** Suns and points a window of the sampling. */
const MOMENTS = ['2026-06-21T14:00', '2026-03-21T12:30', '2026-12-21T12:00'];
const POINTS = 10_000;
/** Candidates of the sweep. */
const CANDIDATES = 2000;

const hung = (scheme: string) => standScheme('a', scheme)(kelpLane());

function placesOf(project: Project): DevicePlace[] {
  return glazedPlaces(project, 'a', MESHES).flatMap(({ places }) => places);
}

/** Times the reading of a year again after each step of an overhang that is dragged: from document to figures. */
function dragged(name: string, places: readonly DevicePlace[], precision: GlassPrecision): void {
  let project = hung('overhangs');
  const bare = withoutDevices(project, 'a');
  const began = performance.now();
  const reader = new GlassReader(
    new GlassYear({ project: bare, optionId: 'a', meshes: MESHES }, places, precision),
    bare,
  );
  const first = performance.now() - began;
  const [device] = project.options.find(({ id }) => id === 'a')!.schemes[0]!.devices;
  const times: number[] = [];
  for (let i = 0; i < STEPS; i++) {
    const make = { ...device!.make, depthM: 0.5 + 0.05 * i } as DeviceMake;
    const start = performance.now();
    project = changeDevice('a', 'overhangs', 'overhang', { make })(project);
    const scene = assembleScene(project, 'a', MESHES);
    const pieces = scene.pieces.filter((_, k) => scene.owners[k]!.layer === 'devices');
    const past = reader.year.past(pieces);
    reader.read(past);
    shadeOfSuns(reader.year, past.open);
    times.push(performance.now() - start);
  }
  times.sort((a, b) => a - b);
  console.log(
    `${name}: ${places.length} windows, ${reader.year.grid.count} points × ${reader.year.sky.samples.count} directions; without devices once ${first.toFixed(0)} ms; after each step of an overhang ${times[STEPS >> 1]!.toFixed(0)} ms (median), ${times.at(-1)!.toFixed(0)} ms (most)`,
  );
}

/** Takes the points of a year to the middles of equal cells in rows, as many each way. */
function putInRows(year: GlassYear, { face, box }: DevicePlace): void {
  const { positions, count } = year.grid;
  const around = Math.sqrt(count);
  if (!Number.isInteger(around)) throw new Error('No square of points.');
  // How far the pane stands back.
  const inM = [0, 1, 2].reduce((sum, k) => sum + (face.origin[k]! - positions[k]!) * face.normal[k]!, 0);
  for (let i = 0; i < count; i++) {
    const u = box.u0 + ((box.u1 - box.u0) * ((i % around) + 0.5)) / around;
    const v = box.v0 + ((box.v1 - box.v0) * (Math.floor(i / around) + 0.5)) / around;
    positions.set(onFace(face, [u, v], inM), i * 3);
  }
  year.bare.open.mask.set(year.towards(year.sky.samples, []).bare.mask);
}

/**
 * Error against time: a window behind louvres by more and more points against many times as many, and by as many in the
 * rows of a regular grid, as they stood before.
 */
function errorAgainstTime([place]: readonly DevicePlace[]): void {
  const project = withoutDevices(hung('overhangs'), 'a');
  const louvres = [0.15, 0.2, 0.25, 0.3].map((spacingM): DeviceMake => ({
    ...(DEVICE_KINDS.louvres.plain as Extract<DeviceMake, { kind: 'louvres' }>),
    ...{ slatM: 0.15, spacingM, tiltDeg: 20 },
  }));
  const read = (points: number, inRows = false) => {
    const precision = { together: points, least: points, most: points, parts: 1024, rays: AT_REST.rays };
    const year = new GlassYear({ project, optionId: 'a', meshes: MESHES }, [place!], precision);
    if (inRows) putInRows(year, place!);
    const reader = new GlassReader(year, project);
    const began = performance.now();
    const found = louvres.map((make) => reader.read(year.past([deviceSolid({ make }, [place!])])));
    return { found, ms: (performance.now() - began) / louvres.length };
  };
  const converged = read(8192).found;
  const say = (points: number, inRows: boolean) => {
    const { found, ms } = read(points, inRows);
    const off = found.flatMap(({ sets }, i) =>
      sets.flatMap(({ shaded, whole, error }, k) =>
        whole > 0
          ? [{ off: Math.abs(shaded - converged[i]!.sets[k]!.shaded) / whole, told: error / whole }]
          : [],
      ),
    );
    const most = (of: 'off' | 'told') => (Math.max(...off.map((one) => one[of])) * 100).toFixed(2);
    console.log(
      `Error against time, a window behind louvres: ${points} points${inRows ? ' in rows, as before' : ''} ${ms.toFixed(1)} ms, off by at most ${most('off')} points${inRows ? '' : `, told ± ${most('told')}`}`,
    );
  };
  read(32);
  for (const points of [32, 64, 128, 256, 512]) say(points, false);
  for (const points of [16, 64, 144, 256, 576]) say(points, true);
}

/** Point k of a sequence that fills a square evenly, row by row or slat by slat (Roberts 2018, R2). */
const evenly = (k: number): [number, number] => [
  (0.5 + k * 0.7548776662466927) % 1,
  (0.5 + k * 0.5698402909980532) % 1,
];

/** Exact shares of glass in sun beside 10,000 points a window by a general-purpose library, on the same suns. */
function exactBesideSampling(scheme: string): void {
  const project = hung(scheme);
  const scene = assembleScene(project, 'a', MESHES);
  const geometry = new BufferGeometry();
  // The ground lies at the front of the list and throws no shade on a wall above it.
  const positions = scene.positions.subarray(scene.shown * 9, scene.opaque * 9);
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(positions), 3));
  const bvh = new MeshBVH(geometry);
  const { trueNorthDeg } = project.site.north;
  const moments = MOMENTS.map((clock) => Date.parse(`${clock}:00Z`));
  const ray = new Ray(new Vector3(), new Vector3());
  let [exactMs, sampledMs, most, sum, windows] = [0, 0, 0, 0, 0];
  // Once before, so that neither is timed while it is compiled.
  glassInSun(project, 'a', MESHES, moments[0]!, { scene });
  for (const atMs of moments) {
    const { altitudeDeg, azimuthDeg } = sunPosition(atMs, project.site.place);
    const sun = sunVector(altitudeDeg, azimuthDeg, trueNorthDeg);
    const wanted = ({ face }: DevicePlace) => face.normal[0] * sun[0] + face.normal[1] * sun[1] > 0.05;
    let start = performance.now();
    const found = glassInSun(project, 'a', MESHES, atMs, { wanted, scene });
    exactMs += performance.now() - start;
    windows += found.length;
    start = performance.now();
    ray.direction.set(...sun);
    for (const { place, sunlitM2, areaM2 } of found) {
      const { box, face } = place;
      let lit = 0;
      for (let k = 0; k < POINTS; k++) {
        const [s, t] = evenly(k);
        const at = [box.u0 + s * (box.u1 - box.u0), box.v0 + t * (box.v1 - box.v0)] as const;
        ray.origin.set(...onFace(face, at, box.revealM - 0.0005));
        if (!bvh.raycastFirst(ray, DoubleSide)) lit++;
      }
      const off = Math.abs(sunlitM2 / areaM2 - lit / POINTS) * 100;
      most = Math.max(most, off);
      sum += off;
    }
    sampledMs += performance.now() - start;
  }
  console.log(
    `Exact shares beside ${POINTS} points by three-mesh-bvh, ${scheme}, ${windows} windows in ${moments.length} suns: ${exactMs.toFixed(0)} ms against ${(sampledMs / 1000).toFixed(1)} s, ${(sampledMs / exactMs).toFixed(0)} times; apart by ${(sum / windows).toFixed(3)} points (mean), ${most.toFixed(3)} (most)`,
  );
}

/** The candidates of the sweep: depth × spacing × tilt of slats. */
function sweepAll() {
  const project = hung('louvres');
  const device = project.options.find(({ id }) => id === 'a')!.schemes.find(({ id }) => id === 'louvres')!
    .devices[0]!;
  const [unwanted, wanted] = project.hourSets;
  const { makes } = sweepMakes([
    {
      make: device.make,
      ranges: [
        { number: 'slatM', from: 0.05, to: 0.4, steps: 20 },
        { number: 'spacingM', from: 0.12, to: 0.48, steps: 10 },
        { number: 'tiltDeg', from: 0, to: 60, steps: 10 },
      ],
    },
  ]);
  const sweep = new DeviceSweep({ project, optionId: 'a', meshes: MESHES }, placesOf(project)[0]!, device, {
    unwanted: unwanted!,
    wanted: wanted!,
  });
  return { sweep, makes };
}

/** What a thread of the sweep does: every so many-eth candidate. */
export function sweepPart(part: number, parts: number): void {
  const { sweep, makes } = sweepAll();
  for (let i = part; i < makes.length; i += parts) sweep.read(makes[i]!);
}

async function timedSweep(threads: number): Promise<number> {
  const began = performance.now();
  await Promise.all(
    Array.from(
      { length: threads },
      (_, part) =>
        new Promise<void>((resolve, reject) => {
          const child = fork(process.argv[1]!, ['shading-part', String(part), String(threads)]);
          child.on('exit', (code) => (code === 0 ? resolve() : reject(new Error(`Part ${part} failed.`))));
        }),
    ),
  );
  return (performance.now() - began) / 1000;
}

/** How fast devices are read, sized and swept. */
export async function shadingBench(): Promise<void> {
  const project = kelpLane();
  const all = placesOf(project);
  const room = roomsIn(project, 'a', MESHES).find(({ name }) => name === 'Treatment room 1')!;
  const ids = new Set(room.openings.map(({ face, id }) => `${face.key}/${id}`));
  const ofRoom = all.filter(({ face, opening }) => ids.has(`${face.key}/${opening.id}`)).slice(0, 3);
  const facades = all.filter(({ face }) => face.normal[1] < -0.5 || face.normal[0] < -0.5).slice(0, 60);
  dragged('One room, dragged', ofRoom, IN_MOTION);
  dragged('Two facades, dragged', facades, IN_MOTION);
  dragged('One room, at rest', ofRoom, AT_REST);
  dragged('Two facades, at rest', facades, AT_REST);
  errorAgainstTime(ofRoom);
  exactBesideSampling('overhangs');
  exactBesideSampling('louvres');
  const { sweep, makes } = sweepAll();
  const seconds = await timedSweep(2);
  console.log(
    `Sweep of ${makes.length} louvres, ${sweep.year.grid.count} points × ${sweep.year.sky.samples.count} directions: ${seconds.toFixed(1)} s on two threads, their start and the window without devices among it`,
  );
  if (makes.length !== CANDIDATES) throw new Error('The sweep is not of its size.');
}
