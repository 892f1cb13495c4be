import { SkyRadiance, skySpiral } from '../sky';
import type { FlatTarget } from './flat-target';
import { angularG } from './kinds/angular-g';
import { type GlassPoints, POINT_PARTS } from './glass-points';
import { type Directions, type OpenDirections, openRow } from './kinds/kind';
import { offOpenGround, openGroundThrough } from './kinds/open-ground';
import { onNodes, type RadiationSamples, SKY_NODES } from './kinds/radiation-samples';
import { lightDirections } from './light-directions';
import { paneCells, type PaneRays } from './pane-cells';
import type { ReflectedLight } from './reflected-light';
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

/**
 * Of some panes together, for each eighth of their points: what a W/m² towards each direction brings onto the glass, or in
 * through the glass without its frame, W.
 * @param factorAt what of what comes in sheets inside leave
 */
function glassGains(
  { grid, part, targets, directions }: GlassPlan,
  tracer: { open(from: number, to: number): OpenDirections },
  reaches: Reaches,
  factorAt: ((target: number, direction: number) => number) | null,
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
    if (!whole) facing.set(key, (whole = gainsWhole(directions, n, reaches === 'glass' ? null : glass)));
    const target = grid.target[s]!;
    const area = grid.areas[s]!;
    const into = towards[part[s]!]!;
    openRow(open!, count, s % STRETCH, passed);
    for (let d = 0; d < count; d++) {
      const own = passed[d]! * whole[d]! * area;
      if (own > 0) into[d]! += factorAt && reaches === 'inside' ? own * factorAt(target, d) : own;
    }
  }
  return towards;
}

function paneOf({ grid, targets }: Pick<GlassPlan, 'grid' | 'targets'>, s: number) {
  return {
    n: [0, 1, 2].map((k) => grid.normals[s * 3 + k]!) as [number, number, number],
    glass: targets[grid.target[s]!]!.glass!,
  };
}

/** The same of a m² with nothing in its way; without glass, of the cosine alone. */
function gainsWhole(
  { count, vectors }: Directions,
  n: readonly [number, number, number],
  glass: NonNullable<FlatTarget['glass']> | null,
): Float64Array {
  const g = glass ? glass.gValue * (1 - glass.frameShare) : 1;
  const gains = new Float64Array(count);
  for (let d = 0; d < count; d++) {
    const cosine = n[0] * vectors[d * 3]! + n[1] * vectors[d * 3 + 1]! + n[2] * vectors[d * 3 + 2]!;
    if (cosine > 0) gains[d] = cosine * g * (glass ? angularG(cosine, glass) : 1);
  }
  return gains;
}

/** What a W/m² off open ground brings onto or through the panes, W, whatever stands before them. */
function seenBelow(plan: GlassPlan, reaches: Reaches, factorOf: (target: number) => number): number {
  const { grid } = plan;
  let sum = 0;
  for (let s = 0; s < grid.count; s++) {
    const { glass } = paneOf(plan, s);
    const seen =
      reaches === 'glass'
        ? offOpenGround(grid, s)
        : openGroundThrough(grid, s, glass) * factorOf(grid.target[s]!);
    sum += seen * grid.areas[s]!;
  }
  return sum;
}

/** The suns alone. */
export function sunsOf({ vectors, date, moments, suns }: RadiationSamples): Directions {
  return {
    count: suns,
    vectors: vectors.slice(0, suns * 3),
    date: date.slice(0, suns),
    ...(moments && {
      moments: { minutes: moments.minutes.slice(0, suns), beamWm2: moments.beamWm2.slice(0, suns) },
    }),
  };
}

/** So many directions of the sky alone, on the day that stands for that of samples. */
export function skyOf({ date, suns }: RadiationSamples, parts: number): Directions {
  return { count: parts, vectors: skySpiral(parts).vectors, date: new Uint16Array(parts).fill(date[suns]!) };
}

/** What reaches glass, and what of that comes in. */
export type Reaches = 'glass' | 'inside';

/** What a W/m² of each node of the sky brings, of all points; and of each eighth, eight times its share of a year's sky. */
interface TowardsSky {
  all: Float64Array;
  parts: number[];
}

/** How the panes take light while what hangs stands in one way. */
export interface GlassState {
  /** Of the sky, W of a W/m² of each node. */
  sky: TowardsSky;
  /** Of what is thrown back, by way of the suns of `lightDirections` and the nodes of the sky; or of open ground, of a W/m² off it. */
  back: { suns: Float64Array; nodes: Float64Array; parts: number[] } | number;
}

/** What a state is told from. */
export interface GlassStateAsked {
  reaches: Reaches;
  /** What of what comes in sheets inside leave, of each target. */
  factorOf: (target: number) => number;
  /** Directions of the sky, and what of them is open from the points past what stands so. */
  sky: Directions;
  openSky: (from: number, to: number) => OpenDirections;
  /** Light that is thrown back past what stands so, its directions kept; null for open ground. */
  light: ReflectedLight | null;
  rays: PaneRays;
}

/** The panes in one way that things hang. */
export function glassState(plan: GlassPlan, asked: GlassStateAsked): GlassState {
  const samples = plan.directions as RadiationSamples;
  const { reaches, factorOf, sky, openSky, light } = asked;
  const towards = glassGains({ ...plan, directions: sky }, { open: openSky }, reaches, factorOf);
  return {
    sky: towardsSkyOf(samples, towards),
    back: light ? backOf(plan, light, asked) : seenBelow(plan, reaches, factorOf),
  };
}

function backOf(plan: GlassPlan, light: ReflectedLight, { reaches, factorOf, rays }: GlassStateAsked) {
  const samples = plan.directions as RadiationSamples;
  const { suns, count } = lightDirections(samples);
  const towards = new Float64Array(count);
  const parts = new Float64Array(POINT_PARTS);
  const byCell = new Map<number, number>();
  for (const { point, cell, onto, inside } of paneCells(plan, light, rays)) {
    const weights = reaches === 'glass' ? onto : inside;
    const factor = plan.grid.areas[point]! * (reaches === 'glass' ? 1 : factorOf(plan.grid.target[point]!));
    cell.forEach((c, i) => {
      const weight = weights[i]! * factor;
      byCell.set(c, (byCell.get(c) ?? 0) + weight);
      parts[plan.part[point]!]! += weight * light.yearOf(c);
    });
  }
  for (const [cell, weight] of byCell) light.addTowards(cell, weight, towards);
  const whole = parts.reduce((sum, one) => sum + one, 0) || 1;
  return {
    suns: towards.subarray(0, suns),
    nodes: onNodes(towards.subarray(suns)),
    parts: Array.from(parts, (own) => (POINT_PARTS * own) / whole),
  };
}

/**
 * What reaches or comes through some panes hour by hour, W: beam, sky, and what is thrown back, on the glass without its
 * frame. Hours that have no radiation are not among them.
 * @param tracer of the points to `sunsOf`, each past what hangs as it does at its moment
 * @param stateOf how things hang at a sun; at rest for null
 * @param factorAt what sheets inside leave of a sun, of each target
 */
export function solarHours(
  plan: GlassPlan,
  tracer: { open(from: number, to: number): OpenDirections },
  reaches: Reaches,
  stateOf: (sun: number | null) => GlassState,
  factorAt: ((target: number, sun: number) => number) | null = null,
): SolarHours {
  const samples = plan.directions as RadiationSamples;
  const hourly = samples.hourly!;
  const sky = skyOfHours(samples);
  const make = () => new Float64Array(hourly.count);
  const partsW = Array.from({ length: POINT_PARTS }, make);
  const found: SolarHours = { beamW: make(), skyW: make(), groundW: make(), partsW, stamps: hourly.stamp };
  const beamOf = glassGains({ ...plan, directions: sunsOf(samples) }, tracer, reaches, factorAt);
  const { sunOf } = lightDirections(samples);
  for (let k = 0; k < hourly.count; k++) {
    const first = k > 0 ? hourly.sunEnds[k - 1]! : 0;
    const end = hourly.sunEnds[k]!;
    const state = stateOf(end > first ? hourly.sunOf[(first + end) >> 1]! : null);
    const { back } = state;
    const at = k * SKY_NODES;
    found.skyW[k] = weighed(sky, at, state.sky.all);
    if (typeof back === 'number') found.groundW[k] = back * hourly.reflected[k]!;
    else {
      let suns = 0;
      for (let i = first; i < end; i++) suns += back.suns[sunOf[hourly.sunOf[i]!]!]!;
      found.groundW[k] = suns * hourly.beam[k]! + weighed(sky, at, back.nodes);
    }
    for (let b = 0; b < POINT_PARTS; b++) {
      let beam = 0;
      for (let i = first; i < end; i++) beam += beamOf[b]![hourly.sunOf[i]!]!;
      beam *= hourly.beam[k]!;
      found.beamW[k]! += beam;
      partsW[b]![k] =
        beam * POINT_PARTS +
        found.skyW[k]! * state.sky.parts[b]! +
        found.groundW[k]! * (typeof back === 'number' ? 1 : back.parts[b]!);
    }
  }
  return found;
}

/** What the sky of an hour, which begins at a place among those of all, brings by what each of its nodes brings. */
function weighed(sky: Float32Array, at: number, by: Float64Array): number {
  let sum = 0;
  for (let d = 0; d < by.length; d++) sum += sky[at + d]! * by[d]!;
  return sum;
}

/** The same of the eighths of points, by the sky of the year: hour by hour they hardly share it otherwise. */
function towardsSkyOf(samples: RadiationSamples, parts: readonly Float64Array[]): TowardsSky {
  const nodes = parts.map(onNodes);
  const all = new Float64Array(SKY_NODES);
  for (const own of nodes) own.forEach((value, d) => (all[d]! += value));
  const { nodesByMonth } = samples;
  const sum = (of: Float64Array) =>
    nodesByMonth.reduce((total, radiation, i) => total + radiation * of[i % SKY_NODES]!, 0);
  const whole = sum(all) || 1;
  return { all, parts: nodes.map((own) => (POINT_PARTS * sum(own)) / whole) };
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
