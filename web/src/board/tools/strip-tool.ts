import type { Point3 } from '@dial-shade/core';
import { setView } from '../../state/view-store';
import { NEW_STRIP, useRays } from '../../sun/rays-store';
import { cutOf } from '../cut';
import type { BoardTool, ToolHost } from './host';

const toCentimetre = (p: Point3): Point3 => p.map((v) => Math.round(v * 1000) / 1000) as unknown as Point3;

/** Draws a strip in the plane of a section with two clicks. */
export function stripTool(host: ToolHost): BoardTool {
  const placeAt = (x: number, y: number): Point3 | null => {
    const { camera } = host.view.look;
    const plane = camera.kind === 'upright' ? cutOf(camera) : null;
    return plane && host.view.onPlane(x, y, plane.origin, plane.n);
  };
  return {
    move(x, y) {
      const place = placeAt(x, y);
      const { draft } = useRays.getState();
      if (place && draft) useRays.setState({ draft: { ...draft, to: place } });
      const length = place && draft ? Math.hypot(...place.map((v, k) => v - draft.from[k]!)) : null;
      host.say(
        !place
          ? { x, y, text: 'Look at a section to draw a strip' }
          : { x, y, text: length === null ? 'Click where the strip begins' : `${length.toFixed(2)} m` },
      );
    },
    click(x, y) {
      const place = placeAt(x, y);
      if (!place) return;
      const { draft, strip } = useRays.getState();
      if (!draft) {
        useRays.setState({ draft: { from: place, to: place } });
        return;
      }
      if (Math.hypot(...place.map((v, k) => v - draft.from[k]!)) < 0.02) return;
      const { widthM, reflectance, mirror } = strip ?? NEW_STRIP;
      useRays.setState({
        draft: null,
        strip: { from: toCentimetre(draft.from), to: toCentimetre(place), widthM, reflectance, mirror },
      });
      host.say(null);
      setView({ tool: { kind: 'select' } });
    },
    key(event) {
      if (event.key !== 'Escape' || !useRays.getState().draft) return false;
      useRays.setState({ draft: null });
      return true;
    },
  };
}
