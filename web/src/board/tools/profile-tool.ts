import { type FlatTarget, type Point2, targetSurface } from '@dial-shade/core';
import { currentProject } from '../../state/project-store';
import { setView } from '../../state/view-store';
import { useProfile } from '../../studies/profile-store';
import { sensorAt } from '../result-cells';
import type { BoardTool, ToolHost } from './host';

/** Draws a line over a result with two clicks, along which it is read. */
export function profileTool(host: ToolHost): BoardTool {
  const shown = () => host.now().result.standing.result;

  /** The target of the result that lies at a place, and where on it. */
  function begin(x: number, y: number): { target: FlatTarget; p: Point2 } | null {
    const result = shown();
    const picked = host.view.pick(x, y);
    if (!result || !picked) return null;
    const { ground } = currentProject().site;
    const sensor = sensorAt(result, host.now().result.index, picked.point, ground);
    if (sensor === null) return null;
    const target = result.targets[result.grid.target[sensor]!]!;
    return { target, p: targetSurface(target, ground).under(picked.point).p };
  }

  /** Where the line of sight meets the surface of the target that the line began on. */
  function end(x: number, y: number): Point2 | null {
    const { draft } = useProfile.getState();
    const target = shown()?.targets.find(({ id }) => id === draft?.target);
    const picked = host.view.pick(x, y);
    return target && picked
      ? targetSurface(target, currentProject().site.ground).under(picked.point).p
      : null;
  }

  return {
    move(x, y) {
      const { draft } = useProfile.getState();
      if (!draft) {
        host.say({ x, y, text: begin(x, y) ? 'Click where the profile begins' : 'Point at a result' });
        return;
      }
      const to = end(x, y);
      if (!to) return;
      useProfile.setState({ draft: { ...draft, to } });
      host.say({ x, y, text: `${Math.hypot(to[0] - draft.from[0], to[1] - draft.from[1]).toFixed(2)} m` });
    },
    click(x, y) {
      const { draft } = useProfile.getState();
      if (!draft) {
        const found = begin(x, y);
        if (found) useProfile.setState({ draft: { target: found.target.id, from: found.p, to: found.p } });
        return;
      }
      const to = end(x, y);
      if (!to || Math.hypot(to[0] - draft.from[0], to[1] - draft.from[1]) < 0.05) return;
      useProfile.setState({ draft: null, line: { ...draft, to } });
      host.say(null);
      setView({ tool: { kind: 'select' } });
    },
    key(event) {
      if (event.key !== 'Escape' || !useProfile.getState().draft) return false;
      useProfile.setState({ draft: null });
      return true;
    },
  };
}
