import { addDays, daysBetween, instantOf } from '../civil';
import type { Site, WindowOfTime } from '../project';
import type { WeatherHour } from './sun-of-hours';

const HOUR_MS = 3_600_000;

/** The share of each hour that lies in any of some windows of time on site, by their days of the year; and their days. */
export function shareInWindow(
  windows: readonly WindowOfTime[],
  site: Site,
): { shareOf: (hour: WeatherHour) => number; days: number } {
  const { zone } = site.place;
  const all: { from: number; to: number }[] = [];
  const dates = new Set<string>();
  for (const window of windows) {
    const days = daysBetween(window.from, window.to) + 1;
    for (let i = 0; i < days; i++) {
      const monthDay = addDays(window.from, i).slice(5);
      if (monthDay === '02-29' && new Date(Date.UTC(site.year, 1, 29)).getUTCMonth() !== 1) continue;
      const date = `${site.year}-${monthDay}`;
      dates.add(date);
      all.push({
        from: instantOf(date, window.startMinutes, zone),
        to: instantOf(date, window.endMinutes, zone, true),
      });
    }
  }
  const parts = joined(all);
  const shareOf = ({ startMs }: WeatherHour) => {
    let share = 0;
    for (let i = firstThatEndsAfter(parts, startMs); i < parts.length; i++) {
      const { from, to } = parts[i]!;
      if (from >= startMs + HOUR_MS) break;
      share += (Math.min(to, startMs + HOUR_MS) - Math.max(from, startMs)) / HOUR_MS;
    }
    return Math.min(1, share);
  };
  return { shareOf, days: dates.size };
}

/** Stretches of time one after the other, those that overlap made one. */
function joined(parts: { from: number; to: number }[]): { from: number; to: number }[] {
  const found: { from: number; to: number }[] = [];
  for (const part of [...parts].sort((a, b) => a.from - b.from)) {
    const last = found.at(-1);
    if (last && part.from <= last.to) last.to = Math.max(last.to, part.to);
    else found.push({ ...part });
  }
  return found;
}

function firstThatEndsAfter(parts: readonly { to: number }[], at: number): number {
  let [low, high] = [0, parts.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (parts[middle]!.to > at) high = middle;
    else low = middle + 1;
  }
  return low;
}
