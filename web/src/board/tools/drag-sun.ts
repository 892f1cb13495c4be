import { analemma, clockAt, dayArc, formatClock, instantOf, sunPosition } from '@dial-shade/core';
import { shortDate } from '../../almanac/wording';
import { useMeshes } from '../../state/mesh-cache';
import { currentProject } from '../../state/project-store';
import { usePanes } from '../../state/panes-store';
import { shared } from '../../state/shared-memo';
import { setView, useView } from '../../state/view-store';
import { onDome, standardMinutes } from '../sun-path-lines';
import { siteCircle } from '../scene-look';
import type { BoardTool, ToolHost } from './host';

const REACH_PX = 18;
/** How fine the sun is dragged along its day, minutes. */
const STEP_MINUTES = 5;

interface Stop {
  x: number;
  y: number;
  date: string;
  minutes: number;
}

/**
 * Drags the sun on its path: along its day, or, begun with Shift, along its hour of standard time through the year. The
 * moment follows to where the path comes nearest to the pointer.
 */
export function dragSun(host: ToolHost): Required<Pick<BoardTool, 'down' | 'drag' | 'up'>> & {
  isNear(x: number, y: number): boolean;
} {
  let stops: Stop[] = [];
  const isShown = () => {
    const { panes, focused } = usePanes.getState();
    return host.now().stage === 'sun' && panes.find(({ id }) => id === focused)!.drawing.sunPath;
  };
  const dome = () => {
    const project = currentProject();
    const { meshes } = useMeshes.getState();
    return onDome(
      project,
      shared('site circle', [project, meshes], () => siteCircle(project, meshes)),
    );
  };
  /** Places of the path that are above the horizon, on the screen. */
  const stopsOf = (alongYear: boolean): Stop[] => {
    const project = currentProject();
    const { place, year } = project.site;
    const { date, minutes } = useView.getState();
    const at = dome();
    const suns = alongYear
      ? analemma(standardMinutes(date, minutes, year, place.zone), year, place, place.zone, 1)
      : dayArc(date, place, place.zone, STEP_MINUTES);
    return suns.flatMap(({ atMs, altitudeDeg, azimuthDeg }) => {
      const clock = clockAt(atMs, place.zone);
      if (altitudeDeg < 0 || !clock.date.startsWith(String(year))) return [];
      const [x, y, z] = at(altitudeDeg, azimuthDeg);
      const seen = host.view.toScreen([x, y, z]);
      return seen.behind
        ? []
        : [{ x: seen.x, y: seen.y, date: clock.date, minutes: Math.round(clock.minutes) }];
    });
  };
  const nearest = (list: readonly Stop[], x: number, y: number) =>
    list.reduce<Stop | null>(
      (best, stop) =>
        !best || Math.hypot(stop.x - x, stop.y - y) < Math.hypot(best.x - x, best.y - y) ? stop : best,
      null,
    );
  const isNear = (x: number, y: number) => {
    if (!isShown()) return false;
    const { date, minutes } = useView.getState();
    const project = currentProject();
    const { place } = project.site;
    const sun = sunPosition(instantOf(date, minutes, place.zone), place);
    if (sun.altitudeDeg <= 0) return false;
    const [px, py, pz] = dome()(sun.altitudeDeg, sun.azimuthDeg);
    const seen = host.view.toScreen([px, py, pz]);
    return !seen.behind && Math.hypot(seen.x - x, seen.y - y) < REACH_PX;
  };
  return {
    isNear,
    down(x, y, event) {
      if (!isNear(x, y)) return false;
      stops = stopsOf(event.shiftKey);
      return true;
    },
    drag(x, y) {
      const stop = nearest(stops, x, y);
      if (!stop) return;
      setView({ date: stop.date, minutes: stop.minutes, play: null });
      host.say({ x, y, text: `${shortDate(stop.date)}, ${formatClock(stop.minutes)}` });
    },
    up() {
      stops = [];
      host.say(null);
    },
  };
}
