import { SkyRadiance, skySpiral } from '../sky';
import type { FlatTarget } from './flat-target';
import { angularG, hemisphericalG } from './kinds/angular-g';
import { type GlassPoints, POINT_PARTS } from './glass-points';
import { type Directions, type OpenDirections, openRow } from './kinds/kind';
import { onNodes, type RadiationSamples, SKY_NODES } from './kinds/radiation-samples';
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
  for (let s = 0; s < grid.count; s++) {
    if (grid.covered[s] !== FREE) continue;
    const { n, glass } = paneOf({ grid, targets }, s);
    const key = JSON.stringify([n, glass]);
    let whole = facing.get(key);
    if (!whole) facing.set(key, (whole = gainsWhole(directions, n, glass)));
    const area = grid.areas[s]!;
    const into = towards[part[s]!]!;
    openRow(tracer.open(s, s + 1), count, 0, passed);
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
  for (let s = 0; s < plan.grid.count; s++) {
    const { n, glass } = paneOf(plan, s);
    const g = glass.gValue * (1 - glass.frameShare);
    sum += ((1 - n[2]) / 2) * hemisphericalG(glass) * g * plan.grid.areas[s]!;
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
 * @param skyAt what a W/m² of each node of the sky (see `onNodes`) brings in, for each eighth of the points, while what moves
 * stands as at this sun; as at rest when left out
 */
export function solarHours(
  plan: GlassPlan,
  tracer: { open(from: number, to: number): OpenDirections },
  skyAt: ((sun: number) => Float64Array[]) | null = null,
): SolarHours {
  const samples = plan.directions as RadiationSamples;
  const hourly = samples.hourly!;
  const { suns, skies } = samples;
  const radiance = new SkyRadiance(skySpiral(SKY_NODES));
  const one = new Float64Array(SKY_NODES);
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
  const resting = towards.map((own) => onNodes(own.subarray(suns)));
  const below = gainBelow(plan);
  for (let k = 0; k < hourly.count; k++) {
    const first = k > 0 ? hourly.sunEnds[k - 1]! : 0;
    const end = hourly.sunEnds[k]!;
    const towardsSky = skyAt && end > first ? skyAt(hourly.sunOf[(first + end) >> 1]!) : resting;
    radiance.of(skies, hourly.skyAt[k]!, one);
    const ground = below * hourly.reflected[k]!;
    found.groundW[k] = ground;
    for (let b = 0; b < POINT_PARTS; b++) {
      let beam = 0;
      for (let i = first; i < end; i++) beam += towards[b]![hourly.sunOf[i]!]!;
      beam *= hourly.beam[k]!;
      let sky = 0;
      for (let d = 0; d < SKY_NODES; d++) sky += one[d]! * towardsSky[b]![d]!;
      found.beamW[k]! += beam;
      found.skyW[k]! += sky;
      partsW[b]![k] = (beam + sky) * POINT_PARTS + ground;
    }
  }
  return found;
}
