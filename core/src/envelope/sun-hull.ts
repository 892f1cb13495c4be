import { addDays, daysBetween, instantOf } from '../civil';
import type { Point3 } from '../geometry';
import type { Envelope, Project, WindowOfTime } from '../project';
import { solarInstant, SunTrack, sunVector } from '../sun';

/** Suns are taken this far apart and wherever one rises or sets; bearings are kept this fine, as parts of a full turn. */
const STEP_MS = 240_000;
const BEARINGS = 7200;
const TURN = 2 * Math.PI;
const WIDTH = TURN / BEARINGS;
/** Further apart than this two suns of one step are not joined: the sun stands near the zenith, and limits nothing there. */
const MAX_TURN = 0.35;

/** Turns of more than this between two suns are divided, radians, into so many parts at the most. */
const FINE_TURN = 0.02;
const MAX_PARTS = 60;

const MINUTE_MS = 60_000;

/** Bearings of which the least rise is kept together, so that most need not be looked at. */
export const BLOCK = 32;

/** Suns that windows of time may have. */
export const MAX_SUNS = 2_000_000;

/**
 * The lowest sun of some windows of time for each bearing: no higher one puts shade on what a lower one does not reach too.
 * Bearings are those in which shade falls, radians anticlockwise from drawing east, ascending.
 */
export interface SunHull {
  count: number;
  bearing: Float64Array;
  /** Tangent of the altitude. */
  rise: Float64Array;
  /** When the sun stands there, epoch ms, to the minute. */
  atMs: Float64Array;
  /** 1 where every bearing between this one and the next has a sun: its rise lies between theirs. */
  isJoined: Uint8Array;
  /** The least rise of all; infinite without any. */
  least: number;
  /** Unit vector of each bearing. */
  dx: Float64Array;
  dy: Float64Array;
  /** The least rise of each `BLOCK` bearings. */
  blockRise: Float64Array;
}

/** A sun as it is gathered. */
interface Sample {
  bearing: number;
  rise: number;
  atMs: number;
}

/** An end of a run, and on which side of it the run lies: towards greater bearings, smaller ones, neither. */
type End = Sample & { side: number };

/** So near to an end lies what goes on past it, radians. */
const BESIDE = 1e-9;

/** A sun over the horizon, and the unit vector towards it. */
interface Sun extends Sample {
  at: Point3;
}

/** Halvings of a step in which a sun rises, sets or comes round a face: to less than a second. */
const HALVINGS = 10;

function sampleOf(at: Point3, atMs: number): Sun {
  return { bearing: Math.atan2(-at[1], -at[0]), rise: at[2] / Math.hypot(at[0], at[1]), atMs, at };
}

/** Windows of time, and what their hours are told by. */
export type KeptTime = Pick<Envelope['keep'][number], 'windows' | 'basis'>;

/** Where between two moments something ends: the last moment, from `a` on, for which it still holds. */
function lastOf(a: number, b: number, holds: (atMs: number) => boolean): number {
  let [yes, no] = [a, b];
  for (let i = 0; i < HALVINGS; i++) {
    const middle = (yes + no) / 2;
    if (holds(middle)) yes = middle;
    else no = middle;
  }
  return yes;
}

/** The suns over the horizon of windows of time, in unbroken runs with both ends. */
function runsOf(site: Project['site'], { windows, basis }: KeptTime): Sun[][] {
  const { zone } = site.place;
  const track = new SunTrack(site.place);
  /** When it is so late on a date; where the clocks show a time twice, the first or the last of them. */
  const instant = (date: string, minutes: number, isLast: boolean) =>
    basis === 'solar' ? solarInstant(date, minutes, site, track) : instantOf(date, minutes, zone, isLast);
  const towards = (atMs: number) => {
    const { altitudeDeg, azimuthDeg } = track.at(atMs);
    return sunVector(altitudeDeg, azimuthDeg, site.north.trueNorthDeg);
  };
  const isUp = (atMs: number) => towards(atMs)[2] > 0;
  const runs: Sun[][] = [];
  for (const { from, to, startMinutes, endMinutes } of windows)
    for (let day = 0, count = daysBetween(from, to) + 1; day < count; day++) {
      const date = addDays(from, day);
      const end = instant(date, endMinutes, true);
      let run: Sun[] = [];
      const push = (atMs: number, at: Point3) => {
        const sun = sampleOf(at, atMs);
        // Near the zenith the sun turns quickly: what lies between is looked at too.
        const last = run.at(-1);
        const turn = last ? Math.abs(shortest(sun.bearing - last.bearing)) : 0;
        const parts = Math.min(MAX_PARTS, Math.ceil(turn / FINE_TURN));
        for (let k = 1; k < parts; k++) {
          const ms = last!.atMs + ((atMs - last!.atMs) * k) / parts;
          run.push(sampleOf(towards(ms), ms));
        }
        run.push(sun);
      };
      let before: { atMs: number; up: boolean } | null = null;
      for (let atMs = instant(date, startMinutes, false); ; atMs = Math.min(end, atMs + STEP_MS)) {
        const at = towards(atMs);
        const up = at[2] > 0;
        if (before && before.up !== up) {
          const ms = up ? lastOf(atMs, before.atMs, isUp) : lastOf(before.atMs, atMs, isUp);
          push(ms, towards(ms));
        }
        if (up) push(atMs, at);
        else if (run.length > 0) {
          runs.push(run);
          run = [];
        }
        before = { atMs, up };
        if (atMs >= end) break;
      }
      if (run.length > 0) runs.push(run);
    }
  return runs;
}

/** Parts of runs in which the sun stands before a face with this outward normal. */
function before(runs: readonly Sun[][], [nx, ny, nz]: Point3): Sun[][] {
  const facing = ({ at }: Sun) => at[0] * nx + at[1] * ny + at[2] * nz;
  return runs.flatMap((run) => {
    if (run.every((sun) => facing(sun) > 0)) return [run];
    const parts: Sun[][] = [];
    let part: Sun[] = [];
    run.forEach((sun, i) => {
      const [was, now] = [i > 0 ? facing(run[i - 1]!) : 0, facing(sun)];
      if (i > 0 && was > 0 !== now > 0) part.push(between(run[i - 1]!, sun, was / (was - now)));
      if (now > 0) part.push(sun);
      else if (part.length > 0) {
        parts.push(part);
        part = [];
      }
    });
    if (part.length > 0) parts.push(part);
    return parts;
  });
}

/** Parts of runs whose suns pass. */
function passing(runs: readonly Sun[][], isWanted: (towards: Point3) => boolean): Sun[][] {
  return runs.flatMap((run) => {
    const parts: Sun[][] = [];
    let part: Sun[] = [];
    for (const sun of run) {
      if (isWanted(sun.at)) part.push(sun);
      else if (part.length > 0) {
        parts.push(part);
        part = [];
      }
    }
    return part.length > 0 ? [...parts, part] : parts;
  });
}

/** The sun a share of the way from one to the next. */
function between(a: Sun, b: Sun, share: number): Sun {
  const mixed = a.at.map((v, k) => v + (b.at[k]! - v) * share) as unknown as Point3;
  return sampleOf(mixed, a.atMs + (b.atMs - a.atMs) * share);
}

/** How many suns windows of time come to before any is looked at. */
export function sunCount(windows: readonly WindowOfTime[]): number {
  return windows.reduce(
    (sum, { from, to, startMinutes, endMinutes }) =>
      sum + (daysBetween(from, to) + 1) * (endMinutes - startMinutes + 1),
    0,
  );
}

/** What was worked out last, by place, windows and facing: one area is dragged while the suns of the others stay. */
class Last<T> {
  private readonly known = new Map<string, T>();

  constructor(private readonly most: number) {}

  get(key: string, make: () => T): T {
    const found = this.known.get(key) ?? make();
    this.known.delete(key);
    this.known.set(key, found);
    if (this.known.size > this.most) this.known.delete(this.known.keys().next().value!);
    return found;
  }
}

const lastRuns = new Last<Sun[][]>(12);
const lastHulls = new Last<SunHull>(64);

/**
 * The lowest suns of windows of time that a face with this outward normal sees.
 * @param isWanted suns that need not be kept are left out, by the unit vector towards them
 */
export function sunHull(
  site: Project['site'],
  time: KeptTime,
  normal: Point3 = [0, 0, 1],
  isWanted?: (towards: Point3) => boolean,
): SunHull {
  const about = JSON.stringify([site.place, site.north.trueNorthDeg, time.windows, time.basis]);
  const seen = () =>
    before(
      lastRuns.get(about, () => runsOf(site, time)),
      normal,
    );
  if (isWanted) return hullOfRuns(passing(seen(), isWanted));
  return lastHulls.get(`${about}${normal.join()}`, () => hullOfRuns(seen()));
}

function hullOfRuns(runs: readonly Sample[][]): SunHull {
  const rise = new Float64Array(BEARINGS).fill(Infinity);
  const atMs = new Float64Array(BEARINGS).fill(NaN);
  const joined = new Uint8Array(BEARINGS);
  const ends: End[] = [];
  for (const run of runs) {
    const way = (i: number) => Math.sign(shortest(run[i + 1]!.bearing - run[i]!.bearing));
    ends.push({ ...run[0]!, side: run.length > 1 ? way(0) : 0 });
    ends.push({ ...run.at(-1)!, side: run.length > 1 ? -way(run.length - 2) : 0 });
    for (let i = 0; i + 1 < run.length; i++) {
      const [a, b] = [run[i]!, run[i + 1]!];
      const turn = shortest(b.bearing - a.bearing);
      if (Math.abs(turn) > MAX_TURN) {
        ends.push({ ...a, side: 0 }, { ...b, side: 0 });
        continue;
      }
      const [first, last] = turn >= 0 ? [a, b] : [b, a];
      const span = Math.abs(turn);
      const from = Math.ceil((first.bearing + Math.PI) / WIDTH - 1e-9);
      const until = Math.floor((first.bearing + span + Math.PI) / WIDTH + 1e-9);
      for (let k = from; k <= until; k++) {
        const share = span > 0 ? (k * WIDTH - Math.PI - first.bearing) / span : 0;
        const at = first.rise + (last.rise - first.rise) * share;
        const slot = ((k % BEARINGS) + BEARINGS) % BEARINGS;
        if (at < rise[slot]!) {
          rise[slot] = at;
          atMs[slot] = first.atMs + (last.atMs - first.atMs) * Math.max(0, Math.min(1, share));
        }
      }
      // The run goes on over the bearings between these suns, and on to the next of them.
      for (let k = from - 1; k <= until; k++) joined[((k % BEARINGS) + BEARINGS) % BEARINGS] = 1;
    }
  }
  return hullOf(rise, atMs, joined, ends);
}

const shortest = (turn: number): number => turn - TURN * Math.round(turn / TURN);

function hullOf(rise: Float64Array, atMs: Float64Array, joined: Uint8Array, ends: readonly End[]): SunHull {
  const all: (Sample & { joins: boolean })[] = [];
  for (let k = 0; k < BEARINGS; k++)
    if (rise[k]! < Infinity)
      all.push({
        bearing: k * WIDTH - Math.PI,
        rise: rise[k]!,
        atMs: atMs[k]!,
        joins: joined[k] === 1 && rise[(k + 1) % BEARINGS]! < Infinity,
      });
  const slotOf = ({ bearing }: Sample) => Math.floor((bearing + Math.PI) / WIDTH);
  const bySlot = new Map<number, End[]>();
  for (const end of ends) bySlot.set(slotOf(end), [...(bySlot.get(slotOf(end)) ?? []), end]);
  for (const [k, some] of bySlot) {
    const [before, after] = [rise[k % BEARINGS]!, rise[(k + 1) % BEARINGS]!];
    const isBetween = joined[k % BEARINGS] === 1 && before < Infinity && after < Infinity;
    /** Never over a run that ends in the same slot and goes over this bearing. */
    const put = (one: Sample & { joins: boolean }) => {
      const over = some
        .filter(({ bearing, side }) => side !== 0 && side * (one.bearing - bearing) >= 0)
        .reduce((least, end) => Math.min(least, end.rise), Infinity);
      all.push({ ...one, rise: Math.min(one.rise, over) });
    };
    for (const end of some) {
      const share = (end.bearing + Math.PI) / WIDTH - k;
      if (isBetween && end.rise >= before + (after - before) * share - 1e-12) continue;
      put({ ...end, joins: !isBetween });
      if (!isBetween) continue;
      // Where another run goes on past this end, its sun stands beside it.
      for (const [side, slot, beyond] of [
        [-1, k % BEARINGS, (k + BEARINGS - 1) % BEARINGS],
        [1, (k + 1) % BEARINGS, (k + 2) % BEARINGS],
      ] as const) {
        if (end.side === side) continue;
        const reach = side < 0 ? share : 1 - share;
        const slope = rise[beyond]! < Infinity ? rise[slot]! - rise[beyond]! : 0;
        put({
          bearing: end.bearing + side * BESIDE,
          rise: Math.max(end.rise, rise[slot]! + Math.min(0, slope) * reach),
          atMs: atMs[slot]!,
          joins: true,
        });
      }
    }
  }
  all.sort((a, b) => a.bearing - b.bearing || a.rise - b.rise);
  const isJoined = Uint8Array.from(all, ({ bearing, joins }, i) => {
    const next = all[i + 1];
    // Past the last bearing of the grid a run goes on to its end, and before the first it comes from one.
    return Number(
      next !== undefined &&
        next.bearing - bearing <= WIDTH * 1.001 &&
        (joins || next.joins || isEndOf(all, i)),
    );
  });
  const blockRise = new Float64Array(Math.ceil(all.length / BLOCK)).fill(Infinity);
  all.forEach((one, i) => {
    const block = Math.floor(i / BLOCK);
    blockRise[block] = Math.min(blockRise[block]!, one.rise);
  });
  return {
    count: all.length,
    blockRise,
    dx: Float64Array.from(all, (one) => Math.cos(one.bearing)),
    dy: Float64Array.from(all, (one) => Math.sin(one.bearing)),
    bearing: Float64Array.from(all, (one) => one.bearing),
    rise: Float64Array.from(all, (one) => one.rise),
    atMs: Float64Array.from(all, (one) => Math.round(one.atMs / MINUTE_MS) * MINUTE_MS),
    isJoined,
    least: all.reduce((least, one) => Math.min(least, one.rise), Infinity),
  };
}

/** Whether one of two neighbours is the end of a run close to a bearing of the grid. */
function isEndOf(all: readonly { atMs: number }[], i: number): boolean {
  return Math.abs(all[i]!.atMs - all[i + 1]!.atMs) <= STEP_MS * 1.5;
}
