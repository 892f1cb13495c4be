import { editNorth, RAD, wrap180 } from '@dial-shade/core';
import { useMeshes } from '../../state/mesh-cache';
import { currentProject, edit, endGesture } from '../../state/project-store';
import { northMark } from '../sun-path-lines';
import { siteCircle } from '../scene-look';
import { type BoardTool, onGround, type ToolHost } from './host';

const REACH_PX = 16;

/** Turns true north by the N of the ring on the board, to half a degree; the drawing stays as drawn. */
export function turnNorth(host: ToolHost): Required<Pick<BoardTool, 'down' | 'drag' | 'up'>> & {
  isNear(x: number, y: number): boolean;
} {
  const circle = () => siteCircle(currentProject(), useMeshes.getState().meshes);
  const isNear = (x: number, y: number) => {
    if (host.now().stage !== 'site') return false;
    const at = host.view.toScreen(northMark(currentProject(), circle()));
    return !at.behind && Math.hypot(at.x - x, at.y - y) < REACH_PX;
  };
  return {
    isNear,
    down: (x, y) => isNear(x, y),
    drag(x, y) {
      const { centre } = circle();
      const at = onGround(host, x, y);
      if (!at) return;
      const deg = Math.round(wrap180(Math.atan2(at[0] - centre[0], at[1] - centre[1]) / RAD) * 2) / 2;
      edit('turn true north', editNorth({ trueNorthDeg: deg }), { gestureKey: 'north' });
      host.say({ x, y, text: `True north ${deg.toFixed(1)}°` });
    },
    up() {
      endGesture();
      host.say(null);
    },
  };
}
