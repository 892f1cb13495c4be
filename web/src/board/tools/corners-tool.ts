import {
  findBody,
  massLevels,
  type MassShape,
  moveCorner,
  normalFootprint,
  type OwnerRef,
  removeCorner,
  reshapeBody,
  splitEdge,
} from '@dial-shade/core';
import { currentProject, edit, endGesture } from '../../state/project-store';
import { useView } from '../../state/view-store';
import { type BoardTool, choose, onGround, snappedAt, type ToolHost } from './host';

/** A corner of a footprint, or (between) the middle of an edge, where a new corner can be pulled out. */
export interface Handle {
  ring: number;
  index: number;
  between: boolean;
  at: [number, number, number];
}

const REACH_PX = 12;

/** The handles of the body that is chosen. */
export function cornerHandles(body: MassShape): Handle[] {
  const { outer, holes } = normalFootprint(body.footprint);
  const z = massLevels(body, currentProject().site.ground).floorM + 0.05;
  return [outer, ...holes].flatMap((ring, r) =>
    ring.flatMap((p, index): Handle[] => {
      const q = ring[(index + 1) % ring.length]!;
      return [
        { ring: r, index, between: false, at: [p[0], p[1], z] },
        { ring: r, index, between: true, at: [(p[0] + q[0]) / 2, (p[1] + q[1]) / 2, z] },
      ];
    }),
  );
}

/** The body whose corners can be dragged, with who it is. */
export function chosenBody(): { owner: OwnerRef; body: MassShape } | null {
  const { selection } = useView.getState();
  const body = selection && findBody(currentProject(), selection);
  return body ? { owner: { optionId: selection.optionId, id: selection.id }, body } : null;
}

/** Drags corners of the chosen body; from the middle of an edge a new corner comes out. Delete takes the last one away. */
export function cornersTool(host: ToolHost): BoardTool {
  let held: { handle: Handle; owner: OwnerRef } | null = null;
  let last: { ring: number; index: number } | null = null;
  const near = (x: number, y: number): Handle | null => {
    const chosen = chosenBody();
    let best: Handle | null = null;
    let least = REACH_PX;
    for (const handle of chosen ? cornerHandles(chosen.body) : []) {
      const at = host.view.toScreen(handle.at);
      const distance = Math.hypot(at.x - x, at.y - y);
      if (!at.behind && distance < least) [best, least] = [handle, distance];
    }
    return best;
  };
  return {
    down(x, y) {
      const handle = near(x, y);
      const chosen = chosenBody();
      if (!handle || !chosen) return false;
      held = { handle, owner: chosen.owner };
      if (handle.between) {
        const gestureKey = 'corner';
        edit(
          'add a corner',
          reshapeBody(chosen.owner, (b) => splitEdge(b, handle.ring, handle.index)),
          { gestureKey },
        );
        held.handle = { ...handle, index: handle.index + 1, between: false };
      }
      last = { ring: held.handle.ring, index: held.handle.index };
      return true;
    },
    drag(x, y) {
      if (!held) return;
      const { handle, owner } = held;
      const z = handle.at[2] - 0.05;
      const raw = onGround(host, x, y, z);
      const body = findBody(currentProject(), owner);
      if (!raw || !body) return;
      const { outer, holes } = normalFootprint(body.footprint);
      const ring = [outer, ...holes][handle.ring]!;
      const beside = ring.filter((_, i) => i !== handle.index);
      const to = snappedAt(host, x, y, [], z);
      const own = ring[handle.index]!;
      // A corner does not snap to where it was itself.
      const p = to && Math.hypot(to.p[0] - own[0], to.p[1] - own[1]) > 1e-9 ? to.p : null;
      const grid = (v: number) => Math.round(v * 4) / 4;
      const at = p ?? ([grid(raw[0]), grid(raw[1])] as const);
      if (beside.some((q) => Math.hypot(q[0] - at[0], q[1] - at[1]) < 0.05)) return;
      edit(
        'drag a corner',
        reshapeBody(owner, (b) => moveCorner(b, handle.ring, handle.index, at)),
        {
          gestureKey: 'corner',
        },
      );
      host.say({ x, y, text: `${at[0].toFixed(2)}, ${at[1].toFixed(2)}` });
    },
    up() {
      held = null;
      endGesture();
      host.say(null);
    },
    move(x, y) {
      const handle = near(x, y);
      host.say(handle && { x, y, text: handle.between ? 'Drag out a new corner' : 'Drag this corner' });
    },
    click(x, y, event) {
      const handle = near(x, y);
      if (!handle) choose(host, x, y, event.shiftKey);
    },
    key(event) {
      const chosen = chosenBody();
      if (event.key !== 'Delete' && event.key !== 'Backspace') return false;
      if (last && chosen) {
        const { ring, index } = last;
        edit(
          'remove a corner',
          reshapeBody(chosen.owner, (b) => removeCorner(b, ring, index)),
        );
        last = null;
      }
      return true;
    },
  };
}
