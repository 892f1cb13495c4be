import { SkyRadiance, skySpiral } from '../sky';
import type { FlatTarget } from './flat-target';
import { angularG, hemisphericalG } from './kinds/angular-g';
import { type Directions, openRow } from './kinds/kind';
import { onNodes, type RadiationSamples, SKY_NODES } from './kinds/radiation-samples';
import type { StudyPlan } from './run-study';
import { FREE } from './sensor-grid';
import type { StudyTracer } from './study-tracer';

/** What comes in through glass in one hour. */
export interface SolarHours {
  beamW: Float64Array;
  skyW: Float64Array;
  groundW: Float64Array;
  /** Month × 10,000 + day × 100 + hour of local standard time, of each hour that has any radiation. */
  stamps: Uint32Array;
}

/** A plan of solar gain, as far as its glass and its directions go. */
type GlassPlan = Pick<StudyPlan, 'grid' | 'targets' | 'directions'>;

/** Of some sensors together: what a W/m² towards each direction, and from below, brings in through the glass without its frame, W. */
export function glassGains(
  { grid, targets, directions }: GlassPlan,
  tracer: StudyTracer,
  sensors: readonly number[],
): { towards: Float64Array; below: number } {
  const { count } = directions;
  const passed = new Float64Array(count);
  const towards = new Float64Array(count);
  let below = 0;
  // Sensors that face the same way behind the same glass have the same angles.
  const facing = new Map<string, { gains: Float64Array; below: number }>();
  for (const s of sensors) {
    if (grid.covered[s] !== FREE) continue;
    const glass = targets[grid.target[s]!]!.glass!;
    const n = [0, 1, 2].map((k) => grid.normals[s * 3 + k]!) as [number, number, number];
    const key = JSON.stringify([n, glass]);
    let whole = facing.get(key);
    if (!whole) facing.set(key, (whole = gainsWhole(directions, n, glass)));
    const area = grid.areas[s]!;
    openRow(tracer.open(s, s + 1), count, 0, passed);
    for (let d = 0; d < count; d++) towards[d]! += passed[d]! * whole.gains[d]! * area;
    below += whole.below * area;
  }
  return { towards, below };
}

/** The same of a m² with nothing in its way. */
function gainsWhole(
  { count, vectors }: Directions,
  n: readonly [number, number, number],
  glass: NonNullable<FlatTarget['glass']>,
): { gains: Float64Array; below: number } {
  const g = glass.gValue * (1 - glass.frameShare);
  const gains = new Float64Array(count);
  for (let d = 0; d < count; d++) {
    const cosine = n[0] * vectors[d * 3]! + n[1] * vectors[d * 3 + 1]! + n[2] * vectors[d * 3 + 2]!;
    if (cosine > 0) gains[d] = cosine * angularG(cosine, glass) * g;
  }
  return { gains, below: ((1 - n[2]) / 2) * hemisphericalG(glass) * g };
}

/** The directions of the sky alone. */
export function skyOf({ vectors, date, suns, parts }: RadiationSamples): Directions {
  return { count: parts, vectors: vectors.slice(suns * 3), date: date.slice(suns) };
}

/**
 * Solar gain hour by hour, W, over some sensors of a plan of solar gain that keeps its hours: beam, sky and ground-reflected,
 * each sensor for its cell of the glass without its frame. Hours that have no radiation are not among them.
 * @param skyAt what a W/m² of each node of the sky (see `onNodes`) brings in while what moves stands as at this sun; as at rest when left out
 */
export function solarHours(
  plan: StudyPlan,
  tracer: StudyTracer,
  sensors: readonly number[],
  skyAt: ((sun: number) => Float64Array) | null = null,
): SolarHours {
  const samples = plan.directions as RadiationSamples;
  const hourly = samples.hourly!;
  const { suns, skies } = samples;
  const radiance = new SkyRadiance(skySpiral(SKY_NODES));
  const one = new Float64Array(SKY_NODES);
  const make = () => new Float64Array(hourly.count);
  const found: SolarHours = { beamW: make(), skyW: make(), groundW: make(), stamps: hourly.stamp };
  const { towards, below } = glassGains(plan, tracer, sensors);
  const resting = onNodes(towards.subarray(suns));
  for (let k = 0; k < hourly.count; k++) {
    const first = k > 0 ? hourly.sunEnds[k - 1]! : 0;
    const end = hourly.sunEnds[k]!;
    let beam = 0;
    for (let i = first; i < end; i++) beam += towards[hourly.sunOf[i]!]!;
    found.beamW[k] = beam * hourly.beam[k]!;
    const towardsSky = skyAt && end > first ? skyAt(hourly.sunOf[(first + end) >> 1]!) : resting;
    radiance.of(skies, hourly.skyAt[k]!, one);
    let sky = 0;
    for (let d = 0; d < SKY_NODES; d++) sky += one[d]! * towardsSky[d]!;
    found.skyW[k] = sky;
    found.groundW[k] = below * hourly.reflected[k]!;
  }
  return found;
}
