import { addDays, clockAt, daysBetween, instantOf } from '../civil';
import type { Project, WindowOfTime } from '../project';
import { beamAt, hasMoving } from '../shade';
import { SunTrack, sunVector } from '../sun';
import { dayNumber } from '../scene';
import type { Directions } from './kinds/kind';

/** Suns above the horizon through a window of time. */
export interface SunSamples extends Directions {
  /** Minutes of the window that the sample stands for. */
  minutes: Float64Array;
  /** Day of the window, from 0. */
  day: Uint16Array;
  /** Clock minutes on site at the middle of the sample. */
  clock: Float64Array;
  /** Place of the sample in the unbroken sequence of all steps, so that neighbours in time differ by one. */
  step: Uint32Array;
  /** Days in the window. */
  days: number;
  /** Days of the window on which the sun is not above the horizon within its hours. */
  sunlessDays: number;
}

/**
 * Samples windows of time: on each date, from its first to its last clock minute, steps of `stepMinutes`, the sun taken
 * at the middle of each (the last may be shorter). A step counts when the sun's centre is above the horizon, without
 * refraction, and where no earlier window had that moment. On the date of a clock change the window is as much longer or
 * shorter as the clocks make it.
 * @param beamOf beam at a moment, where anything goes by it
 */
export function sunSamples(
  site: Project['site'],
  windows: readonly WindowOfTime[],
  stepMinutes: number,
  beamOf: ReturnType<typeof beamForMoving> = null,
): SunSamples {
  const { zone } = site.place;
  const track = new SunTrack(site.place);
  const vectors: number[] = [];
  const minutes: number[] = [];
  const dayOf: number[] = [];
  const dates: number[] = [];
  const clock: number[] = [];
  const step: number[] = [];
  const beams: number[] = [];
  const covered: { from: number; to: number }[] = [];
  let [counter, days, sunlessDays] = [0, 0, 0];
  for (const window of windows) {
    const earlier = covered.length;
    const count = daysBetween(window.from, window.to) + 1;
    for (let i = 0; i < count; i++) {
      const date = addDays(window.from, i);
      const start = instantOf(date, window.startMinutes, zone);
      const end = instantOf(date, window.endMinutes, zone, true);
      const even = end - start === (window.endMinutes - window.startMinutes) * 60_000;
      const before = minutes.length;
      counter++;
      for (let at = start; at < end; at += stepMinutes * 60_000) {
        const length = Math.min(stepMinutes, (end - at) / 60_000);
        const middle = at + length * 30_000;
        const sun = track.at(middle);
        counter++;
        if (sun.altitudeDeg <= 0) continue;
        if (isCovered(covered, earlier, middle)) continue;
        vectors.push(...sunVector(sun.altitudeDeg, sun.azimuthDeg, site.north.trueNorthDeg));
        minutes.push(length);
        dayOf.push(days);
        dates.push(dayNumber(date));
        clock.push(even ? window.startMinutes + (middle - start) / 60_000 : clockAt(middle, zone).minutes);
        step.push(counter);
        if (beamOf) beams.push(beamOf(middle) ?? NaN);
      }
      if (windows.length > 1) covered.push({ from: start, to: end });
      if (minutes.length === before) sunlessDays++;
      days++;
    }
  }
  return {
    count: minutes.length,
    vectors: Float64Array.from(vectors),
    minutes: Float64Array.from(minutes),
    day: Uint16Array.from(dayOf),
    date: Uint16Array.from(dates),
    clock: Float64Array.from(clock),
    step: Uint32Array.from(step),
    days,
    sunlessDays,
    ...(beamOf && { moments: { minutes: Float32Array.from(clock), beamWm2: Float32Array.from(beams) } }),
  };
}

/** Whether one of the first so many stretches of time holds a moment. */
function isCovered(stretches: readonly { from: number; to: number }[], count: number, at: number): boolean {
  for (let i = 0; i < count; i++) if (at >= stretches[i]!.from && at < stretches[i]!.to) return true;
  return false;
}

/** What to know of a window of time without sun, or with days without. @param so what comes of a window without any */
export function sunlessNotes({ count, days, sunlessDays }: SunSamples, so: string): string[] {
  if (count === 0)
    return [
      `The sun is below the horizon throughout this window of time (polar night, or night hours), so ${so}.`,
    ];
  if (sunlessDays > 0)
    return [`On ${sunlessDays} of the ${days} days the sun is below the horizon throughout these hours.`];
  return [];
}

/** The beam at moments, where anything in the project moves by it; null where nothing does. */
export function beamForMoving(project: Project): ((atMs: number) => number | null) | null {
  return project.options.some(({ id }) => hasMoving(project, id)) ? (atMs) => beamAt(project, atMs) : null;
}
