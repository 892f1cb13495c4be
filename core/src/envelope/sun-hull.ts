import { addDays, daysBetween, instantOf } from '../civil';
import type { Point3 } from '../geometry';
import type { Project, WindowOfTime } from '../project';
import { SunTrack, sunVector } from '../sun';

/** Suns are taken every minute; bearings are kept this fine, as parts of a full turn. */
const STEP_MS = 60_000;
const BEARINGS = 7200;
const TURN = 2 * Math.PI;
const WIDTH = TURN / BEARINGS;
/** Further apart than this two suns of one minute are not joined: the sun stands near the zenith, and limits nothing there. */
const MOST_TURN = 0.35;

/** Turns of more than this between two minutes are divided, radians, into so many parts at the most. */
const FINE_TURN = 0.008;
const MOST_PARTS = 60;

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
}

/** A sun as it is gathered. */
interface Sample {
  bearing: number;
  rise: number;
  atMs: number;
}

/** The suns of windows of time that stand before a face, minute by minute with both ends, in unbroken runs. */
function runsOf(site: Project['site'], windows: readonly WindowOfTime[], normal: Point3): Sample[][] {
  const { zone } = site.place;
  const track = new SunTrack(site.place);
  const runs: Sample[][] = [];
  for (const { from, to, startMinutes, endMinutes } of windows)
    for (let day = 0, count = daysBetween(from, to) + 1; day < count; day++) {
      const date = addDays(from, day);
      const end = instantOf(date, endMinutes, zone, true);
      let run: Sample[] = [];
      const close = () => {
        if (run.length > 0) runs.push(run);
        run = [];
      };
      for (let atMs = instantOf(date, startMinutes, zone); atMs <= end; atMs += STEP_MS) {
        const { altitudeDeg, azimuthDeg } = track.at(atMs);
        const [x, y, z] = sunVector(altitudeDeg, azimuthDeg, site.north.trueNorthDeg);
        if (z <= 0 || x * normal[0] + y * normal[1] + z * normal[2] <= 0) close();
        else {
          const sample = { bearing: Math.atan2(-y, -x), rise: z / Math.hypot(x, y), atMs };
          // Near the zenith the sun turns quickly: what lies between two minutes is looked at too.
          const last = run.at(-1);
          const turn = last ? Math.abs(shortest(sample.bearing - last.bearing)) : 0;
          const parts = Math.min(MOST_PARTS, Math.ceil(turn / FINE_TURN));
          for (let k = 1; k < parts; k++) {
            const ms = last!.atMs + ((atMs - last!.atMs) * k) / parts;
            const between = track.at(ms);
            const [u, v, w] = sunVector(between.altitudeDeg, between.azimuthDeg, site.north.trueNorthDeg);
            run.push({ bearing: Math.atan2(-v, -u), rise: w / Math.hypot(u, v), atMs: ms });
          }
          run.push(sample);
        }
      }
      close();
    }
  return runs;
}

/** How many suns windows of time come to before any is looked at. */
export function sunCount(windows: readonly WindowOfTime[]): number {
  return windows.reduce(
    (sum, { from, to, startMinutes, endMinutes }) =>
      sum + (daysBetween(from, to) + 1) * (endMinutes - startMinutes + 1),
    0,
  );
}

/** The lowest suns of windows of time that a face with this outward normal sees. */
export function sunHull(
  site: Project['site'],
  windows: readonly WindowOfTime[],
  normal: Point3 = [0, 0, 1],
): SunHull {
  const rise = new Float64Array(BEARINGS).fill(Infinity);
  const atMs = new Float64Array(BEARINGS).fill(NaN);
  const joined = new Uint8Array(BEARINGS);
  const ends: Sample[] = [];
  for (const run of runsOf(site, windows, normal)) {
    ends.push(run[0]!, run.at(-1)!);
    for (let i = 0; i + 1 < run.length; i++) {
      const [a, b] = [run[i]!, run[i + 1]!];
      const turn = shortest(b.bearing - a.bearing);
      if (Math.abs(turn) > MOST_TURN) {
        ends.push(a, b);
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
          atMs[slot] = (share < 0.5 ? first : last).atMs;
        }
      }
      // The run goes on over the bearings between these suns, and on to the next of them.
      for (let k = from - 1; k <= until; k++) joined[((k % BEARINGS) + BEARINGS) % BEARINGS] = 1;
    }
  }
  return hullOf(rise, atMs, joined, ends);
}

const shortest = (turn: number): number => turn - TURN * Math.round(turn / TURN);

function hullOf(
  rise: Float64Array,
  atMs: Float64Array,
  joined: Uint8Array,
  ends: readonly Sample[],
): SunHull {
  const all: (Sample & { joins: boolean })[] = [];
  for (let k = 0; k < BEARINGS; k++)
    if (rise[k]! < Infinity)
      all.push({
        bearing: k * WIDTH - Math.PI,
        rise: rise[k]!,
        atMs: atMs[k]!,
        joins: joined[k] === 1 && rise[(k + 1) % BEARINGS]! < Infinity,
      });
  for (const end of ends) {
    const k = Math.floor((end.bearing + Math.PI) / WIDTH);
    const [before, after] = [rise[k % BEARINGS]!, rise[(k + 1) % BEARINGS]!];
    const between = joined[k % BEARINGS] === 1 && before < Infinity && after < Infinity;
    const share = (end.bearing + Math.PI) / WIDTH - k;
    if (!between || end.rise < before + (after - before) * share - 1e-12)
      all.push({ ...end, joins: !between });
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
  return {
    count: all.length,
    bearing: Float64Array.from(all, (one) => one.bearing),
    rise: Float64Array.from(all, (one) => one.rise),
    atMs: Float64Array.from(all, (one) => one.atMs),
    isJoined,
    least: all.reduce((least, one) => Math.min(least, one.rise), Infinity),
  };
}

/** Whether one of two neighbours is the end of a run close to a bearing of the grid. */
function isEndOf(all: readonly { atMs: number }[], i: number): boolean {
  return Math.abs(all[i]!.atMs - all[i + 1]!.atMs) <= STEP_MS * 1.5;
}
