import { findOwner, formatLength, moveOwners, type OwnerRef, shiftBy } from '@dial-shade/core';
import { currentProject, edit, endGesture } from '../../state/project-store';
import { setView, useView } from '../../state/view-store';
import { isSelected } from '../scene-look';
import { type BoardTool, pickOwner, selectionOf, type ToolHost } from './host';

const STEP_M = 0.25;

/** Drags what is under the pointer over the plan, with everything else that is chosen. */
export function moveTool(host: ToolHost): BoardTool {
  let held: {
    owners: OwnerRef[];
    level: number;
    from: [number, number];
    moved: [number, number];
    name: string;
  } | null = null;
  return {
    down(x, y) {
      const found = pickOwner(host, x, y);
      if (!found) return false;
      const { selection, also } = useView.getState();
      const all = selection ? [selection, ...also] : [];
      const together = all.some((one) => isSelected(found.owner, one));
      const next = selectionOf(host, found.picked, found.owner);
      if (!together) setView({ selection: next, also: [] });
      const owners = together ? all : [next];
      const [px, py, level] = found.picked.point;
      const name =
        owners.length > 1 ? `${owners.length} objects` : (findOwner(currentProject(), next)?.name ?? '');
      held = { owners, level, from: [px, py], moved: [0, 0], name };
      return true;
    },
    drag(x, y) {
      const p = held && host.view.onLevel(x, y, held.level);
      if (!held || !p) return;
      const step = (v: number) => Math.round(v / STEP_M) * STEP_M;
      const wanted: [number, number] = [step(p[0] - held.from[0]), step(p[1] - held.from[1])];
      const [dx, dy] = [wanted[0] - held.moved[0], wanted[1] - held.moved[1]];
      if (dx !== 0 || dy !== 0) {
        const gestureKey = `move-${held.owners[0]!.id}`;
        edit(`move ${held.name}`, moveOwners(held.owners, shiftBy(dx, dy)), { gestureKey });
        held.moved = wanted;
      }
      const { units } = currentProject();
      host.say({
        x,
        y,
        text: `${formatLength(wanted[0], units)} right, ${formatLength(wanted[1], units)} up`,
      });
    },
    up() {
      held = null;
      endGesture();
      host.say(null);
    },
  };
}
