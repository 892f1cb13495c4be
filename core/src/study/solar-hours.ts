import { SkyRadiance, skySpiral } from '../sky';
import type { FlatTarget } from './flat-target';
import { angularG, hemisphericalG } from './kinds/angular-g';
import { type GlassPoints, POINT_PARTS } from './glass-points';
import { type Directions, type OpenDirections, openRow } from './kinds/kind';
import { onNodes, type RadiationSamples, SKY_NODES, skyOfYear } from './kinds/radiation-samples';
import { FREE } from './sensor-grid';

/** What comes in through glass hour by hour. */
export interface SolarHours {
  beamW: Float64Array;
  skyW: Float64Array;
  groundW: Float64Array;
  /** What each eighth of the points makes of all together, times eight: what these differ by is the error. */
  partsW: Float64Array[];
  /** Month × 10,000 + day × 100 + hour of local standard time, of each hour that has any radiation. */
  stamps: Uint32Array;
}

/** Panes of a plan of solar gain by their points, and the directions that these are traced to. */
export interface GlassPlan extends GlassPoints {
  targets: readonly FlatTarget[];
  directions: Directions;
}

/** Points that are traced together: neighbours are mostly shaded by the same. */
const STRETCH = 128;

/** Of some panes together, for each eighth of their points: what a W/m² towards each direction brings in through the glass without its frame, W. */
export function glassGains(
  { grid, part, targets, directions }: GlassPlan,
  tracer: { open(from: number, to: number): OpenDirections },
): Float64Array[] {
  const { count } = directions;
  const passed = new Float64Array(count);
  const towards = Array.from({ length: POINT_PARTS }, () => new Float64Array(count));
  // Points that face the same way behind the same glass have the same angles.
  const facing = new Map<string, Float64Array>();
  let open: OpenDirections | null = null;
  for (let s = 0; s < grid.count; s++) {
    if (s % STRETCH === 0) open = tracer.open(s, Math.min(grid.count, s + STRETCH));
    if (grid.covered[s] !== FREE) continue;
    const { n, glass } = paneOf({ grid, targets }, s);
    const key = JSON.stringify([n, glass]);
    let whole = facing.get(key);
    if (!whole) facing.set(key, (whole = gainsWhole(directions, n, glass)));
    const area = grid.areas[s]!;
    const into = towards[part[s]!]!;
    openRow(open!, count, s % STRETCH, passed);
    for (let d = 0; d < count; d++) into[d]! += passed[d]! * whole[d]! * area;
  }
  return towards;
}

function paneOf({ grid, targets }: Pick<GlassPlan, 'grid' | 'targets'>, s: number) {
  return {
    n: [0, 1, 2].map((k) => grid.normals[s * 3 + k]!) as [number, number, number],
    glass: targets[grid.target[s]!]!.glass!,
  };
}

/** The same of a m² with nothing in its way. */
function gainsWhole(
  { count, vectors }: Directions,
  n: readonly [number, number, number],
  glass: NonNullable<FlatTarget['glass']>,
): Float64Array {
  const g = glass.gValue * (1 - glass.frameShare);
  const gains = new Float64Array(count);
  for (let d = 0; d < count; d++) {
    const cosine = n[0] * vectors[d * 3]! + n[1] * vectors[d * 3 + 1]! + n[2] * vectors[d * 3 + 2]!;
    if (cosine > 0) gains[d] = cosine * angularG(cosine, glass) * g;
  }
  return gains;
}

/** What a W/m² from below brings in, W, whatever stands before the panes. */
function gainBelow(plan: Pick<GlassPlan, 'grid' | 'targets'>): number {
  let sum = 0;
  const known = new Map<FlatTarget['glass'], number>();
  for (let s = 0; s < plan.grid.count; s++) {
    const { n, glass } = paneOf(plan, s);
    if (!known.has(glass)) known.set(glass, hemisphericalG(glass) * glass.gValue * (1 - glass.frameShare));
    sum += ((1 - n[2]) / 2) * known.get(glass)! * plan.grid.areas[s]!;
  }
  return sum;
}

/** The directions of the sky alone. */
export function skyOf({ vectors, date, suns, parts }: RadiationSamples): Directions {
  return { count: parts, vectors: vectors.slice(suns * 3), date: date.slice(suns) };
}

/**
 * Solar gain hour by hour, W, over some panes: beam, sky and ground-reflected on the glass without its frame. Hours that
 * have no radiation are not among them.
 * @param skyAt what the sky brings in while what moves stands as at this sun; as at rest when left out
 */
export function solarHours(
  plan: GlassPlan,
  tracer: { open(from: number, to: number): OpenDirections },
  skyAt: ((sun: number) => TowardsSky) | null = null,
): SolarHours {
  const samples = plan.directions as RadiationSamples;
  const hourly = samples.hourly!;
  const { suns } = samples;
  const sky = skyOfHours(samples);
  const make = () => new Float64Array(hourly.count);
  const partsW = Array.from({ length: POINT_PARTS }, make);
  const found: SolarHours = {
    beamW: make(),
    skyW: make(),
    groundW: make(),
    partsW,
    stamps: hourly.stamp,
  };
  const towards = glassGains(plan, tracer);
  const resting = towardsSkyOf(
    samples,
    towards.map((own) => own.subarray(suns)),
  );
  const below = gainBelow(plan);
  for (let k = 0; k < hourly.count; k++) {
    const first = k > 0 ? hourly.sunEnds[k - 1]! : 0;
    const end = hourly.sunEnds[k]!;
    const towardsSky = skyAt && end > first ? skyAt(hourly.sunOf[(first + end) >> 1]!) : resting;
    const ground = below * hourly.reflected[k]!;
    found.groundW[k] = ground;
    const at = k * SKY_NODES;
    for (let d = 0; d < SKY_NODES; d++) found.skyW[k]! += sky[at + d]! * towardsSky.all[d]!;
    for (let b = 0; b < POINT_PARTS; b++) {
      let beam = 0;
      for (let i = first; i < end; i++) beam += towards[b]![hourly.sunOf[i]!]!;
      beam *= hourly.beam[k]!;
      found.beamW[k]! += beam;
      partsW[b]![k] = beam * POINT_PARTS + found.skyW[k]! * towardsSky.parts[b]! + ground;
    }
  }
  return found;
}

/** What a W/m² of each node of the sky brings in, of all points; and of each eighth, eight times its share of a year's sky. */
export interface TowardsSky {
  all: Float64Array;
  parts: number[];
}

/** The same of the eighths of points, by the sky of the year: hour by hour they hardly share it otherwise. */
export function towardsSkyOf(samples: RadiationSamples, parts: readonly Float64Array[]): TowardsSky {
  const all = new Float64Array(parts[0]!.length);
  for (const own of parts) own.forEach((value, d) => (all[d]! += value));
  const sky = skyOfYear(samples);
  const sum = (of: Float64Array) => of.reduce((total, value, d) => total + value * sky[d]!, 0);
  const whole = sum(all) || 1;
  return { all: onNodes(all), parts: parts.map((own) => (POINT_PARTS * sum(own)) / whole) };
}

const made = new WeakMap<RadiationSamples, Float32Array>();

/** The radiance × solid angle of every node in every hour that has any: hours × nodes, W/m² on a plane that faces it; made once. */
function skyOfHours(samples: RadiationSamples): Float32Array {
  let sky = made.get(samples);
  if (!sky) {
    const { skies } = samples;
    const { count, skyAt } = samples.hourly!;
    sky = new Float32Array(count * SKY_NODES);
    const radiance = new SkyRadiance(skySpiral(SKY_NODES));
    const one = new Float64Array(SKY_NODES);
    for (let k = 0; k < count; k++) {
      radiance.of(skies, skyAt[k]!, one);
      sky.set(one, k * SKY_NODES);
    }
    made.set(samples, sky);
  }
  return sky;
}
