import { forgetPoints, useUnderlays } from '../../site/underlay-store';
import { setView } from '../../state/view-store';
import { type BoardTool, onGround, type ToolHost } from './host';

/** Two points of a picture on the ground, whose distance is then typed; Escape takes the points back, then ends. */
export function scaleUnderlay(host: ToolHost): BoardTool {
  return {
    move(x, y) {
      const pointer = onGround(host, x, y);
      const { points } = useUnderlays.getState();
      if (points.length === 1) useUnderlays.setState({ pointer });
      host.say(
        points.length === 2
          ? null
          : { x, y, text: points.length === 0 ? 'Click a point' : 'Click the other point' },
      );
    },
    click(x, y) {
      const p = onGround(host, x, y);
      if (!p) return;
      const { points } = useUnderlays.getState();
      // A third click begins anew.
      useUnderlays.setState({ points: points.length === 1 ? [...points, p] : [p], pointer: null });
      host.say(null);
    },
    key(event) {
      if (event.key !== 'Escape') return false;
      if (useUnderlays.getState().points.length > 0) forgetPoints();
      else setView({ tool: { kind: 'select' } });
      return true;
    },
  };
}
