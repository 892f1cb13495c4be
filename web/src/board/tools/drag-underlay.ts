import { change, formatLength, type Underlay } from '@dial-shade/core';
import { underlayInHand, useUnderlays } from '../../site/underlay-store';
import { currentProject, edit, endGesture } from '../../state/project-store';
import { type UnderlayHandle, underlayHandles } from '../underlay-handles';
import { type BoardTool, onGround, type ToolHost } from './host';

const REACH_PX = 15;
/** Whole steps of a turn that is dragged with Shift held, degrees; else to a tenth. */
const SHIFT_DEG = 15;

interface Held {
  underlay: Underlay;
  kind: UnderlayHandle['kind'];
  start: [number, number];
  isStepped: boolean;
}

/** Drags the picture on the ground that is worked on by its middle, and turns it by the handle beside its right edge. */
export function dragUnderlay(host: ToolHost): Required<Pick<BoardTool, 'down' | 'drag' | 'up'>> & {
  near(x: number, y: number): string | null;
} {
  let held: Held | null = null;
  const inHand = () =>
    host.now().stage === 'site'
      ? underlayInHand(currentProject(), useUnderlays.getState().chosen)
      : undefined;
  const handleAt = (underlay: Underlay, x: number, y: number) =>
    underlayHandles(underlay, currentProject().site.ground).find(({ at }) => {
      const seen = host.view.toScreen(at);
      return !seen.behind && Math.hypot(seen.x - x, seen.y - y) < REACH_PX;
    });
  return {
    near(x, y) {
      const underlay = inHand();
      const handle = underlay && handleAt(underlay, x, y);
      if (!handle) return null;
      return handle.kind === 'move'
        ? `Drag “${underlay.name}”`
        : `Turn “${underlay.name}”; with Shift by steps of ${SHIFT_DEG}°`;
    },
    down(x, y, event) {
      const underlay = inHand();
      const handle = underlay && handleAt(underlay, x, y);
      const start = handle && onGround(host, x, y);
      held = start ? { underlay, kind: handle.kind, start, isStepped: event.shiftKey } : null;
      return held !== null;
    },
    drag(x, y) {
      const p = held && onGround(host, x, y);
      if (!held || !p) return;
      const { underlay, kind, start } = held;
      const { units } = currentProject();
      const gestureKey = `underlay-${underlay.id}`;
      if (kind === 'move') {
        const by = [p[0] - start[0], p[1] - start[1]] as const;
        const at = underlay.at.map((v, k) => Math.round((v + by[k]!) * 100) / 100) as [number, number];
        const refused = edit(`move ${underlay.name}`, change('underlays', underlay.id, { at }), {
          gestureKey,
          quiet: true,
        });
        const text = refused ?? `${formatLength(at[0], units)} · ${formatLength(at[1], units)}`;
        host.say({ x, y, text });
        return;
      }
      const towards = (Math.atan2(p[1] - underlay.at[1], p[0] - underlay.at[0]) * 180) / Math.PI;
      const step = held.isStepped ? SHIFT_DEG : 0.1;
      const stepped = Math.round(towards / step) * step;
      const turnDeg = Number((stepped - 360 * Math.round(stepped / 360)).toFixed(4));
      edit(`turn ${underlay.name}`, change('underlays', underlay.id, { turnDeg }), {
        gestureKey,
        quiet: true,
      });
      host.say({ x, y, text: `Turned ${turnDeg.toFixed(1)}°` });
    },
    up() {
      held = null;
      endGesture();
      host.say(null);
    },
  };
}
