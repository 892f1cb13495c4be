import { change, movedUnderlay, type Point2, turnedUnderlay, type Underlay } from '@dial-shade/core';
import { forgetPoints, underlayInHand, useUnderlays } from '../../site/underlay-store';
import { currentProject, edit } from '../../state/project-store';
import { setView, useView } from '../../state/view-store';
import { type BoardTool, onGround, type ToolHost } from './host';
import { snappedAt } from './snap';

/** What the next click is. */
const ASKED = [
  'Click a point of the picture',
  'Click where it belongs',
  'Click a second point of the picture, to turn it by',
  'Click where that belongs, or in its direction',
] as const;

/**
 * Sets a picture on the ground where it belongs: a point of it, then the place of the board that it comes to lie on, which snaps
 * to what is drawn there; a second pair turns it about the first. Its scale stays.
 */
export function fitUnderlay(host: ToolHost): BoardTool {
  const underlay = (): Underlay | undefined => {
    const { tool } = useView.getState();
    return underlayInHand(currentProject(), tool.kind === 'fit-underlay' ? tool.underlay : null);
  };
  /** Points of the picture are meant as they are clicked, places of the board snap. */
  const placeAt = (x: number, y: number, count: number): Point2 | null =>
    count % 2 === 0 ? onGround(host, x, y) : (snappedAt(host, x, y, [])?.p ?? null);
  const put = (name: string, next: Underlay) => {
    const { id, at, turnDeg } = next;
    const refused = edit(name, change('underlays', id, { at, turnDeg }), { quiet: true });
    if (refused) throw new Error(refused);
  };
  return {
    move(x, y) {
      const { points } = useUnderlays.getState();
      if (points.length % 2 === 1) useUnderlays.setState({ pointer: placeAt(x, y, points.length) });
      host.say({ x, y, text: ASKED[points.length] ?? ASKED[0] });
    },
    click(x, y) {
      const { points } = useUnderlays.getState();
      const p = placeAt(x, y, points.length);
      const picture = underlay();
      if (!picture) {
        host.say({ x, y, text: 'The picture is locked, hidden or gone; it cannot be placed.' });
        return;
      }
      if (!p) return;
      const next = [...points, p];
      const [from, to, second] = next;
      try {
        if (next.length === 2) put(`place ${picture.name}`, movedUnderlay(picture, from!, to!));
        if (next.length === 4) put(`turn ${picture.name}`, turnedUnderlay(picture, to!, second!, p));
      } catch (error) {
        host.say({ x, y, text: (error as Error).message });
        return;
      }
      if (next.length < 4) {
        useUnderlays.setState({ points: next, pointer: null });
        return;
      }
      forgetPoints();
      host.say(null);
      setView({ tool: { kind: 'select' } });
    },
    key(event) {
      if (event.key !== 'Escape') return false;
      const { points } = useUnderlays.getState();
      if (points.length % 2 === 1) useUnderlays.setState({ points: points.slice(0, -1), pointer: null });
      else {
        forgetPoints();
        setView({ tool: { kind: 'select' } });
      }
      return true;
    },
  };
}
