import { RAD } from '@dial-shade/core';
import { setView, useView } from '../../state/view-store';
import { NORMAL_FOV_DEG } from '../pane-cameras';
import { showCamera } from '../pane-registry';
import { type BoardTool, onGround, type ToolHost } from './host';

/** Puts the eye of the pane where one clicks: on the ground, a floor, a roof, a sill. */
export function standTool(host: ToolHost): BoardTool {
  const placeAt = (x: number, y: number): [number, number, number] | null => {
    const picked = host.view.pick(x, y);
    if (picked) return picked.point;
    const flat = onGround(host, x, y);
    return flat && [flat[0], flat[1], 0];
  };
  return {
    move(x, y) {
      const place = placeAt(x, y);
      host.say(place && { x, y, text: `Stand here, at ${place[2].toFixed(2)} m` });
    },
    click(x, y) {
      const { tool } = useView.getState();
      const place = placeAt(x, y);
      if (tool.kind !== 'stand' || !place) return;
      const { camera } = host.view.look;
      const kept =
        camera.kind === 'eye' ? camera : { bearingDeg: bearingOf(host), pitchDeg: 0, fovDeg: NORMAL_FOV_DEG };
      const at: [number, number, number] = [place[0], place[1], place[2] + tool.heightM];
      host.say(null);
      showCamera({ ...kept, kind: 'eye', at });
      setView({ tool: { kind: 'select' } });
    },
  };
}

/** Bearing in which the pane looks now, degrees clockwise from drawing north. */
function bearingOf({ view }: ToolHost): number {
  const { camera } = view.look;
  if (camera.kind !== 'orbit') return 0;
  const [dx, dy] = [camera.lookAt[0] - camera.eye[0], camera.lookAt[1] - camera.eye[1]];
  return Math.hypot(dx, dy) < 1e-6 ? 0 : Math.atan2(dx, dy) / RAD;
}
